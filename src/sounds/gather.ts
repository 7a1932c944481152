import type { ChosenFile } from '@/workers/sounds.worker';
import { NamedError } from '@/core/errors';
import { KIT_LIMITS } from '@/core/limits';
import { isSoundPath } from '@/core/samples/sound-path';

/** Files as they come from a drop, a choice or a folder, each with the folders it lies in. */

/** What was chosen in a field for files or for a folder. */
export const chosenIn = (list: readonly File[]): ChosenFile[] => list.map((file) => ({ path: file.webkitRelativePath || file.name, file }));

/** Whether a drop carries folders, which have to be walked. Must be asked while the drop is handled. */
export function gatherDrop(transfer: DataTransfer): Promise<ChosenFile[]> {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry() ?? []);
  const files = [...transfer.files];
  if (!entries.some((e) => e.isDirectory)) return Promise.resolve(files.map((file) => ({ path: file.name, file })));
  return walkEntries(entries);
}

const tooMany = (entries: number): NamedError => new NamedError('too-many-sounds', { entries, most: KIT_LIMITS.entries });

async function walkEntries(entries: readonly FileSystemEntry[]): Promise<ChosenFile[]> {
  const found: ChosenFile[] = [];
  const waiting = [...entries];
  for (let entry = waiting.shift(); entry; entry = waiting.shift()) {
    const path = entry.fullPath.replace(/^\//, '');
    if (entry.isFile)
      found.push({ path, file: await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed)) });
    else waiting.push(...(await entriesOf((entry as FileSystemDirectoryEntry).createReader())));
    if (found.length + waiting.length > KIT_LIMITS.entries) throw tooMany(found.length + waiting.length);
  }
  return found;
}

/** All entries of a folder: the browser gives some at a time. */
async function entriesOf(reader: FileSystemDirectoryReader): Promise<FileSystemEntry[]> {
  const all: FileSystemEntry[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
    if (some.length === 0) return all;
    all.push(...some);
  }
}

/** The sound files in a folder that stays where it is. */
export async function walkFolder(folder: FileSystemDirectoryHandle): Promise<{ path: string; handle: FileSystemFileHandle }[]> {
  const found: { path: string; handle: FileSystemFileHandle }[] = [];
  const waiting: { under: string; handle: FileSystemDirectoryHandle }[] = [{ under: '', handle: folder }];
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    for await (const [name, handle] of (next.handle as unknown as { entries(): AsyncIterable<[string, FileSystemHandle]> }).entries()) {
      const path = `${next.under}${name}`;
      if (handle.kind === 'directory') waiting.push({ under: `${path}/`, handle: handle as FileSystemDirectoryHandle });
      else if (isSoundPath(path)) found.push({ path, handle: handle as FileSystemFileHandle });
      if (found.length > MOST_IN_FOLDER) return found;
    }
  }
  return found;
}

/** Of a folder with more sounds than this the first are offered. */
const MOST_IN_FOLDER = 20_000;
