/** The kinds of our own files, each with what it is called. */
export const FILE_WORDS = {
  part: 'a part',
  groove: 'a groove',
  feel: 'a feel',
  kit: 'a drum map',
  pattern: 'a pattern',
  target: 'an output map',
} as const;
export type FileKind = keyof typeof FILE_WORDS;

/** Which of our files a JSON text is, by the format that it names; null for everything else. The name of a file tells nothing. */
export function kindOfFile(text: string): FileKind | null {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return null;
  }
  const format = typeof data === 'object' && data !== null ? (data as { format?: unknown }).format : null;
  const found = typeof format === 'string' ? /^nod-sway\/(part|groove|feel|kit|pattern|target)@/.exec(format) : null;
  return found ? (found[1] as FileKind) : null;
}
