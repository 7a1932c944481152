import type { VoiceName } from '../row-names';
import { distance, isByHand, placeOf, strikerOf, type KitLayout, type DrumPosition, type Striker } from './kit';
import { HAND_LIMITS, isTime, momentsOf, playedBy, SLACK_MS, type Conflict, type HandLimits, type TimedStroke } from './limits';

/** Right or left hand, right or left foot. */
export const LIMBS = ['R', 'L', 'RF', 'LF'] as const;
export type PlayerLimb = (typeof LIMBS)[number];

/** A stroke that a hand or foot is looked for. */
export interface HandStroke extends TimedStroke {
  /** It stands on an eighth: the leading hand's. */
  strong: boolean;
}

export interface Handed {
  limits?: HandLimits;
  /** The hand that leads; its foot kicks. Default right. */
  lead?: 'right' | 'left';
  /** Where drums stand and who strikes them, where that is not as usual. */
  kit?: KitLayout;
}

/** What a stroke costs a hand. Within so many milliseconds the way from the last place counts, less and less. */
const TRAVEL_MS = 600;
const TRAVEL_COST = 1;
/** The same hand twice within this. */
const REPEAT_MS = 260;
const REPEAT_COST = 1.8;
/** Hands that cross, but for the leading one on the hat over the snare. */
const CROSS_COST = 0.5;
const CROSSED = 0.25;
/** The other hand's beats, and the time kept by the weak hand. */
const ROLE_COST = 0.14;
const TIME_COST = 0.18;
/** No hand is back: only where nothing else is left. */
const IMPOSSIBLE = 1e6;

/** When and where a hand struck last; `ms` -Infinity before its first. */
export interface HandState {
  ms: number;
  voice: VoiceName;
}

/** What costs go by. */
export interface Rules {
  limits: HandLimits;
  placeOf: (voice: VoiceName) => DrumPosition;
  strikerOf: (voice: VoiceName) => Striker;
}

/** What was said of a voice, kept: it is asked for many times. */
function remembered<T>(of: (voice: VoiceName) => T): (voice: VoiceName) => T {
  const known = new Map<VoiceName, T>();
  return (voice) => {
    let answer = known.get(voice);
    if (answer === undefined) known.set(voice, (answer = of(voice)));
    return answer;
  };
}

export const rulesOf = ({ limits = HAND_LIMITS, kit }: Handed = {}): Rules => ({
  limits,
  placeOf: remembered((voice) => placeOf(voice, kit)),
  strikerOf: remembered((voice) => strikerOf(voice, kit)),
});

/**
 * What it costs a hand to strike: the way it comes in the time there is, itself again in fast succession, crossing the other, and beats
 * that are the other hand's.
 * @param leads the leading hand @param own where it was @param other where the other hand is
 */
export function costOf(
  stroke: HandStroke,
  leads: boolean,
  own: HandState,
  other: HandState,
  { limits, placeOf: placeFor, strikerOf: strikerFor }: Rules,
): number {
  const since = stroke.ms - own.ms;
  let cost = since < limits.hand - SLACK_MS || strikerFor(stroke.voice) === (leads ? 'other-hand' : 'lead-hand') ? IMPOSSIBLE : 0;
  const place = placeFor(stroke.voice);
  if (since < TRAVEL_MS) cost += TRAVEL_COST * distance(place, placeFor(own.voice)) * (1 - since / TRAVEL_MS);
  if (since < REPEAT_MS) cost += REPEAT_COST * (1 - since / REPEAT_MS);
  if (stroke.ms - other.ms < TRAVEL_MS) {
    const [lead, weak] = leads ? [place, placeFor(other.voice)] : [placeFor(other.voice), place];
    const leadVoice = leads ? stroke.voice : other.voice;
    if (lead.x < weak.x - CROSSED && !isTime(leadVoice)) cost += CROSS_COST;
  }
  if (stroke.strong !== leads) cost += ROLE_COST;
  return !leads && isTime(stroke.voice) ? cost + TIME_COST : cost;
}

/** A state of both hands on the way; what is longer ago than anything counts is forgotten, so that states stay few. */
interface Way {
  lead: HandState;
  weak: HandState;
  cost: number;
  /** Its number among all. */
  n: number;
}

const FRESH: HandState = { ms: -Infinity, voice: '' };
const kept = (hand: HandState, ms: number): HandState => (ms - hand.ms >= TRAVEL_MS ? FRESH : hand);
const keyOf = ({ lead, weak }: Pick<Way, 'lead' | 'weak'>): string => `${lead.ms}${lead.voice}|${weak.ms}${weak.voice}`;

/** Who plays what, by least effort over all of it. */
export interface Sticking<S extends HandStroke> {
  /** The limb of each stroke that finds one. */
  limbs: ReadonlyMap<S, PlayerLimb>;
  conflicts: Conflict<S>[];
}

/**
 * Gives each stroke a limb: hands by the cheapest way through all moments (a shortest path whose states are where both hands were and
 * when),
 * feet as they are free. Linear in the strokes, since what is over 600 ms ago makes no state of its own.
 * @param strokes by time
 */
export function stickingOf<S extends HandStroke>(strokes: readonly S[], handed: Handed = {}): Sticking<S> {
  const rules = rulesOf(handed);
  const { conflicts, taken } = playedBy(strokes, rules.limits, handed.kit);
  const hands = strokes.filter((s) => taken.get(s) === 'hand');
  const { leads, refused } = sharedOut(hands, rules);
  const limbs = new Map<S, PlayerLimb>();
  const right = handed.lead !== 'left';
  const named = { R: right ? 'R' : 'L', L: right ? 'L' : 'R', RF: right ? 'RF' : 'LF', LF: right ? 'LF' : 'RF' } as const;
  for (const [stroke, by] of taken) if (by !== 'hand') limbs.set(stroke, named[by]);
  for (const [stroke, isLead] of leads) limbs.set(stroke, isLead ? named.R : named.L);
  return { limbs, conflicts: refused.length === 0 ? conflicts : withRefused(conflicts, refused, strokes, rules) };
}

/**
 * The cheapest way, and the strokes that even it can give no hand: where one hand alone may strike a drum, two free hands are not
 * enough. As few as can be are refused; they bind no hand.
 */
function sharedOut<S extends HandStroke>(hands: readonly S[], rules: Rules): { leads: Map<S, boolean>; refused: S[] } {
  const leads = cheapest(hands, rules);
  if (!hands.some((s) => rules.strikerOf(s.voice) !== 'hands')) return { leads, refused: [] };
  const refused = refusedBy(hands, leads, rules);
  if (refused.length === 0) return { leads, refused };
  const gone = new Set(refused);
  return {
    leads: cheapest(
      hands.filter((s) => !gone.has(s)),
      rules,
    ),
    refused,
  };
}

/** The strokes of a way that cost what nobody can. */
function refusedBy<S extends HandStroke>(hands: readonly S[], leads: ReadonlyMap<S, boolean>, rules: Rules): S[] {
  let [lead, weak] = [FRESH, FRESH];
  return hands.filter((stroke) => {
    const isLead = leads.get(stroke) === true;
    const [own, other] = isLead ? [lead, weak] : [weak, lead];
    const isRefused = costOf(stroke, isLead, own, other, rules) >= IMPOSSIBLE;
    if (isLead) lead = stroke;
    else weak = stroke;
    return isRefused;
  });
}

/** One entry a moment, by time. */
function withRefused<S extends HandStroke>(
  conflicts: readonly Conflict<S>[],
  refused: readonly S[],
  strokes: readonly S[],
  rules: Rules,
): Conflict<S>[] {
  const moments = new Map(momentsOf(strokes).flatMap((moment) => moment.map((s) => [s, moment] as const)));
  const found = new Map(conflicts.map((c) => [moments.get(c.stroke), c]));
  for (const stroke of refused) {
    const moment = moments.get(stroke) as S[];
    if (!found.has(moment))
      found.set(moment, {
        kind: isTime(stroke.voice) ? 'busy' : 'too-fast',
        stroke,
        moment,
        among: moment.filter((s) => isByHand(rules.strikerOf(s.voice))),
        by: 'hand',
      });
  }
  return [...found.values()].sort((a, b) => a.stroke.ms - b.stroke.ms);
}

/** For each stroke whether the leading hand plays it. */
function cheapest<S extends HandStroke>(strokes: readonly S[], rules: Rules): Map<S, boolean> {
  const moments = momentsOf(strokes);
  const before: number[] = [-1];
  /** Of each way whether its moment's first stroke is the leading hand's. */
  const leads: boolean[] = [true];
  let ways: Way[] = [{ lead: FRESH, weak: FRESH, cost: 0, n: 0 }];
  for (const moment of moments) {
    const best = new Map<string, Way & { from: number; first: boolean }>();
    for (const way of ways) {
      for (const first of [true, false]) {
        const next = struck(way, moment, first, rules);
        const key = keyOf(next);
        const known = best.get(key);
        if (!known || next.cost < known.cost) best.set(key, { ...next, n: 0, from: way.n, first });
      }
    }
    ways = [...best.values()].map(({ from, first, ...way }) => {
      before.push(from);
      leads.push(first);
      return { ...way, n: before.length - 1 };
    });
  }
  let at = ways.reduce((a, b) => (b.cost < a.cost ? b : a)).n;
  const found = new Map<S, boolean>();
  for (let m = moments.length - 1; m >= 0; m--) {
    const first = leads[at] as boolean;
    // Of two at once each hand has one.
    (moments[m] as S[]).forEach((stroke, i) => found.set(stroke, i === 0 ? first : !first));
    at = before[at] as number;
  }
  return found;
}

/** A way one moment on: its first stroke by the leading hand or not, a second one by the other. */
export function struck(
  way: Pick<Way, 'lead' | 'weak' | 'cost'>,
  moment: readonly HandStroke[],
  first: boolean,
  rules: Rules,
): Pick<Way, 'lead' | 'weak' | 'cost'> {
  let { lead, weak, cost } = way;
  moment.forEach((stroke, i) => {
    const leads = i === 0 ? first : !first;
    cost += costOf(stroke, leads, leads ? lead : weak, leads ? weak : lead, rules);
    const now = { ms: stroke.ms, voice: stroke.voice };
    if (leads) lead = now;
    else weak = now;
  });
  const { ms } = moment[moment.length - 1] as HandStroke;
  return { lead: kept(lead, ms), weak: kept(weak, ms), cost };
}
