/**
 * Solves a symmetric positive definite system with two bands on either side by Cholesky's method (Golub and Van Loan, Matrix Computations,
 * 4.3.5), in place and in linear time.
 * @param middle the diagonal @param first one beside it, one shorter counts @param second two beside it
 * @param right the right side; the solution afterwards
 */
export function solveBanded(middle: Float64Array, first: Float64Array, second: Float64Array, right: Float64Array): void {
  const n = middle.length;
  for (let i = 0; i < n; i++) {
    let d = middle[i] as number;
    if (i >= 1) d -= (first[i - 1] as number) ** 2;
    if (i >= 2) d -= (second[i - 2] as number) ** 2;
    const root = Math.sqrt(Math.max(d, 1e-12));
    middle[i] = root;
    if (i + 1 < n) {
      const cross = i >= 1 ? (second[i - 1] as number) * (first[i - 1] as number) : 0;
      first[i] = ((first[i] as number) - cross) / root;
    }
    if (i + 2 < n) second[i] = (second[i] as number) / root;
  }
  for (let i = 0; i < n; i++) {
    let value = right[i] as number;
    if (i >= 1) value -= (first[i - 1] as number) * (right[i - 1] as number);
    if (i >= 2) value -= (second[i - 2] as number) * (right[i - 2] as number);
    right[i] = value / (middle[i] as number);
  }
  for (let i = n - 1; i >= 0; i--) {
    let value = right[i] as number;
    if (i + 1 < n) value -= (first[i] as number) * (right[i + 1] as number);
    if (i + 2 < n) value -= (second[i] as number) * (right[i + 2] as number);
    right[i] = value / (middle[i] as number);
  }
}
