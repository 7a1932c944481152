import { isNamedError, NamedError } from '@/core/errors';
import type { EntryKind, LibraryEntry } from '@/formats/library-file';
import { openLibrary } from '@/formats/library-zip';
import type { Here, How, Standing } from './kinds/kind';
import { KINDS } from './kinds/all';

/** One thing of a library file, beside what is here. */
export interface Looked {
  kind: EntryKind;
  name: string;
  /** `broken`: it does not read, and cannot be taken. */
  standing: Standing | 'broken';
  /** When what is here was last changed, and what is in the file; milliseconds since 1970. */
  here?: number;
  there?: number;
  why?: string;
  /** What the file has otherwise. */
  differs?: string;
}

/** What a library file would bring. */
export interface Preview {
  madeAt: number;
  things: readonly Looked[];
}

/** How far work is, is told every so many things. */
const TOLD_EVERY = 50;

/** The entries in the order in which they are taken in. */
const inOrder = (entries: readonly LibraryEntry[]): LibraryEntry[] =>
  Object.keys(KINDS).flatMap((kind) => entries.filter((e) => e.kind === kind));

/**
 * Looks at a library file and changes nothing.
 * @param onProgress from 0 to 1
 * @throws NamedError bad-library, newer-format, library-too-large, store-refused
 */
export async function lookAtLibrary(here: Here, file: Blob, onProgress: (done: number) => void = () => undefined): Promise<Preview> {
  // Reading what there is takes about as long as looking at it.
  const from = await openLibrary(file, (share) => onProgress(share / 2));
  const entries = inOrder(from.list.entries);
  const things: Looked[] = [];
  for (const [i, entry] of entries.entries()) {
    if (i % TOLD_EVERY === 0) onProgress(0.5 + i / entries.length / 2);
    const { kind, name, updatedAt: there } = entry;
    try {
      const { standing, updatedAt, differs } = await KINDS[kind].look(here, entry, from);
      things.push({
        kind,
        name,
        standing,
        ...(updatedAt === undefined ? {} : { here: updatedAt }),
        ...(there === undefined ? {} : { there }),
        ...(differs === undefined ? {} : { differs }),
      });
    } catch (e) {
      if (!isNamedError(e) || e.code === 'store-refused') throw e;
      things.push({ kind, name, standing: 'broken', why: e.message });
    }
  }
  return { madeAt: from.list.madeAt, things };
}

/** What came of it. */
export interface Restored {
  taken: number;
  failed: readonly { name: string; why: string }[];
}

/**
 * Takes things in, each as a whole or not at all: what is not named stays out.
 * @param wishes what is done with the thing of that number in {@link Preview.things}
 * @throws NamedError bad-library, newer-format, store-full (what came before it is here)
 */
export async function restoreLibrary(
  here: Here,
  file: Blob,
  wishes: ReadonlyMap<number, How>,
  onProgress: (done: number) => void = () => undefined,
): Promise<Restored> {
  const from = await openLibrary(file);
  const entries = inOrder(from.list.entries);
  const failed: { name: string; why: string }[] = [];
  let taken = 0;
  for (const [i, entry] of entries.entries()) {
    const how = wishes.get(i);
    if (!how) continue;
    try {
      await KINDS[entry.kind].take(here, entry, from, how);
      taken++;
    } catch (e) {
      if (!isNamedError(e)) throw e;
      if (e.code === 'store-full' || e.code === 'store-refused') throw new NamedError(e.code, { taken });
      failed.push({ name: entry.name, why: e.message });
    }
    onProgress((taken + failed.length) / wishes.size);
  }
  return { taken, failed };
}
