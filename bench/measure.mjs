// Medians of interleaved runs: both sides of a ratio meet the same noise of the machine.
export const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

export function compare(run, baseline, rounds = 21) {
  const a = [];
  const b = [];
  for (let i = 0; i < rounds + 3; i++) {
    const t0 = performance.now();
    run();
    const t1 = performance.now();
    baseline();
    const t2 = performance.now();
    if (i >= 3) {
      a.push(t1 - t0);
      b.push(t2 - t1);
    }
  }
  return { value: median(a), baseline: median(b) };
}

const round = (n) => Math.round(n * 1000) / 1000;

/** Prints one measurement; `ok` where the ratio is within the bar (at least, where the bar is a floor). */
export function say(name, value, unit, baseline, bar, floor = false) {
  const ratio = value / baseline;
  console.log(JSON.stringify({ name, value: round(value), unit, baseline: round(baseline), ratio: round(ratio), bar, ok: floor ? ratio >= bar : ratio <= bar }));
}
