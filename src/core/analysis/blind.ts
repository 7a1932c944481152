/** A comparison in which nobody knows which is which. */

/** Of two versions, the one that is played as first, and the one that was preferred. */
export interface BlindRound {
  first: 'now' | 'other';
  preferred: 'now' | 'other';
}

export interface BlindVerdict {
  now: number;
  other: number;
  /** How likely a split at least as uneven is by mere chance (two-sided binomial test with even odds), 0 to 1. */
  chance: number;
}

function binomial(n: number, k: number): number {
  let c = 1;
  for (let i = 0; i < k; i++) c = (c * (n - i)) / (i + 1);
  return c;
}

/** @example chanceOf(10, 9) // 0.0215: nine or more of ten, either way */
export function chanceOf(rounds: number, preferred: number): number {
  const most = Math.max(preferred, rounds - preferred);
  let tail = 0;
  for (let k = most; k <= rounds; k++) tail += binomial(rounds, k);
  return Math.min(1, (2 * tail) / 2 ** rounds);
}

export function verdictOf(rounds: readonly BlindRound[]): BlindVerdict {
  const now = rounds.filter((r) => r.preferred === 'now').length;
  return { now, other: rounds.length - now, chance: chanceOf(rounds.length, now) };
}

/** Under this a preference is hardly chance. */
const SURE = 0.05;
const HINT = 0.2;

/** @example verdictWords({ now: 9, other: 1, chance: 0.021 }, 'as imported') // 'You preferred it as it is now in 9 of 10 rounds: ...' */
export function verdictWords({ now, other, chance }: BlindVerdict, otherName: string): string {
  const n = now + other;
  if (n === 0) return '';
  if (now === other) return `Each was preferred in ${now} of ${n} rounds: no difference was heard.`;
  const [most, name] = now > other ? [now, 'it as it is now'] : [other, otherName];
  const percent = chance < 0.001 ? 'under 0.1' : (chance * 100).toFixed(chance < 0.1 ? 1 : 0);
  const how = chance < SURE ? 'hardly chance' : chance < HINT ? 'a hint' : 'may well be chance';
  return `You preferred ${name} in ${most} of ${n} rounds: ${how} (chance alone gives a split this uneven in ${percent} % of such tests).`;
}
