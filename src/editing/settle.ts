/** What may be half done in this tab, each with how it is brought to an end: null, or why that cannot be. */
const settlers = new Set<() => string | null>();

/** Names something that may be half done; the result takes it back. */
export function mayBeHalfDone(settle: () => string | null): () => void {
  settlers.add(settle);
  return () => settlers.delete(settle);
}

/** Keeps all that is under way as edits of their own. @returns why that cannot be, or null */
export function settleAll(): string | null {
  for (const settle of settlers) {
    const reason = settle();
    if (reason !== null) return reason;
  }
  return null;
}
