import { samplesOf, type OwnSound, type SampleId } from '@/core/model/own-sound';
import type { Part } from '@/core/model/part';
import { sourceOfRow } from '@/core/playback/sources';
import { soundStore } from '@/storage/sound-store';
import { ownSounds } from './own';

/** The user's own sounds that play a part, each once: those of its kit first. */
export function soundsUsed(part: Part): OwnSound[] {
  const { lookup } = ownSounds.getState();
  const found = new Map(part.rows.flatMap((row) => sourceOfRow(part, row.voice, lookup).own ?? []).map((s) => [s.id, s]));
  return [...found.values()].sort((a, b) => Number(b.kit === part.ownKit?.id) - Number(a.kit === part.ownKit?.id));
}

/** Their recordings, from the store. */
export const recordingsOf = (sounds: readonly OwnSound[]): Promise<Map<SampleId, Uint8Array<ArrayBuffer>>> => soundStore.readAll(samplesOf(sounds));
