/** Changes in time order, as maps of tempo and meter need them; a list that is in order comes back as it is. */
export function inTimeOrder<T extends { tick: number }>(changes: readonly T[]): readonly T[] {
  const isSorted = changes.every((c, i) => i === 0 || (changes[i - 1] as T).tick <= c.tick);
  return isSorted ? changes : [...changes].sort((a, b) => a.tick - b.tick);
}
