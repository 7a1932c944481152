import { freshBreak, hearStrokes, partOfBreak } from '@/core/breaks/edit';
import { withVoices } from '@/core/breaks/rows';
import { NamedError } from '@/core/errors';
import type { Part } from '@/core/model/part';
import { shortName } from '@/core/limits';
import { seconds } from '@/core/units';
import { BreakEar, readBreak } from '@/workers/clients';

/**
 * A recorded loop as a part to learn from: its strokes by the likeliest reading. Nothing is kept of it.
 * @param onProgress 0 to 1
 * @throws NamedError empty-file, bad-sound, silent-sound, sound-too-long, no-strokes
 */
export async function partOfSound(file: File, onProgress: (done: number) => void, signal: AbortSignal): Promise<Part> {
  const { sample, blob, seconds: length } = await readBreak(file, signal);
  const ear = new BreakEar();
  signal.addEventListener('abort', () => ear.dispose(), { once: true });
  try {
    await ear.take(blob);
    const heard = await ear.listen(onProgress);
    if (heard.readings.length === 0) throw new NamedError('no-strokes');
    const name = shortName(file.name.replace(/\.[a-z0-9]{2,5}$/i, '') || 'Break');
    return withVoices(hearStrokes(partOfBreak(freshBreak({ id: 'heard', name, sample, seconds: seconds(length) })), 'heard', heard));
  } finally {
    ear.dispose();
  }
}
