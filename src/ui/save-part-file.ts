import type { Part } from '@/core/model/part';
import { partStore } from '@/storage/part-store';
import { download, fileNameOf } from './download';

/** Hands a part that the store does not take to the user as a part file, with its song where that can still be read. */
export async function savePartFile(id: string, part: Part): Promise<void> {
  // Loaded when it is asked for: what writes files checks them, too.
  const { PART_FILE_ENDING, writePartFile } = await import('@/formats/part-file');
  const song = await partStore.song(id).catch(() => undefined);
  download(writePartFile({ part, ...(song ? { song } : {}) }), `${fileNameOf(part.name)}${PART_FILE_ENDING}`, 'application/json');
}
