/**
 * k hits as evenly as they go over n steps, rotated: step s is hit where (s x k) mod n < k, the rounding of a straight line, which
 * gives the patterns of E. Bjorklund's algorithm (G. Toussaint, "The Euclidean Algorithm Generates Traditional Musical Rhythms",
 * 2005) up to rotation.
 * @param rotation steps to the right; any whole number
 * @example evenSpread(3, 8, 0) // [0, 3, 6]
 */
export function evenSpread(k: number, n: number, rotation: number): number[] {
  const hits = Math.max(0, Math.min(n, Math.round(k)));
  const steps: number[] = [];
  for (let s = 0; s < n; s++) {
    const from = (((s - rotation) % n) + n) % n;
    if ((from * hits) % n < hits) steps.push(s);
  }
  return steps;
}
