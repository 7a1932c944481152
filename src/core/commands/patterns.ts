/** Patterns taken out of a part, and put into another. */
import { homesOf, homeTest } from '../homes/homes';
import { GENERAL_MIDI_KIT } from '../key-map';
import { shortName } from '../limits';
import { EMPTY_FEEL } from '../model/feel';
import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import type { HitPattern, PatternHit } from '../model/pattern';
import { replaceHits } from '../part/diff';
import { lockTest } from '../part/locks';
import { labelOfRow } from '../part/rows';
import { meterMapOf } from '../part/part-time';
import { ticks, TICKS_PER_WHOLE } from '../units';
import type { VoiceName } from '../row-names';
import { putCopies, type Copied, type Onto } from './copy';
import { atTick, keyInPart } from './place';

/**
 * Some hits as a pattern. It starts at the bar line that the first of them belongs to, and is as long as their bars.
 * @returns null without hits
 */
export function patternOf(part: Part, ids: ReadonlySet<HitId>, name: string): HitPattern | null {
  const homes = homesOf(part).ticks;
  const map = meterMapOf(part);
  const chosen = part.hits.flatMap((hit, i) => (ids.has(hit.id) ? [{ hit, home: homes[i] as number }] : []));
  if (chosen.length === 0) return null;
  const bars = chosen.map(({ home }) => map.barAt(ticks(home)).index);
  const first = map.barOf(Math.min(...bars));
  const end = map.barOf(Math.max(...bars) + 1).start;
  const voices = [...new Set(chosen.map(({ hit }) => hit.voice))];
  return {
    format: 'nod-sway/pattern@2',
    name: shortName(name),
    meter: [first.meter.numerator, first.meter.denominator],
    length: ticks(end - first.start),
    rows: Object.fromEntries(voices.map((v) => [v, labelOfRow(part, v)])),
    hits: chosen.map(({ hit }): PatternHit => {
      const {
        id: _id,
        lane: _lane,
        locked: _locked,
        alone: _alone,
        variation: _variation,
        ...rest
      } = atTick(hit, ticks(hit.tick - first.start));
      return rest;
    }),
  };
}

/** A pattern as a part by itself, to be heard or seen. @param microsecondsPerQuarter its tempo */
export function partOfPattern(pattern: HitPattern, microsecondsPerQuarter = 600_000): Part {
  const [numerator, denominator] = pattern.meter;
  const bar = (numerator * TICKS_PER_WHOLE) / denominator;
  const rows = Object.entries(pattern.rows).map(([voice, name]) => ({ voice, name }));
  return {
    format: 'nod-sway/part@6',
    name: pattern.name,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter }],
    meter: [{ tick: ticks(0), numerator, denominator }],
    origin: ticks(0),
    bars: Math.max(1, Math.ceil(pattern.length / bar)),
    kitMap: GENERAL_MIDI_KIT,
    rows,
    hits: pattern.hits.map((hit, i): Hit => ({ ...hit, id: `p${i}` })).sort(compareHits),
    feel: EMPTY_FEEL,
  };
}

export interface PatternPlace {
  /** Its first bar, from 0. */
  bar: number;
  /** Beside what is there, or instead of it: of the pattern's rows and bars alone. */
  way: 'beside' | 'instead';
  /** The row that a pattern of one row goes to; its own without it. */
  row?: VoiceName;
}

/** What came of it, with the hits that it took the place of. */
export interface PutPattern extends Copied {
  /** Hits of its rows that were there before. */
  cleared: number;
}

/**
 * Puts a pattern into a part, at its tempo and in its meter: strokes keep their distance in beats. A row that is new is made. Locked hits
 * stay. The part grows where it is needed.
 */
export function putPattern(part: Part, pattern: HitPattern, { bar, way, row }: PatternPlace, newId: () => HitId): PutPattern {
  const start = meterMapOf(part).barOf(bar).start;
  const end = start + pattern.length;
  const voices = new Set(pattern.hits.map((h) => h.voice));
  const target = voices.size === 1 ? row : undefined;
  const covered = new Set<HitId>();
  if (way === 'instead') {
    const isLocked = lockTest(part);
    const homes = homesOf(part).ticks;
    const within = homeTest(part, start, end);
    part.hits.forEach((hit, i) => {
      if ((target ? hit.voice === target : voices.has(hit.voice)) && within(homes[i] as number) && !isLocked(hit)) covered.add(hit.id);
    });
  }
  const copies = pattern.hits.map((hit): Hit => {
    const voice = target ?? hit.voice;
    return {
      ...atTick({ ...hit, id: newId() }, ticks(hit.tick + start)),
      voice,
      key: voice === hit.voice ? hit.key : keyInPart(part, voice),
    };
  });
  const onto: Onto = way === 'beside' ? 'join' : 'replace';
  const cleared = { ...part, hits: replaceHits(part.hits, covered, []) };
  const put = putCopies(cleared, copies, onto);
  return { ...put, part: withNames(put.part, pattern), cleared: covered.size };
}

/** New rows of the user's own get the names that they had. */
function withNames(part: Part, { rows }: HitPattern): Part {
  return {
    ...part,
    rows: part.rows.map((r) =>
      r.voice.startsWith('own:') && r.name === undefined && rows[r.voice] ? { ...r, name: rows[r.voice] as string } : r,
    ),
  };
}
