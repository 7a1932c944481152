import { SOUNDS } from '@/core/onsets/stroke-net';
import type { Answered } from './passes';

/** How well strokes are named. */
export interface NamingScore {
  strokes: number;
  /** Every drum of a stroke is named and no other. */
  right: number;
  /** The same with hats and bright ones as one kind. */
  rightCoarse: number;
  /** The likeliest is struck. */
  first: number;
  /** By sound: twice the right ones over the named and the struck. */
  f: readonly number[];
  /** By tenths of how sure it is over 0.5: how many, and how many of them are right. */
  sure: readonly { count: number; said: number; right: number }[];
}

/** The kinds that are named: the likeliest and all above 50 %. */
export const namedOf = (chances: readonly number[]): boolean[] => {
  const best = Math.max(...chances);
  return chances.map((p) => p === best || p > 0.5);
};

export const sureOf = (chances: readonly number[]): number => {
  const named = namedOf(chances);
  return chances.reduce((all, p, k) => all * (named[k] ? p : 1 - p), 1);
};

/** Scores the plain strokes that were struck. */
export function scoreNaming(answers: readonly Answered[], chances: readonly (readonly (readonly number[])[])[]): NamingScore {
  let [strokes, right, rightCoarse, first] = [0, 0, 0, 0];
  const counts = SOUNDS.map(() => ({ named: 0, struck: 0, both: 0 }));
  const sure = Array.from({ length: 5 }, () => ({ count: 0, said: 0, right: 0 }));
  const [hat, bright] = [SOUNDS.indexOf('hat'), SOUNDS.indexOf('bright')];
  const coarse = (list: readonly boolean[]): boolean[] =>
    list.flatMap((x, k) => (k === bright ? [] : [k === hat ? x || Boolean(list[bright]) : x]));
  const same = (a: readonly boolean[], b: readonly boolean[]): boolean => a.every((x, i) => x === b[i]);
  answers.forEach(({ loop }, l) =>
    loop.examples.forEach(({ plain, truth }, i) => {
      const struck = truth.map((t) => t !== null);
      if (!plain || !struck.includes(true)) return;
      const own = (chances[l] as (readonly number[])[])[i] as readonly number[];
      const named = namedOf(own);
      strokes++;
      const isRight = same(named, struck);
      if (isRight) right++;
      if (same(coarse(named), coarse(struck))) rightCoarse++;
      if (struck[own.indexOf(Math.max(...own))]) first++;
      const tenth = sure[Math.min(4, Math.floor((sureOf(own) - 0.5) * 10))];
      if (tenth) {
        tenth.count++;
        tenth.said += sureOf(own);
        if (isRight) tenth.right++;
      }
      counts.forEach((c, k) => {
        if (named[k]) c.named++;
        if (struck[k]) c.struck++;
        if (named[k] && struck[k]) c.both++;
      });
    }),
  );
  return {
    strokes,
    right: right / strokes,
    rightCoarse: rightCoarse / strokes,
    first: first / strokes,
    f: counts.map(({ named, struck, both }) => (2 * both) / (named + struck)),
    sure: sure.map(({ count, said, right: of }) => ({ count, said: said / count, right: of / count })),
  };
}

export function toldScore(what: string, { strokes, right, rightCoarse, first, f, sure }: NamingScore): string {
  const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;
  return [
    `${what}: ${strokes} strokes, wholly right ${percent(right)} (${percent(rightCoarse)} with hats and bright as one), first name ${percent(first)}`,
    `  F ${SOUNDS.map((s, k) => `${s} ${(f[k] as number).toFixed(3)}`).join(', ')}`,
    `  sure ${sure.map((t) => (t.count > 0 ? `${t.said.toFixed(2)} is right in ${t.right.toFixed(2)} of ${t.count}` : '-')).join('; ')}`,
  ].join('\n');
}
