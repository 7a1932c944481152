import * as Comlink from 'comlink';
import { findBeats, type BeatReading } from '@/core/beats/find-beats';
import { followPlayer } from '@/core/free-takes/follow';
import type { Count } from '@/core/free-takes/adjust-count';
import { strokesOfPart } from '@/core/free-takes/strokes-of-part';
import type { Part } from '@/core/model/part';
import { outcome, type Outcome } from './outcome';
import { sayReady } from './ready';

/** Finds the beats of what was played without a click, away from the interface. */
const api = {
  /** How a part may be counted, the likeliest first. @param taps seconds at which the first beats of a bar were tapped */
  readings: (part: Part, taps: readonly number[], tell: (done: number) => void): Outcome<BeatReading[]> =>
    outcome(
      () =>
        findBeats(strokesOfPart(part), {
          taps,
          onProgress: (done) => {
            tell(done);
            return true;
          },
        }) ?? [],
    ),
  follow: (part: Part, count: Count, zero: 'kept' | 'cut'): Outcome<Part> => outcome(() => followPlayer(part, count, zero)),
};

export type BeatsApi = typeof api;

Comlink.expose(api);
sayReady();
