import type { Part } from '@/core/model/part';
import { partStore, type PartStore } from './part-store';
import { versionStore, type VersionStore } from './version-store';

/**
 * Puts a part that was made of a file on the Shelf, with the song that it came from, and keeps how it came as a version.
 * @returns its id
 */
export async function keepImport(
  part: Part,
  song: Uint8Array | undefined,
  store: PartStore = partStore,
  versions: VersionStore = versionStore,
): Promise<string> {
  const id = await store.create(part, song ? { song } : {});
  await versions.keepImported(id, part);
  return id;
}
