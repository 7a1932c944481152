import { voiceOfRow, type VoiceName } from '../row-names';
import { isByHand, strikerOf, type KitLayout, type Striker } from './kit';

/**
 * What a drummer cannot play at a moment: two hands, two feet, and no limb back sooner than it can be. Strokes within 12 ms are one moment.
 */

/**
 * How soon limbs are back, in milliseconds; a stroke right then is playable. The fastest hand that was measured strikes about ten times a
 * second,
 * drummers seven, others five (S. Fujii, K. Kudo, T. Ohtsuki, S. Oda, Neuroscience Letters 459, 2009): 90 ms is beyond what is usual, so
 * that
 * what is marked is surely too fast.
 */
export interface HandLimits {
  hand: number;
  foot: number;
}

export const HAND_LIMITS: HandLimits = { hand: 90, foot: 110 };

/** A moment reaches so far from its first stroke, in milliseconds. */
export const MOMENT_MS = 12;
/** Times are sums of floating point. */
export const SLACK_MS = 1e-6;

/** A stroke at a time. */
export interface TimedStroke {
  ms: number;
  /** Its row: what strikes it goes by its voice. */
  voice: VoiceName;
}

/**
 * hands: three hand strokes at once; busy: the same, though it could be played without its hats and rides, or a hat or ride finds no hand;
 * feet: more kicks and pedals at once than feet; open-hat: an open hat while its foot is elsewhere; too-fast: no limb is back in time.
 */
export const CONFLICT_KINDS = ['hands', 'busy', 'feet', 'too-fast', 'open-hat'] as const;
export type ConflictKind = (typeof CONFLICT_KINDS)[number];

export interface Conflict<S extends TimedStroke> {
  kind: ConflictKind;
  /** The stroke that finds no limb. */
  stroke: S;
  /** All strokes of its moment. */
  moment: readonly S[];
  /** Those of them that need the same limbs. */
  among: readonly S[];
  by: 'hand' | 'foot';
}

/** What strikes a stroke: either hand, or a foot of a right-handed kit. */
export type Taken = 'hand' | 'RF' | 'LF';

export const isTime = (voice: VoiceName): boolean => /^(hat|ride)/.test(voice);
const isOpenHat = (voice: VoiceName): boolean => voiceOfRow(voice) === 'hat-open' || voiceOfRow(voice) === 'hat-half';

/** When each limb struck last, and what each stroke was given. */
interface Limbs<S> {
  hands: [number, number];
  right: number;
  left: number;
  taken: Map<S, Taken>;
}

/** Strokes that fall together, by time. */
export function momentsOf<S extends TimedStroke>(strokes: readonly S[]): S[][] {
  const moments: S[][] = [];
  for (let from = 0; from < strokes.length;) {
    const start = (strokes[from] as S).ms;
    let to = from + 1;
    while (to < strokes.length && (strokes[to] as S).ms - start <= MOMENT_MS + SLACK_MS) to++;
    moments.push(strokes.slice(from, to));
    from = to;
  }
  return moments;
}

/** Who may play what, and what nobody can. */
export interface LimbAssignment<S extends TimedStroke> {
  conflicts: Conflict<S>[];
  /** The limb of each stroke that finds one. */
  taken: ReadonlyMap<S, Taken>;
}

/**
 * Gives strokes to limbs; every moment that cannot be played is one conflict, and strokes that found no limb bind none.
 * @param strokes by time
 */
export function playedBy<S extends TimedStroke>(
  strokes: readonly S[],
  limits: HandLimits = HAND_LIMITS,
  kit: KitLayout = {},
): LimbAssignment<S> {
  const limbs: Limbs<S> = { hands: [-Infinity, -Infinity], right: -Infinity, left: -Infinity, taken: new Map() };
  const conflicts = momentsOf(strokes).flatMap((moment) => play(moment, limbs, limits, kit) ?? []);
  return { conflicts, taken: limbs.taken };
}

/** Every moment that cannot be played, one entry a moment. @param strokes by time */
export const conflictsOf = <S extends TimedStroke>(strokes: readonly S[], limits: HandLimits = HAND_LIMITS): Conflict<S>[] =>
  playedBy(strokes, limits).conflicts;

/** Gives a moment's strokes to limbs; the first that finds none is its conflict. */
function play<S extends TimedStroke>(moment: readonly S[], limbs: Limbs<S>, limits: HandLimits, kit: KitLayout): Conflict<S> | null {
  const byHand = moment.filter((s) => isByHand(strikerOf(s.voice, kit)));
  const hands = strikeByHand(moment, byHand, limbs, limits);
  const feet = strikeByFoot(
    moment,
    byHand.find((s) => isOpenHat(s.voice)),
    limbs,
    limits,
    kit,
  );
  return hands ?? feet;
}

function strikeByHand<S extends TimedStroke>(
  moment: readonly S[],
  strokes: readonly S[],
  limbs: Limbs<S>,
  limits: HandLimits,
): Conflict<S> | null {
  if (strokes.length > 2) {
    const bare = strokes.filter((s) => !isTime(s.voice));
    const third = strokes[2] as S;
    // Without what keeps time it could be played: the others take the hands.
    if (bare.length <= 2) {
      strikeByHand(moment, bare, limbs, limits);
      return { kind: 'busy', stroke: strokes.find((s) => isTime(s.voice)) as S, moment, among: strokes, by: 'hand' };
    }
    for (const s of strokes.slice(0, 2)) takeHand(limbs, s, limits);
    return { kind: 'hands', stroke: third, moment, among: strokes, by: 'hand' };
  }
  let conflict: Conflict<S> | null = null;
  // What keeps time waits for the rest: it is what is left out first.
  for (const s of [...strokes].sort((a, b) => Number(isTime(a.voice)) - Number(isTime(b.voice)))) {
    if (!takeHand(limbs, s, limits))
      conflict ??= { kind: isTime(s.voice) ? 'busy' : 'too-fast', stroke: s, moment, among: strokes, by: 'hand' };
  }
  return conflict;
}

/** The hand that struck last of those that are back: the other stays freer. */
function takeHand<S extends TimedStroke>({ hands, taken }: Limbs<S>, stroke: S, { hand }: HandLimits): boolean {
  const free = ([0, 1] as const).filter((h) => stroke.ms - hands[h] >= hand - SLACK_MS);
  const best = free.sort((a, b) => hands[b] - hands[a])[0];
  if (best === undefined) return false;
  hands[best] = stroke.ms;
  taken.set(stroke, 'hand');
  return true;
}

function strikeByFoot<S extends TimedStroke>(
  moment: readonly S[],
  openHat: S | undefined,
  limbs: Limbs<S>,
  { foot }: HandLimits,
  kit: KitLayout,
): Conflict<S> | null {
  const of = (...strikers: Striker[]): S[] => moment.filter((s) => strikers.includes(strikerOf(s.voice, kit)));
  const [kicks, pedals] = [of('feet', 'kick-foot'), of('hat-foot')];
  const among = [...kicks, ...pedals];
  const right = (s: S) => {
    limbs.right = s.ms;
    limbs.taken.set(s, 'RF');
  };
  const left = (s: S) => {
    limbs.left = s.ms;
    limbs.taken.set(s, 'LF');
  };
  if (openHat && (pedals.length > 0 || kicks.length > 1)) {
    for (const s of kicks.slice(0, 1)) right(s);
    return { kind: 'open-hat', stroke: openHat, moment, among: [...among, openHat], by: 'foot' };
  }
  if (pedals.length > 1 || kicks.length > 2 || kicks.length + pedals.length > 2)
    return { kind: 'feet', stroke: among.at(-1) as S, moment, among, by: 'foot' };
  let conflict: Conflict<S> | null = null;
  const isBack = (last: number, ms: number): boolean => ms - last >= foot - SLACK_MS;
  for (const s of pedals) {
    if (isBack(limbs.left, s.ms)) left(s);
    else conflict ??= { kind: 'too-fast', stroke: s, moment, among, by: 'foot' };
  }
  for (const s of kicks) {
    // The right foot first; the left one helps where it is not on the pedal.
    if (isBack(limbs.right, s.ms)) right(s);
    else if (isBack(limbs.left, s.ms) && !openHat && strikerOf(s.voice, kit) === 'feet') left(s);
    else conflict ??= { kind: 'too-fast', stroke: s, moment, among, by: 'foot' };
  }
  return conflict;
}
