import { samplesOf, type OwnSound, type SampleId } from '@/core/model/own-sound';
import type { Part } from '@/core/model/part';
import { sourceOfRow } from '@/core/playback/sources';
import { recordingStore } from '@/storage/recording-store';
import { soundStore } from '@/storage/sound-store';
import { ownSounds } from './own';

/** The user's own sounds that play a part, each once: those of its kit first. */
export function soundsUsed(part: Part): OwnSound[] {
  const { lookup } = ownSounds.getState();
  const found = new Map(part.rows.flatMap((row) => sourceOfRow(part, row.voice, lookup).own ?? []).map((s) => [s.id, s]));
  return [...found.values()].sort((a, b) => Number(b.kit === part.ownKit?.id) - Number(a.kit === part.ownKit?.id));
}

/** Their recordings, from the store. */
export const recordingsOf = (sounds: readonly OwnSound[]): Promise<Map<SampleId, Uint8Array<ArrayBuffer>>> =>
  soundStore.readAll(samplesOf(sounds));

/** The recordings of a part's breaks, as far as they are here. */
export async function breakRecordings({ breaks = [] }: Pick<Part, 'breaks'>): Promise<Map<SampleId, Blob>> {
  const found = await Promise.all(
    [...new Set(breaks.map((b) => b.sample))].map(async (sample) => [sample, await recordingStore.read(sample)] as const),
  );
  return new Map(found.flatMap(([sample, blob]) => (blob ? [[sample, blob] as const] : [])));
}
