import { NamedError } from '@/core/errors';
import type { Lane } from '@/core/model/part';
import { DRUM_CHANNEL, type LaneContent } from '@/core/smf/lanes';
import { MAX_FILE_BYTES } from '@/core/smf/read';
import { readLanes } from './clients';

/** A file whose drums are not plainly on channel 10: the user picks from its lanes. */
export interface LaneQuestion {
  fileName: string;
  lanes: LaneContent[];
  bytes: Uint8Array;
}

/** A MIDI file with the lanes of its drums, or the question which they are. */
export type OpenedMidi = { kind: 'lanes'; bytes: Uint8Array; lanes: readonly Lane[] } | { kind: 'ask'; question: LaneQuestion };

/** A file's name without its ending. */
export const baseName = (fileName: string): string =>
  fileName
    .replace(/\.(midi?|nodsway\.json|nodgroove\.json|json)$/i, '')
    .replace(/[_-]+/g, ' ')
    .trim() || 'Untitled part';

/** Finds the drums of a MIDI file. @throws NamedError file-too-large, not-midi, no-notes */
export async function openMidi(file: File, signal?: AbortSignal): Promise<OpenedMidi> {
  if (file.size > MAX_FILE_BYTES) throw new NamedError('file-too-large', { bytes: file.size });
  const bytes = new Uint8Array(await file.arrayBuffer());
  const { format, lanes } = await readLanes(bytes, signal);
  if (lanes.length === 0) throw new NamedError('no-notes');
  const drums = lanes.filter((lane) => lane.channel === DRUM_CHANNEL);
  // Format 2 holds independent tracks: one of them is the part.
  const plain = format === 2 ? drums.filter((lane) => lane.track === drums[0]?.track) : drums;
  return plain.length === 0 ? { kind: 'ask', question: { fileName: file.name, lanes, bytes } } : { kind: 'lanes', bytes, lanes: plain };
}
