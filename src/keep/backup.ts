import { isNamedError } from '@/core/errors';
import type { LibraryEntry } from '@/formats/library-file';
import { LibraryWriter } from '@/formats/library-zip';
import { fileNameOf } from '@/ui/download';
import type { Here } from './kinds/kind';
import { KINDS } from './kinds/all';

/** A library file, and what could not go into it. */
export interface Backup {
  blob: Blob;
  /** How many things of each kind are in it. */
  counts: Readonly<Record<string, number>>;
  /** What no longer reads here, each with the reason. */
  left: readonly { name: string; why: string }[];
}

/**
 * Writes the library, or (`parts`: ids) some parts with the sounds and recordings that they need. What no longer reads is left out and
 * named; everything else is in it.
 * @param onProgress from 0 to 1
 * @throws NamedError library-too-large, store-refused
 */
export async function makeBackup(
  here: Here,
  parts: readonly string[] | null,
  onProgress: (done: number) => void = () => undefined,
  at = Date.now(),
): Promise<Backup> {
  const only = parts && new Set(parts);
  const packed = (await Promise.all(Object.values(KINDS).map((kind) => kind.here(here, only)))).flat();
  const zip = new LibraryWriter();
  const entries: LibraryEntry[] = [];
  const left: { name: string; why: string }[] = [];
  const paths = new Set<string>();
  for (const [i, { entry, folder, ending, data }] of packed.entries()) {
    onProgress(i / packed.length);
    const made = await data().catch((e: unknown) => {
      // The store as a whole refusing is not this thing's fault.
      if (!isNamedError(e) || e.code === 'store-refused') throw e;
      left.push({ name: entry.name, why: e.message });
      return null;
    });
    if (!made) continue;
    const file = freePath(`${folder}/${fileNameOf(entry.name)}`, ending, paths);
    await zip.add(file, made.file);
    for (const { path, blob } of made.beside ?? []) {
      // Kits may share recordings.
      if (!paths.has(path)) await zip.add(path, blob);
      paths.add(path);
    }
    entries.push({ ...entry, file });
  }
  const counts: Record<string, number> = {};
  for (const { kind } of entries) counts[kind] = (counts[kind] ?? 0) + 1;
  return { blob: await zip.close({ format: 'nod-sway/library@1', madeAt: at, entries }), counts, left };
}

/** @example freePath('parts/late', '.json', taken) // 'parts/late-2.json' where that is taken */
function freePath(base: string, ending: string, taken: Set<string>): string {
  for (let n = 1; ; n++) {
    const path = `${base}${n > 1 ? `-${n}` : ''}${ending}`;
    if (taken.has(path)) continue;
    taken.add(path);
    return path;
  }
}
