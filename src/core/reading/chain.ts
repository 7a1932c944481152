import { EXCURSIONS, GOES_ON } from './states';

const NX = EXCURSIONS.length;

/** How a cell follows the one before. */
export interface Step {
  /** How likely the base stays. */
  stay: number;
  /** The cells touch: an excursion may go on. */
  touches: boolean;
  /** How likely each excursion begins, none first. */
  fresh: readonly number[];
}

export interface Chain {
  /** By cell: how likely each way to count it is, bases first, then excursions. */
  posterior: Float64Array;
  /** By cell: how likely each base is, excursions or not. */
  bases: Float64Array;
  /** Logarithm of the likelihood of all messages. */
  log: number;
}

/** Chances of each excursion after each, at `from * (NX + 1) + to`. */
function movesOf({ touches, fresh }: Step): Float64Array {
  const moves = new Float64Array((NX + 1) ** 2);
  for (let y = 0; y <= NX; y++) for (let x = 0; x <= NX; x++) moves[y * (NX + 1) + x] = moved(y, x, touches, fresh);
  return moves;
}

/** From an excursion (0: none) to another in the next cell. */
function moved(from: number, to: number, touches: boolean, fresh: readonly number[]): number {
  if (from === 0 || !touches) return fresh[to] as number;
  return to === from ? GOES_ON + (1 - GOES_ON) * (fresh[to] as number) : (1 - GOES_ON) * (fresh[to] as number);
}

/**
 * Forward-backward over a chain of cells, each counted by a base that stays, or by an excursion from it (Rabiner, Proceedings of the IEEE
 * 77, 1989).
 * @param messages by cell: logarithms of what the rows say of each way to count it
 * @param priors of the bases
 */
export function chainOf(steps: readonly Step[], messages: Float64Array, priors: readonly number[]): Chain {
  const nb = priors.length;
  const ne = nb + NX;
  const states = nb * (NX + 1);
  const n = steps.length;
  const alpha = new Float64Array(n * states);
  const emissions = new Float64Array(n * ne);
  /** The way to count a cell that each state is, and its excursion. */
  const wayOf = Int32Array.from({ length: states }, (_, s) => (s < nb ? s : nb + Math.floor(s / nb) - 1));
  const excursionOf = Int32Array.from({ length: states }, (_, s) => Math.floor(s / nb));
  // Most cells follow in one of a few ways.
  const known = new Map<Step, Float64Array>();
  const movesTo = (step: Step): Float64Array => {
    let found = known.get(step);
    if (!found) known.set(step, (found = movesOf(step)));
    return found;
  };
  let log = 0;
  for (let at = 0; at < n; at++) {
    let most = -Infinity;
    for (let e = 0; e < ne; e++) most = Math.max(most, messages[at * ne + e] as number);
    for (let e = 0; e < ne; e++) emissions[at * ne + e] = Math.exp((messages[at * ne + e] as number) - most);
    log += most;
  }
  const excursions = new Float64Array(NX + 1);
  for (let at = 0; at < n; at++) {
    const { stay, fresh } = steps[at] as Step;
    const moves = movesTo(steps[at] as Step);
    const before = (at - 1) * states;
    let total = 0;
    for (let s = 0; s < states; s++) {
      const x = excursionOf[s] as number;
      const b = s - x * nb;
      let reached: number;
      if (at === 0) reached = (priors[b] as number) * (fresh[x] as number);
      else {
        // Reached from the same base, or from any; excursions go on, end, or begin.
        let same = 0;
        let others = 0;
        for (let y = 0; y <= NX; y++) {
          const move = moves[y * (NX + 1) + x] as number;
          same += (alpha[before + y * nb + b] as number) * move;
          others += (excursions[y] as number) * move;
        }
        reached = stay * same + (1 - stay) * (priors[b] as number) * others;
      }
      const value = reached * (emissions[at * ne + (wayOf[s] as number)] as number);
      alpha[at * states + s] = value;
      total += value;
    }
    log += Math.log(total);
    excursions.fill(0);
    for (let s = 0; s < states; s++) {
      const value = (alpha[at * states + s] as number) / total;
      alpha[at * states + s] = value;
      const x = excursionOf[s] as number;
      excursions[x] = (excursions[x] as number) + value;
    }
  }
  const posterior = new Float64Array(n * ne);
  const bases = new Float64Array(n * nb);
  const beta = new Float64Array(states).fill(1);
  const ahead = new Float64Array(states);
  const any = new Float64Array(NX + 1);
  for (let at = n - 1; at >= 0; at--) {
    let total = 0;
    for (let s = 0; s < states; s++) total += (alpha[at * states + s] as number) * (beta[s] as number);
    for (let s = 0; s < states; s++) {
      const p = ((alpha[at * states + s] as number) * (beta[s] as number)) / total;
      const e = at * ne + (wayOf[s] as number);
      posterior[e] = (posterior[e] as number) + p;
      const b = at * nb + s - (excursionOf[s] as number) * nb;
      bases[b] = (bases[b] as number) + p;
    }
    if (at === 0) break;
    const { stay } = steps[at] as Step;
    const moves = movesTo(steps[at] as Step);
    any.fill(0);
    for (let s = 0; s < states; s++) {
      ahead[s] = (beta[s] as number) * (emissions[at * ne + (wayOf[s] as number)] as number);
      const x = excursionOf[s] as number;
      any[x] = (any[x] as number) + (priors[s - x * nb] as number) * (ahead[s] as number);
    }
    let most = 0;
    for (let s = 0; s < states; s++) {
      const y = excursionOf[s] as number;
      const b = s - y * nb;
      let value = 0;
      for (let x = 0; x <= NX; x++)
        value += (moves[y * (NX + 1) + x] as number) * (stay * (ahead[x * nb + b] as number) + (1 - stay) * (any[x] as number));
      beta[s] = value;
      if (value > most) most = value;
    }
    for (let s = 0; s < states; s++) beta[s] = (beta[s] as number) / most;
  }
  return { posterior, bases, log };
}
