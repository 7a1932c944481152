import { exportFolder } from '@/storage/export-folder';
import { download } from './download';
import { isAllowed } from './folder-leave';

/** A file for the user. */
export interface Delivered {
  data: Blob | Uint8Array | string;
  fileName: string;
  type: string;
}

/**
 * Gives a file to the user: into the folder that was chosen for exports, else as a download. A file that is there already is not
 * written over: the new one gets a number.
 * @returns where it went, in words
 */
export async function deliver({ data, fileName, type }: Delivered): Promise<string> {
  const folder = await exportFolder.get().catch(() => undefined);
  if (!folder || !(await isAllowed(folder, 'readwrite').catch(() => false))) {
    download(data, fileName, type);
    return `${fileName} was downloaded.`;
  }
  try {
    const free = await freeName(folder, fileName);
    const file = await (await folder.getFileHandle(free, { create: true })).createWritable();
    await file.write(data as FileSystemWriteChunkType);
    await file.close();
    return `${free} is in ${folder.name}.`;
  } catch {
    // The folder is gone, or full.
    download(data, fileName, type);
    return `${folder.name} could not be written to: ${fileName} was downloaded.`;
  }
}

async function freeName(folder: FileSystemDirectoryHandle, fileName: string): Promise<string> {
  const [, stem = fileName, ending = ''] = /^(.*?)(\.[^ ]+)?$/.exec(fileName) ?? [];
  for (let n = 1; ; n++) {
    const name = n === 1 ? fileName : `${stem} ${n}${ending}`;
    const isThere = await folder.getFileHandle(name).then(
      () => true,
      () => false,
    );
    if (!isThere) return name;
  }
}
