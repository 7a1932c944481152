/**
 * How well a thing fits what is written, 0 (not at all) to 1: every written word must begin one of its own; those of its sentence count
 * more than those it is searched by, whole words more than beginnings.
 * @example rank('Add humanize', 'human', ['random']) // 0.9
 */
export function rank(text: string, written: string, keywords: string[] = []): number {
  const own = words(text);
  const others = keywords.flatMap(words);
  const scores = words(written).map((w): number =>
    own.includes(w) ? 1 : own.some((o) => o.startsWith(w)) ? 0.9 : others.includes(w) ? 0.8 : others.some((o) => o.startsWith(w)) ? 0.6 : 0,
  );
  return scores.length === 0 ? 1 : scores.includes(0) ? 0 : scores.reduce((a, b) => a + b, 0) / scores.length;
}

const words = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}/]+/u)
    .filter(Boolean);
