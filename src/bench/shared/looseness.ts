/** How loose a deviation in ms sounds; the limits and where they come from are in docs/decisions/08-feel.md. */
export function loosenessWord(ms: number): string {
  if (ms < 3) return 'machine-tight';
  if (ms < 6) return 'tight';
  if (ms < 15) return 'human';
  return ms < 25 ? 'loose' : 'sloppy';
}
