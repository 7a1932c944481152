import { BlobReader, BlobWriter, configure, TextReader, ZipReader, ZipWriter, type FileEntry } from '@zip.js/zip.js/lib/zip-core-native.js';
import { isNamedError, NamedError } from '@/core/errors';
import { LIBRARY_LIMITS, LIBRARY_LIST, readLibraryList, type LibraryList } from './library-file';
import { problemOfPath } from './unzip';

// Whoever calls is off the page already.
configure({ useWebWorkers: false });

const refused = (problem: string): NamedError => new NamedError('bad-library', { problem }, `The library file is refused: ${problem}.`);

/** No text in it is longer. */
const LONGEST_TEXT = 2 ** 28;

/** Writes a library file piece by piece; recordings are packed as they are, since sound hardly shrinks. */
export class LibraryWriter {
  private readonly zip = new ZipWriter(new BlobWriter('application/zip'), {
    keepOrder: true,
    extendedTimestamp: false,
    lastModDate: new Date(1980, 0, 1),
    zip64: false,
    dataDescriptor: false,
  });
  private bytes = 0;
  private files = 0;

  /** @throws NamedError library-too-large */
  async add(path: string, data: string | Blob): Promise<void> {
    this.bytes += typeof data === 'string' ? data.length : data.size;
    if (++this.files > LIBRARY_LIMITS.files || this.bytes > LIBRARY_LIMITS.bytes)
      throw new NamedError('library-too-large', { bytes: this.bytes, files: this.files });
    await (typeof data === 'string' ? this.zip.add(path, new TextReader(data)) : this.zip.add(path, new BlobReader(data), { level: 0 }));
  }

  async close(list: LibraryList): Promise<Blob> {
    await this.add(LIBRARY_LIST, JSON.stringify(list, null, 1));
    return this.zip.close();
  }
}

/** A library file that is open: its list, and its files as they are asked for. */
export interface OpenLibrary {
  list: LibraryList;
  has(path: string): boolean;
  /** @throws NamedError bad-library */
  text(path: string): Promise<string>;
  /** @throws NamedError bad-library */
  blob(path: string): Promise<Blob>;
}

/**
 * Opens a library file. Its files are unpacked one by one, and counted while they are: what the zip says of itself is not believed.
 * @param onProgress hears how much of its directory is read, 0 to 1
 * @throws NamedError bad-library, newer-format, library-too-large
 */
export async function openLibrary(file: Blob, onProgress: (done: number) => void = () => undefined): Promise<OpenLibrary> {
  const entries = await entriesOf(file, onProgress);
  const read = async (path: string, most: number): Promise<Blob> => {
    const entry = entries.get(path);
    if (!entry) throw refused(`${path.slice(0, 80)} is not in it`);
    if (entry.uncompressedSize > most) throw new NamedError('library-too-large', { path, bytes: entry.uncompressedSize });
    const pieces: Uint8Array<ArrayBuffer>[] = [];
    let bytes = 0;
    const sink = new WritableStream<Uint8Array<ArrayBuffer>>({
      write(piece) {
        bytes += piece.length;
        if (bytes > entry.uncompressedSize) throw refused(`${path.slice(0, 80)} unpacks to more than it says`);
        pieces.push(piece.slice());
      },
    });
    try {
      await entry.getData(sink, { checkSignature: true });
    } catch (e) {
      throw isNamedError(e) ? e : refused(`${path.slice(0, 80)} is damaged`);
    }
    if (bytes !== entry.uncompressedSize) throw refused(`${path.slice(0, 80)} ends early`);
    return new Blob(pieces);
  };
  const text = async (path: string): Promise<string> => (await read(path, LONGEST_TEXT)).text();
  if (!entries.has(LIBRARY_LIST)) throw refused('its list is missing');
  return {
    list: readLibraryList(parsed(await text(LIBRARY_LIST)), new Set(entries.keys())),
    has: (path) => entries.has(path),
    text,
    blob: (path) => read(path, LIBRARY_LIMITS.bytes),
  };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw refused('its list is no JSON');
  }
}

/** Told every so many files. */
const TOLD_EVERY = 500;

async function entriesOf(file: Blob, onProgress: (done: number) => void): Promise<Map<string, FileEntry>> {
  const found = new Map<string, FileEntry>();
  const names = new Set<string>();
  let [files, bytes] = [0, 0];
  try {
    // Paths are looked at below, and named.
    for await (const entry of new ZipReader(new BlobReader(file), { filenameValidation: 'tolerant' }).getEntriesGenerator({
      onprogress: (n, total) => (n % TOLD_EVERY === 0 ? void onProgress(n / total) : undefined),
    })) {
      bytes += entry.uncompressedSize;
      if (++files > LIBRARY_LIMITS.files + 1 || bytes > LIBRARY_LIMITS.bytes) throw new NamedError('library-too-large', { bytes, files });
      const problem = problemOfPath(entry.filename);
      if (problem) throw refused(problem);
      if (entry.directory) continue;
      if (entry.encrypted) throw refused('it is locked by a password');
      const same = entry.filename.toLowerCase();
      if (names.has(same)) throw refused(`${entry.filename.slice(0, 80)} is in it twice`);
      names.add(same);
      found.set(entry.filename, entry);
    }
  } catch (e) {
    throw isNamedError(e) ? e : refused('it is no zip, or it is damaged or cut off');
  }
  return found;
}

/** Whether a zip is a library: its list is in it. Anything else, however broken, is not. */
export async function isLibrary(file: Blob): Promise<boolean> {
  try {
    for await (const { filename } of new ZipReader(new BlobReader(file)).getEntriesGenerator()) if (filename === LIBRARY_LIST) return true;
  } catch {
    // What it is, whoever reads it says.
  }
  return false;
}
