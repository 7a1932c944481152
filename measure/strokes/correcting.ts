import { strokeGroups, type StrokeName } from '@/core/breaks/alike';
import { printsOf, strokesOfBreak, type BreakStroke } from '@/core/breaks/strokes';
import type { HandMark, HeardStrokes, StrokeKind } from '@/core/model/break';
import { printOf } from '@/core/onsets/alike';
import { packPrint } from '@/core/onsets/print';
import { DB_OF_LOUD, SOUND_KINDS, SOUNDS } from '@/core/onsets/stroke-net';
import type { Answered } from './passes';
import { namedOf, sureOf } from './score';

/** How many actions it takes to name a loop's strokes right: always at the group with most wrong names. */

const MOST_ACTIONS = 60;

const sameKinds = (a: StrokeName, kinds: readonly StrokeKind[]): boolean => {
  const own = a.also ? [a.kind, a.also] : [a.kind];
  return own.length === kinds.length && own.every((k) => kinds.includes(k));
};

/** A loop's strokes as the product keeps them, and of which kinds they truly are: of three kinds two are named. */
function heardOf({ loop, first }: Answered, chances: readonly (readonly number[])[]) {
  const chosen = loop.examples.flatMap((e, i) => (e.plain && e.truth.some((t) => t !== null) ? [i] : []));
  const truths = chosen.map((i) => {
    const kinds = SOUNDS.flatMap((s, k) => (loop.examples[i]?.truth[k] ? [SOUND_KINDS[s]] : []));
    return [...new Set<StrokeKind>(kinds)];
  });
  const names = chosen.map((i) => {
    const named = namedOf(chances[i] as readonly number[]);
    const kinds = [...new Set<StrokeKind>(SOUNDS.filter((_, k) => named[k]).map((s) => SOUND_KINDS[s]))];
    return kinds.sort((a, b) => Number(a === 'hat') - Number(b === 'hat'));
  });
  const heard: Omit<HeardStrokes, 'break'> = {
    at: chosen.map((_, n) => n * 0.1),
    strength: chosen.map(() => 1),
    over: chosen.map(() => 2),
    level: chosen.map(() => 0.1),
    kinds: names.map((n) => n[0] as StrokeKind),
    sure: chosen.map((i) => sureOf(chances[i] as readonly number[])),
    also: names.map((n) => n[1] ?? null),
    prints: chosen.map((i) => {
      const own = first[i] as Float64Array;
      return packPrint(
        printOf({ fresh: Float64Array.from(loop.examples[i]?.fresh ?? []) }),
        SOUNDS.map((sound, k) => ({
          sound,
          likely: (chances[i] as readonly number[])[k] as number,
          loud: DB_OF_LOUD * (own[SOUNDS.length + k] as number),
          late: 0,
        })),
        -20,
      );
    }),
    readings: [],
  };
  return { heard, truths };
}

/** @returns how many names were wrong at first, and the actions until none is; loops of three kinds in one stroke are left out */
export function correcting(
  answer: Answered,
  chances: readonly (readonly number[])[],
): { strokes: number; wrong: number; actions: number } | null {
  const { heard, truths } = heardOf(answer, chances);
  if (truths.some((t) => t.length > 2)) return null;
  const prints = printsOf(heard);
  let hand: HandMark[] = [];
  const numberOf = (s: BreakStroke): number => Number(s.id.slice(1));
  const isWrong = (s: BreakStroke): boolean => !sameKinds(s, truths[numberOf(s)] as StrokeKind[]);
  let first = -1;
  for (let actions = 0; ; actions++) {
    const strokes = strokesOfBreak({ sensitivity: 0.5, hand }, heard);
    const wrong = strokes.filter(isWrong).length;
    if (first < 0) first = wrong;
    if (wrong === 0 || actions === MOST_ACTIONS) return { strokes: truths.length, wrong: first, actions };
    const groups = strokeGroups(strokes, (s) => prints?.[numberOf(s)]);
    const worst = groups.reduce((a, b) => (b.strokes.filter(isWrong).length > a.strokes.filter(isWrong).length ? b : a));
    // All of it gets the name that most of it has, or, where it has that already, those of its hits that share another.
    const nameOf = (s: BreakStroke): string => [...(truths[numberOf(s)] as StrokeKind[])].sort().join();
    const most = (list: readonly BreakStroke[]): BreakStroke[] => {
      const counts = new Map<string, BreakStroke[]>();
      for (const s of list) counts.set(nameOf(s), [...(counts.get(nameOf(s)) ?? []), s]);
      return [...counts.values()].reduce((x, y) => (y.length > x.length ? y : x));
    };
    const usual = most(worst.strokes);
    const isNamedSo = usual.every((s) => !isWrong(s));
    const target = isNamedSo ? most(worst.strokes.filter(isWrong)) : worst.strokes;
    const [kind, also] = [...(truths[numberOf((isNamedSo ? target[0] : usual[0]) as BreakStroke)] as StrokeKind[])].sort(
      (x, y) => Number(x === 'hat') - Number(y === 'hat'),
    );
    for (const s of target) {
      const n = numberOf(s);
      hand = [...hand.filter((m) => m.n !== n), { n, as: kind as StrokeKind, ...(also ? { also } : {}) }];
    }
  }
}
