import type { BeatReading } from '@/core/beats/find-beats';
import type { Part } from '@/core/model/part';
import { findBeatsOf, followIn } from '@/workers/clients';

/** Finds how a part is counted and lays its grid. */
export interface BeatFinder {
  find(part: Part, onProgress: (done: number) => void, signal: AbortSignal): Promise<BeatReading[]>;
  follow(part: Part, reading: BeatReading, signal: AbortSignal): Promise<Part>;
}

/** In a worker; what was recorded here begins with its first bar. */
export const workerFinder: BeatFinder = {
  find: (part, onProgress, signal) => findBeatsOf(part, [], onProgress, signal),
  follow: (part, reading, signal) => followIn(part, reading, 'cut', signal),
};
