import type { Lane } from '@/core/model/part';
import { isSoundPath } from '@/core/samples/sound-path';
import { bringIn, broughtWords, type BroughtIn } from '@/storage/bring-in';
import { keepImport } from '@/storage/keep-import';
import { partStore, type PartStore } from '@/storage/part-store';
import { versionStore, type VersionStore } from '@/storage/version-store';
import { readPart } from '@/workers/clients';
import { baseName, openMidi, type LaneQuestion } from '@/workers/midi-file';
import { benchOf } from './places';

/** Where to go with what was brought in (null: stay), or what has to be asked first. */
export type ImportStep = { kind: 'done'; place: string | null; notices: string[] } | { kind: 'ask'; question: LaneQuestion };

/**
 * Takes a dropped file to where it belongs: our own formats by what they are, MIDI on to the Shelf, after asking which lanes carry the
 * drums where that is open.
 */
export async function importFile(file: File, signal?: AbortSignal, store: PartStore = partStore): Promise<ImportStep> {
  if (isOurs(file)) return placed(await bringIn(await file.text(), file.name));
  if (isSound(file)) return importSound(file, signal, store);
  const opened = await openMidi(file, signal);
  if (opened.kind === 'ask') return opened;
  return importLanes({ fileName: file.name, bytes: opened.bytes }, opened.lanes, signal, store);
}

/** Whether a file is sound: named so, or with a WAV file's first letters. */
const isSound = (file: File): boolean => isSoundPath(file.name) || file.type.startsWith('audio/wav') || file.type.startsWith('audio/x-wav');

/** A recorded loop becomes a part that plays it; the Bench listens to it. */
async function importSound(file: File, signal: AbortSignal | undefined, store: PartStore): Promise<ImportStep> {
  const [{ bringBreak }, { partOfBreak }, { sayArrived }] = await Promise.all([
    import('@/breaks/bring-break'),
    import('@/core/breaks/edit'),
    import('@/breaks/arrived'),
  ]);
  const { of, notes } = await bringBreak(file, signal ?? new AbortController().signal);
  const id = await keepImport(partOfBreak(of), undefined, store);
  sayArrived(id);
  return { kind: 'done', place: benchOf(id), notices: [...notes] };
}

export const isOurs = (file: File): boolean => /\.json$/i.test(file.name) || file.type === 'application/json';

function placed(brought: BroughtIn): ImportStep {
  if (brought.kind === 'part') return { kind: 'done', place: benchOf(brought.id as string), notices: [] };
  return {
    kind: 'done',
    place: brought.kind === 'groove' ? `/grooves?groove=${brought.id as string}` : null,
    notices: [broughtWords(brought)],
  };
}

/** Makes the part of the chosen lanes and keeps the whole song beside it. */
export async function importLanes(
  { fileName, bytes }: Pick<LaneQuestion, 'fileName' | 'bytes'>,
  chosen: readonly Lane[],
  signal?: AbortSignal,
  store: PartStore = partStore,
  versions: VersionStore = versionStore,
): Promise<ImportStep> {
  const lanes = chosen.map(({ track, channel }) => ({ track, channel }));
  const { part, notices } = await readPart(bytes, baseName(fileName), fileName, lanes, signal);
  const id = await keepImport(part, bytes, store, versions);
  return { kind: 'done', place: benchOf(id), notices };
}
