// Medians of interleaved runs: both sides of a ratio meet the same noise of the machine. Each starts with a clean heap, so that
// neither pays for the other's garbage.
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

setFlagsFromString('--expose-gc');
const gc = runInNewContext('gc');
export const collectGarbage = () => gc({ type: 'minor' });

export const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

export function compare(run, baseline, rounds = 21) {
  const a = [];
  const b = [];
  for (let i = 0; i < rounds + 3; i++) {
    const value = time(run);
    const base = time(baseline);
    if (i >= 3) {
      a.push(value);
      b.push(base);
    }
  }
  return { value: median(a), baseline: median(b) };
}

export function time(run) {
  collectGarbage();
  const start = performance.now();
  run();
  return performance.now() - start;
}

const round = (n) => Math.round(n * 1000) / 1000;

/** Prints one measurement; `ok` where the ratio is within the bar (at least, where the bar is a floor). */
export function say(name, value, unit, baseline, bar, floor = false) {
  const ratio = value / baseline;
  console.log(
    JSON.stringify({
      name,
      value: round(value),
      unit,
      baseline: round(baseline),
      ratio: round(ratio),
      bar,
      ok: floor ? ratio >= bar : ratio <= bar,
    }),
  );
}
