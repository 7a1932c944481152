import type { Seconds } from '../units';
import type { SampleId } from './own-sound';

/** A recording that is heard beside a part while it is worked on; it is in no export. */
export interface Backing {
  /** By what it holds. */
  sample: SampleId;
  name: string;
  seconds: Seconds;
  /** Where in the recording the part's first bar begins; before 0 it starts later than the part. -60 to 600. */
  firstDownbeat: Seconds;
  /** In dB. */
  level: number;
  /** Later is positive, -200 to 200 ms: what is left between the two. */
  offsetMs: number;
  muted?: boolean;
}

export const BACKING = {
  level: { min: -60, max: 6, usual: -6 },
  offsetMs: { min: -200, max: 200 },
  firstDownbeat: { min: -60, max: 600 },
} as const;
