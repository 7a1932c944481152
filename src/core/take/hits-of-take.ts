import type { Hit, HitId, Part } from '../model/part';
import { rowsWith } from '../commands/hits';
import { compareHits } from '../model/part';
import { provisionalHome } from '../homes/homes';
import { replaceHits } from '../part/diff';
import { meterMapOf } from '../part/part-time';
import { stepOf } from '../time/grid';
import { ticks } from '../units';
import { playedByKey } from '../breaks/rows';
import { keyOfVoice } from '../key-map';
import type { Take } from '../model/take';
import type { VoiceName } from '../row-names';
import { BY_OPENNESS, isHat } from '../articulation/openness';
import type { FoldedStroke } from './fold';

/** The id of a hit tells which raw event it came from: the link lasts as long as the hit. */
export const hitIdOfEvent = (takeId: string, event: number): HitId => `take:${takeId}:${event}`;

/** @example eventOfHit('take:ab12:7') // { take: 'ab12', event: 7 }; null for hits that were never played */
export function eventOfHit(id: HitId): { take: string; event: number } | null {
  const found = /^take:(.+):(\d+)$/.exec(id);
  return found ? { take: found[1] as string, event: Number(found[2]) } : null;
}

/** Strokes as hits of a part, by its key map; on the chosen rows alone where some are given. */
export function hitsOfStrokes(
  part: Pick<Part, 'kitMap' | 'breaks'>,
  { id: takeId, pieces, meter, origin }: Pick<Take, 'id' | 'pieces' | 'meter' | 'origin'>,
  strokes: readonly FoldedStroke[],
  rows?: ReadonlySet<VoiceName>,
): Hit[] {
  /** The hat that rings. */
  let ringing: VoiceName | null = null;
  const hits: Hit[] = [];
  const map = meterMapOf({ meter, origin });
  for (const s of strokes) {
    const struck = struckBy(part, s, pieces, ringing);
    if (!struck) continue;
    if (!struck.choke) ringing = RINGING_HATS.has(struck.voice) ? struck.voice : CLOSED_HATS.has(struck.voice) ? null : ringing;
    else if (s.foot) ringing = null;
    hits.push({
      id: hitIdOfEvent(takeId, s.event),
      ...struck,
      tick: s.tick,
      home: provisionalHome(map, s.tick),
      length: s.length ?? ticks(stepOf('1/16') / 2),
      velocity: s.velocity,
      ...(s.companions ? { companions: s.companions } : {}),
      ...(s.openness !== undefined && isHat(struck.voice) ? { openness: s.openness } : {}),
      ...(s.position === undefined ? {} : { position: s.position }),
    });
  }
  return hits.filter((h) => !rows || rows.has(h.voice)).sort(compareHits);
}

const RINGING_HATS: ReadonlySet<VoiceName> = new Set(['hat-open', 'hat-half']);
const CLOSED_HATS: ReadonlySet<VoiceName> = new Set(['hat-closed', 'hat-shoulder', 'hat-pedal']);
/** What a hand can grab. */
const CYMBAL = /^(crash|splash|china|ride)/;

/**
 * What a stroke plays: its key's row, the hat as open as its foot has it, the foot's own strokes, or the end of what rings; null for
 * nothing.
 */
export function struckBy(
  part: Pick<Part, 'kitMap' | 'breaks'>,
  { key, hat, foot, grab }: FoldedStroke,
  pieces: string | undefined,
  ringing: VoiceName | null,
): Pick<Hit, 'voice' | 'key' | 'piece' | 'choke'> | null {
  const of = (voice: VoiceName) => ({ voice, key: keyOfVoice(part.kitMap, voice) });
  if (foot === 'damp') return ringing ? { ...of(ringing), choke: true } : null;
  if (foot) return of(foot === 'splash' ? 'hat-splash' : 'hat-pedal');
  const struck = playedByKey(part, key, pieces);
  if (grab) return CYMBAL.test(struck.voice) ? { ...struck, choke: true } : null;
  return hat && Object.values(BY_OPENNESS).includes(struck.voice) && BY_OPENNESS[hat] !== struck.voice ? of(BY_OPENNESS[hat]) : struck;
}

const NONE: ReadonlySet<HitId> = new Set();

/** A part with more hits in it, and rows for them; the rows that are there keep their order. */
export function withHits(part: Part, more: readonly Hit[], keep: (hit: Hit) => boolean = () => true): Part {
  if (more.length === 0 && part.hits.every(keep)) return part;
  const hits = replaceHits(part.hits.filter(keep), NONE, more);
  const rows = rowsWith(part.rows, new Set(more.map((h) => h.voice)));
  return { ...part, hits, rows };
}
