import { newId } from '@/editing/ids';
import { groupPaths } from '@/core/samples/guess';
import { voiceOfPath } from '@/core/samples/names';
import { isSoundPath } from '@/core/samples/sound-path';
import { familyOfVoice, voiceOfRow, type VoiceName } from '@/core/row-names';
import type { FolderRow } from '@/storage/database';
import { isAllowed, pickFolder } from '@/ui/folder-leave';
import { soundStore } from '@/storage/sound-store';
import type { ChosenFile } from '@/workers/sounds.worker';
import { walkFolder } from './gather';

/**
 * Folders that sounds are looked for in: where the browser can keep the way to one it is asked for once, else it is chosen anew in each
 * visit.
 */

/** Files of this visit, by folder and path, for browsers that keep no way to a folder. */
const visited = new Map<string, ReadonlyMap<string, File>>();

/** Asks for a folder and remembers it with what is in it. @returns null where nothing was chosen */
export async function attachFolder(): Promise<FolderRow | null> {
  const handle = await pickFolder('sounds', 'read');
  if (!handle) return null;
  return remember({ id: newId(), name: handle.name, handle, paths: [] });
}

/** Remembers a folder that was chosen file by file. */
export async function attachFiles(files: readonly ChosenFile[]): Promise<FolderRow | null> {
  const sounds = files.filter(({ path }) => isSoundPath(path));
  const [first] = sounds;
  if (!first) return null;
  const row: FolderRow = { id: newId(), name: first.path.split('/')[0] ?? first.path, paths: sounds.map((f) => f.path) };
  visited.set(row.id, new Map(sounds.map(({ path, file }) => [path, file as File])));
  await soundStore.attach(row);
  return row;
}

/** Looks again at what is in a folder. @returns null where the browser does not let us */
export async function remember(folder: FolderRow): Promise<FolderRow | null> {
  if (!folder.handle || !(await isAllowed(folder.handle, 'read'))) return null;
  const row = { ...folder, paths: (await walkFolder(folder.handle)).map((f) => f.path).sort() };
  await soundStore.attach(row);
  return row;
}

/** Whether its files can be read in this visit. */
export const isReadable = (folder: FolderRow): boolean => folder.handle !== undefined || visited.has(folder.id);

/** Some files of a folder; those that are gone are left out. */
export async function filesOf(folder: FolderRow, paths: readonly string[]): Promise<ChosenFile[]> {
  const here = visited.get(folder.id);
  if (here) return paths.flatMap((path) => (here.has(path) ? [{ path, file: here.get(path) as File }] : []));
  if (!folder.handle || !(await isAllowed(folder.handle, 'read'))) return [];
  const found = await Promise.all(paths.map((path) => fileAt(folder.handle as FileSystemDirectoryHandle, path).catch(() => null)));
  return found.filter((f) => f !== null);
}

async function fileAt(folder: FileSystemDirectoryHandle, path: string): Promise<ChosenFile> {
  const names = path.split('/');
  const file = names.pop() as string;
  let at = folder;
  for (const name of names) at = await at.getDirectoryHandle(name);
  return { path, file: await (await at.getFileHandle(file)).getFile() };
}

/** Sounds of a kind in a folder: of the voice itself first, then of its family; files of one sound together. */
export function soundsOfKind(folder: FolderRow, voice: VoiceName): string[][] {
  const kind = voiceOfRow(voice);
  const same: string[] = [];
  const kin: string[] = [];
  for (const path of folder.paths) {
    const found = voiceOfPath(path);
    if (found === kind) same.push(path);
    else if (found && familyOfVoice(kind) !== undefined && familyOfVoice(found) === familyOfVoice(kind)) kin.push(path);
  }
  return groupPaths(same.length > 0 ? same : kin);
}
