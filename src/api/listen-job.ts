import { readWav } from '@/core/audio/read-wav';
import { isNamedError, type ErrorCode } from '@/core/errors';
import { learnGroove, rowsTellTiming, type LearnOptions } from '@/core/learn/learn';
import type { Groove } from '@/core/model/groove';
import { MOST_SECONDS } from '@/core/limits';
import { listenTo, monoOf, type HeardLoop } from '@/core/onsets/listen';
import { countedBy, partOfStrokes, readingFor, soundsOf } from '@/core/onsets/part-of-strokes';

/** A sound to listen to. */
export interface ListenJob {
  bytes: Uint8Array;
  sensitivity?: number;
  /** A groove is learnt from it. */
  groove?: { bars?: number; meter?: readonly [number, number]; firstDownbeat?: number; options: LearnOptions };
}

/** What was heard or learnt; or by which of the core's errors it failed. */
export type ListenResult = { heard: HeardLoop } | { groove: Groove } | { failed: { code: ErrorCode; details?: unknown } };

/** Listens to a WAV file. */
export function runListen({ bytes, sensitivity, groove }: ListenJob): ListenResult {
  try {
    const { rate, channels } = readWav(bytes, MOST_SECONDS);
    const mono = monoOf({ left: channels[0] as Float32Array, right: channels[1] });
    const heard = listenTo(mono, rate, sensitivity);
    if (!groove) return { heard };
    const first = heard.readings[0];
    const { bars = first?.bars ?? 1, meter = first?.meter ?? [4, 4], firstDownbeat = first?.firstDownbeat ?? 0, options } = groove;
    const part = partOfStrokes(
      soundsOf(heard.onsets),
      countedBy(readingFor(heard.readings, heard.seconds, { bars, meter, firstDownbeat })),
      options.name ?? 'Extracted groove',
    );
    return { groove: learnGroove(part, { levels: 'rows', perVoice: rowsTellTiming(part), ...options }) };
  } catch (e) {
    if (isNamedError(e)) return { failed: { code: e.code, details: e.details } };
    throw e;
  }
}
