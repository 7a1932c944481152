import { Unzip, UnzipInflate } from 'fflate';
import { NamedError } from '@/core/errors';

/** A file of a zip. */
export interface Unzipped {
  path: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/** What a zip may unpack to. */
export interface ZipLimits {
  entries: number;
  /** Counted while unpacking: what the file says of itself is not believed. */
  bytes: number;
}

const refused = (why: string): NamedError => new NamedError('bad-zip', { problem: why }, `The zip file is refused: ${why}.`);

const PIECE = 16_384;

/** Bytes by which a zip is known. @example isZip(bytes) */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5) && (bytes[3] === 4 || bytes[3] === 6);

/** Null for a path that stays within, or the reason why it does not. */
export function problemOfPath(path: string): string | null {
  const shown = path.slice(0, 80);
  if (path.includes('\0')) return 'a path in it has a zero byte';
  if (path.startsWith('/') || path.startsWith('\\') || /^[a-z]:/i.test(path)) return `${shown} is an absolute path`;
  if (path.split(/[/\\]/).includes('..')) return `${shown} points outside it`;
  return null;
}

/**
 * Unpacks a zip as it streams in; folders are left out.
 * @param isWanted which files are kept; the others are counted alone
 * @throws NamedError bad-zip, too-many-sounds
 */
export async function unzip(
  chunks: AsyncIterable<Uint8Array>,
  { entries: most, bytes: mostBytes }: ZipLimits,
  isWanted: (path: string) => boolean = () => true,
): Promise<Unzipped[]> {
  const files: Unzipped[] = [];
  const names = new Set<string>();
  let [entries, bytes, open] = [0, 0, 0];
  // The first refusal counts: what is thrown within comes back as another error.
  let refusal: NamedError | null = null;
  const refuse = (error: NamedError): never => {
    throw (refusal ??= error);
  };
  const reader = new Unzip((file) => {
    if (++entries > most) refuse(new NamedError('too-many-sounds', { entries, most }));
    const problem = problemOfPath(file.name);
    if (problem) refuse(refused(problem));
    if (file.name.endsWith('/')) return;
    const same = file.name.toLowerCase();
    if (names.has(same)) refuse(refused(`${file.name.slice(0, 80)} is in it twice`));
    names.add(same);
    const pieces: Uint8Array[] = [];
    const wanted = isWanted(file.name);
    open++;
    file.ondata = (error, piece, final) => {
      if (error) refuse(refused(`${file.name.slice(0, 80)} cannot be unpacked`));
      bytes += piece.length;
      if (bytes > mostBytes) refuse(new NamedError('too-many-sounds', { bytes, most: mostBytes }));
      if (wanted) pieces.push(piece);
      if (!final) return;
      open--;
      if (wanted) files.push({ path: file.name, bytes: joined(pieces) });
    };
    try {
      file.start();
    } catch {
      refuse(refused(`${file.name.slice(0, 80)} is packed in a way that is not read`));
    }
  });
  reader.register(UnzipInflate);
  try {
    for await (const chunk of chunks) {
      // A little at a time: what is packed well may unpack to a thousand times as much.
      for (let at = 0; at < chunk.length; at += PIECE) reader.push(chunk.subarray(at, at + PIECE));
    }
    reader.push(new Uint8Array(0), true);
  } catch (e) {
    throw refusal ?? (e instanceof NamedError ? e : refused('it is damaged'));
  }
  if (open > 0 || entries === 0) throw refused(entries === 0 ? 'nothing is in it' : 'it ends early');
  return files;
}

function joined(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(pieces.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const p of pieces) {
    all.set(p, at);
    at += p.length;
  }
  return all;
}
