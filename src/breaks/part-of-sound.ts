import type { Part } from '@/core/model/part';
import { shortName } from '@/core/limits';
import { OnsetDetector, readBreak } from '@/workers/clients';

/**
 * A recorded loop as a part to learn from: all its strokes, also those that fall together, by the likeliest reading. Nothing is kept of it.
 * @param onProgress 0 to 1
 * @throws NamedError empty-file, bad-sound, silent-sound, sound-too-long, no-strokes
 */
export async function partOfSound(file: File, onProgress: (done: number) => void, signal: AbortSignal): Promise<Part> {
  const { blob } = await readBreak(file, signal);
  const ear = new OnsetDetector();
  signal.addEventListener('abort', () => ear.dispose(), { once: true });
  try {
    await ear.take(blob);
    return await ear.partOf(shortName(file.name.replace(/\.[a-z0-9]{2,5}$/i, '') || 'Break'), onProgress);
  } finally {
    ear.dispose();
  }
}
