/** A part's strokes for hands and feet. */
import { listed } from '../plurals';
import { breakRowTest } from '../breaks/rows';
import { conflictsOf, type Conflict, type ConflictKind, type HandLimits, type TimedStroke } from '../hands/limits';
import { isOnEighth } from '../hands/of-hits';
import { stickingOf, type Handed, type HandStroke, type Sticking } from '../hands/sticking';
import type { Hit, Part } from '../model/part';
import { strokesOf } from '../ornament/strokes';
import type { Ornamented } from '../ornament/ornament-spec';
import { labelOfRow } from '../part/rows';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { writtenPerformance } from '../perform/perform';
import { ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';

/** A stroke of a part, with the hit that it is of. */
export interface PartStroke extends HandStroke {
  tick: Ticks;
  /** Index of its hit. */
  hit: number;
  /** 0 for the hit itself; an ornament's further strokes count up. */
  number: number;
  /** It bounces after this one, by the same hand: further grace strokes of a drag. */
  after?: PartStroke;
}

export type PlayablePart = Ornamented & Pick<Part, 'rows' | 'bars' | 'breaks' | 'feel'>;

/**
 * The written strokes of a part by time, ornaments' among them; chokes, rows that play a recording and those that a machine plays need no
 * limbs.
 */
export function strokesForHands(part: PlayablePart): PartStroke[] {
  const strokes = strokesOf(part, writtenPerformance(part));
  const tempo = tempoMapOf(part);
  const map = meterMapOf(part);
  const recorded = breakRowTest(part);
  const machines = new Set(part.rows.flatMap((r) => (r.machine ? [r.voice] : [])));
  const found: PartStroke[] = [];
  for (let s = 0; s < strokes.ticks.length; s++) {
    const hit = part.hits[strokes.hits[s] as number] as Hit;
    const voice = strokes.voices.get(s) ?? hit.voice;
    if (hit.choke || recorded(voice) || machines.has(voice)) continue;
    const tick = ticks(strokes.ticks[s] as number);
    found.push({
      ms: tempo.toSeconds(tick) * 1000,
      voice,
      tick,
      hit: strokes.hits[s] as number,
      number: strokes.numbers[s] as number,
      strong: isOnEighth(map, tick),
    });
  }
  found.sort((a, b) => a.ms - b.ms || a.hit - b.hit || a.number - b.number);
  const firstGrace = new Map<number, PartStroke>();
  for (const stroke of found) {
    if (stroke.number === 0 || part.hits[stroke.hit]?.ornament?.kind !== 'flam') continue;
    const first = firstGrace.get(stroke.hit);
    if (first) stroke.after = first;
    else firstGrace.set(stroke.hit, stroke);
  }
  return found;
}

/** Those that a hand comes for: what only bounces comes along. */
const struck = (strokes: readonly PartStroke[]): PartStroke[] => strokes.filter((s) => s.after === undefined);

/** Who plays what in a part. */
export function stickingOfPart(part: PlayablePart, handed: Handed = {}): Sticking<PartStroke> & { strokes: PartStroke[] } {
  const strokes = strokesForHands(part);
  const { limbs, conflicts } = stickingOf(struck(strokes), handed);
  const all = new Map(limbs);
  for (const stroke of strokes) {
    const limb = stroke.after && limbs.get(stroke.after);
    if (limb) all.set(stroke, limb);
  }
  return { strokes, limbs: all, conflicts };
}

/** What nobody can play in a part. */
export const conflictsInPart = (part: PlayablePart, limits?: HandLimits): Conflict<PartStroke>[] =>
  conflictsOf(struck(strokesForHands(part)), limits);

/** Rows of a moment, each once, in its order. */
export const rowsOfMoment = ({ moment }: Pick<Conflict<TimedStroke>, 'moment'>): VoiceName[] => [...new Set(moment.map((s) => s.voice))];

const low = (part: Pick<Part, 'rows'>, voice: VoiceName): string => labelOfRow(part, voice).toLowerCase();

const WORDS: Readonly<Record<ConflictKind, (part: Pick<Part, 'rows'>, conflict: Conflict<TimedStroke>) => string>> = {
  hands: (part, { among, stroke }) =>
    `more than two hands: ${listed(among.map((s) => low(part, s.voice)))}; none is left for ${low(part, stroke.voice)}`,
  busy: (part, { stroke }) => `${low(part, stroke.voice)} by hand while both hands are elsewhere`,
  feet: (part, { among }) => `more than two feet: ${listed(among.map((s) => low(part, s.voice)))} at once`,
  'too-fast': (part, { stroke, by }) => `${low(part, stroke.voice)} comes before a ${by} can be back`,
  'open-hat': (part, { stroke }) => `${low(part, stroke.voice)} while its foot must be elsewhere`,
};

/** Why a moment cannot be played, in words. @example 'snare comes before a hand can be back' */
export const conflictWords = (part: Pick<Part, 'rows'>, conflict: Conflict<TimedStroke>): string => WORDS[conflict.kind](part, conflict);
