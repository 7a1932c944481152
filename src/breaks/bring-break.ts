import { newIdInPart } from '@/editing/ids';
import { freshBreak } from '@/core/breaks/edit';
import type { Break } from '@/core/model/break';
import { shortName } from '@/core/limits';
import { seconds } from '@/core/units';
import { recordingStore } from '@/storage/recording-store';
import { OnsetDetector, readBreak } from '@/workers/clients';

/** A file's name as a break's. @example nameOfFile('old_break-2.wav') // 'old break 2' */
const nameOfFile = (name: string): string =>
  shortName(
    name
      .replace(/\.[a-z0-9]{2,5}$/i, '')
      .replace(/[_-]+/g, ' ')
      .trim() || 'Break',
  );

/** What came in, with what there is to say of it. */
export interface BroughtBreak {
  of: Break;
  notes: readonly string[];
}

/**
 * Reads a file as a break and keeps its recording; nobody has listened to it yet.
 * @throws NamedError empty-file, bad-sound, silent-sound, sound-too-long, store-full, store-refused
 */
export async function bringBreak(file: File, signal: AbortSignal): Promise<BroughtBreak> {
  const { sample, name, seconds: length, notes } = await bringRecording(file, signal);
  return { of: freshBreak({ id: newIdInPart(), name, sample, seconds: seconds(length) }), notes };
}

/**
 * Reads a file as a recording and keeps it.
 * @throws NamedError as {@link bringBreak}
 */
export async function bringRecording(file: File, signal: AbortSignal) {
  const read = await readBreak(file, signal);
  const name = nameOfFile(file.name);
  await recordingStore.keep({ id: read.sample, blob: read.blob, name, seconds: read.seconds, at: Date.now() });
  return { ...read, name };
}

/** A loop has so many strokes at least, and lasts so long, in seconds. */
const LOOP_STROKES = 6;
const LOOP_SECONDS = 1.5;

/** Whether a file is a loop rather than one drum's sound. What cannot be read is none. */
export async function isLoop(file: File, signal: AbortSignal): Promise<boolean> {
  const ear = new OnsetDetector();
  try {
    const { blob, seconds: length } = await readBreak(file, signal);
    if (length < LOOP_SECONDS) return false;
    await ear.take(blob);
    const { over } = await ear.listen(() => {});
    return over.filter((o) => o >= 1).length >= LOOP_STROKES;
  } catch {
    return false;
  } finally {
    ear.dispose();
  }
}
