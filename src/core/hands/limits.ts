import { limbOf } from '../voices';
import { voiceOfRow, type VoiceName } from '../row-names';

/**
 * What a drummer cannot play at a moment: two hands, two feet, and no limb back sooner than it can be. Strokes within 12 ms are one moment.
 */

/** How soon limbs are back, in milliseconds; a stroke right then is playable. */
export interface HandLimits {
  hand: number;
  foot: number;
}

export const HAND_LIMITS: HandLimits = { hand: 90, foot: 110 };

/** A moment reaches so far from its first stroke, in milliseconds. */
export const MOMENT_MS = 12;
/** Times are sums of floating point. */
const SLACK_MS = 1e-6;

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
export type ConflictKind = 'hands' | 'busy' | 'feet' | 'too-fast' | 'open-hat';

export interface Conflict<S extends TimedStroke> {
  kind: ConflictKind;
  /** The stroke that finds no limb. */
  stroke: S;
  /** All strokes of its moment. */
  moment: readonly S[];
}

const isTime = (voice: VoiceName): boolean => /^(hat|ride)/.test(voice);
const isOpenHat = (voice: VoiceName): boolean => voiceOfRow(voice) === 'hat-open' || voiceOfRow(voice) === 'hat-half';

/** When each limb struck last. */
interface Limbs {
  hands: [number, number];
  right: number;
  left: number;
}

/**
 * Every moment that cannot be played, one entry a moment; strokes that found no limb bind none.
 * @param strokes by time
 */
export function conflictsOf<S extends TimedStroke>(strokes: readonly S[], limits: HandLimits = HAND_LIMITS): Conflict<S>[] {
  const limbs: Limbs = { hands: [-Infinity, -Infinity], right: -Infinity, left: -Infinity };
  const found: Conflict<S>[] = [];
  for (let from = 0; from < strokes.length; ) {
    const start = (strokes[from] as S).ms;
    let to = from + 1;
    while (to < strokes.length && (strokes[to] as S).ms - start <= MOMENT_MS + SLACK_MS) to++;
    const conflict = play(strokes.slice(from, to), limbs, limits);
    if (conflict) found.push(conflict);
    from = to;
  }
  return found;
}

/** Gives a moment's strokes to limbs; the first that finds none is its conflict. */
function play<S extends TimedStroke>(moment: readonly S[], limbs: Limbs, limits: HandLimits): Conflict<S> | null {
  const byHand = moment.filter((s) => limbOf(s.voice) === 'hand');
  const kicks = moment.filter((s) => limbOf(s.voice) === 'kick-foot');
  const pedals = moment.filter((s) => limbOf(s.voice) === 'hat-foot');
  const hands = strikeByHand(moment, byHand, limbs, limits);
  const feet = strikeByFoot(moment, kicks, pedals, byHand.find((s) => isOpenHat(s.voice)), limbs, limits);
  return hands ?? feet;
}

function strikeByHand<S extends TimedStroke>(moment: readonly S[], strokes: readonly S[], limbs: Limbs, limits: HandLimits): Conflict<S> | null {
  if (strokes.length > 2) {
    const bare = strokes.filter((s) => !isTime(s.voice));
    const third = strokes[2] as S;
    // Without what keeps time it could be played: the others take the hands.
    if (bare.length <= 2) {
      strikeByHand(moment, bare, limbs, limits);
      return { kind: 'busy', stroke: strokes.find((s) => isTime(s.voice)) as S, moment };
    }
    for (const s of strokes.slice(0, 2)) takeHand(limbs, s.ms, limits);
    return { kind: 'hands', stroke: third, moment };
  }
  let conflict: Conflict<S> | null = null;
  // What keeps time waits for the rest: it is what is left out first.
  for (const s of [...strokes].sort((a, b) => Number(isTime(a.voice)) - Number(isTime(b.voice)))) {
    if (!takeHand(limbs, s.ms, limits)) conflict ??= { kind: isTime(s.voice) ? 'busy' : 'too-fast', stroke: s, moment };
  }
  return conflict;
}

/** The hand that struck last of those that are back: the other stays freer. */
function takeHand({ hands }: Limbs, ms: number, { hand }: HandLimits): boolean {
  const free = ([0, 1] as const).filter((h) => ms - hands[h] >= hand - SLACK_MS);
  const best = free.sort((a, b) => hands[b] - hands[a])[0];
  if (best === undefined) return false;
  hands[best] = ms;
  return true;
}

function strikeByFoot<S extends TimedStroke>(moment: readonly S[], kicks: readonly S[], pedals: readonly S[], openHat: S | undefined, limbs: Limbs, { foot }: HandLimits): Conflict<S> | null {
  if (openHat && (pedals.length > 0 || kicks.length > 1)) {
    for (const s of kicks.slice(0, 1)) limbs.right = s.ms;
    return { kind: 'open-hat', stroke: openHat, moment };
  }
  if (pedals.length > 1 || kicks.length > 2 || kicks.length + pedals.length > 2) return { kind: 'feet', stroke: [...kicks, ...pedals].at(-1) as S, moment };
  let conflict: Conflict<S> | null = null;
  const isBack = (last: number, ms: number): boolean => ms - last >= foot - SLACK_MS;
  for (const s of pedals) {
    if (isBack(limbs.left, s.ms)) limbs.left = s.ms;
    else conflict ??= { kind: 'too-fast', stroke: s, moment };
  }
  for (const s of kicks) {
    // The right foot first; the left one helps where it is not on the pedal.
    if (isBack(limbs.right, s.ms)) limbs.right = s.ms;
    else if (isBack(limbs.left, s.ms) && !openHat) limbs.left = s.ms;
    else conflict ??= { kind: 'too-fast', stroke: s, moment };
  }
  return conflict;
}
