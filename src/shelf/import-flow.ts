import type { Lane, Part } from '@/core/part/part';
import { GROOVE_FILE_ENDING, readGrooveFile } from '@/formats/groove-format';
import { PART_FILE_ENDING, readPartFile } from '@/formats/part-format';
import { grooveStore, keptNow } from '@/storage/groove-store';
import { partStore, type PartStore } from '@/storage/part-store';
import { versionStore } from '@/storage/version-store';
import { readPart } from '@/workers/clients';
import { baseName, openMidi, type LaneQuestion } from '@/workers/midi-file';

/** Where to go with what was brought in, or what has to be asked first. */
export type ImportStep = { kind: 'done'; place: string; notices: string[] } | { kind: 'ask'; question: LaneQuestion };

export const benchOf = (partId: string): string => `/bench/${encodeURIComponent(partId)}`;

/** Brings a dropped file onto the Shelf, or asks which lanes carry the drums. A groove goes among the grooves. */
export async function importFile(file: File, signal?: AbortSignal, store: PartStore = partStore): Promise<ImportStep> {
  const name = file.name.toLowerCase();
  if (name.endsWith(GROOVE_FILE_ENDING)) return importGrooveFile(file);
  if (name.endsWith(PART_FILE_ENDING) || file.type === 'application/json') return importPartFile(file, store);
  const opened = await openMidi(file, signal);
  if (opened.kind === 'ask') return opened;
  return importLanes({ fileName: file.name, bytes: opened.bytes }, opened.lanes, signal, store);
}

/** Makes the part of the chosen lanes and keeps the whole song beside it. */
export async function importLanes({ fileName, bytes }: Pick<LaneQuestion, 'fileName' | 'bytes'>, chosen: readonly Lane[], signal?: AbortSignal, store: PartStore = partStore): Promise<ImportStep> {
  const lanes = chosen.map(({ track, channel }) => ({ track, channel }));
  const { part, notices } = await readPart(bytes, baseName(fileName), fileName, lanes, signal);
  const id = await store.create(part, { song: bytes });
  return { kind: 'done', place: benchOf(id), notices };
}

async function importPartFile(file: File, store: PartStore): Promise<ImportStep> {
  const { part, song, versions = [] } = readPartFile(await file.text());
  const id = await store.create(part as Part, song ? { song } : {});
  for (const v of versions) await versionStore.keep(id, v.name, v.part, v.at);
  return { kind: 'done', place: benchOf(id), notices: [] };
}

async function importGrooveFile(file: File): Promise<ImportStep> {
  const kept = keptNow(readGrooveFile(await file.text()));
  await grooveStore.put(kept);
  return { kind: 'done', place: `/grooves?groove=${kept.id}`, notices: [] };
}
