import { NamedError } from '@/core/errors';
import type { Lane, Part } from '@/core/part/part';
import { DRUM_CHANNEL, type LaneContent } from '@/core/smf/lanes';
import { MAX_FILE_BYTES } from '@/core/smf/read';
import { versionStore } from '@/storage/version-store';
import { PART_FILE_ENDING, readPartFile } from '@/formats/part-format';
import { partStore, type PartStore } from '@/storage/part-store';
import { readLanes, readPart } from '@/workers/clients';

/** A file whose drums are not plainly on channel 10: the user picks from its lanes. */
export interface LaneQuestion {
  fileName: string;
  lanes: LaneContent[];
  bytes: Uint8Array;
}

export type ImportStep = { kind: 'done'; id: string; notices: string[] } | { kind: 'ask'; question: LaneQuestion };

const baseName = (fileName: string): string => fileName.replace(/\.(midi?|nodsway\.json|json)$/i, '').replace(/[_-]+/g, ' ').trim() || 'Untitled part';

/** Brings a dropped file onto the Shelf, or asks which lanes carry the drums. */
export async function importFile(file: File, signal?: AbortSignal, store: PartStore = partStore): Promise<ImportStep> {
  if (file.name.toLowerCase().endsWith(PART_FILE_ENDING) || file.type === 'application/json') return importPartFile(file, store);
  if (file.size > MAX_FILE_BYTES) throw new NamedError('file-too-large', { bytes: file.size });
  const bytes = new Uint8Array(await file.arrayBuffer());
  const { format, lanes } = await readLanes(bytes, signal);
  if (lanes.length === 0) throw new NamedError('no-notes');
  const drums = lanes.filter((lane) => lane.channel === DRUM_CHANNEL);
  // Format 2 holds independent tracks: one of them is the part.
  const plain = format === 2 ? drums.filter((lane) => lane.track === drums[0]?.track) : drums;
  if (plain.length === 0) return { kind: 'ask', question: { fileName: file.name, lanes, bytes } };
  return importLanes({ fileName: file.name, lanes, bytes }, plain, signal, store);
}

/** Makes the part of the chosen lanes and keeps the whole song beside it. */
export async function importLanes(question: LaneQuestion, chosen: readonly Lane[], signal?: AbortSignal, store: PartStore = partStore): Promise<ImportStep> {
  const lanes = chosen.map(({ track, channel }) => ({ track, channel }));
  const { part, notices } = await readPart(question.bytes, baseName(question.fileName), question.fileName, lanes, signal);
  const id = await store.create(part, { song: question.bytes });
  return { kind: 'done', id, notices };
}

async function importPartFile(file: File, store: PartStore): Promise<ImportStep> {
  const { part, song, versions = [] } = readPartFile(await file.text());
  const id = await store.create(part as Part, song ? { song } : {});
  for (const v of versions) await versionStore.keep(id, v.name, v.part, v.at);
  return { kind: 'done', id, notices: [] };
}
