import { writeWav } from '@/core/audio/wav';
import type { HeardStrokes } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { hearBreak } from '@/core/onsets/hear-break';
import { monoOf } from '@/core/onsets/listen';
import { USUAL_VOLUME } from '@/core/playback/mixer';
import { readWav } from '@/core/audio/read-wav';
import { renderPart } from '@/core/render/render-part';
import { bpmOf } from '@/core/time/tempo-map';

export const BREAK_RATE = 44_100;

/** A break of ours recorded: a loop that joins itself, and what is heard in it. */
export function recordBreak(part: Part): { wav: Uint8Array<ArrayBuffer>; seconds: number; heard: Omit<HeardStrokes, 'break'> } {
  const { left, right } = renderPart(part, { rate: BREAK_RATE, ending: 'fold', volume: USUAL_VOLUME });
  const [tempo] = part.tempo;
  const wav = writeWav(left, right, {
    rate: BREAK_RATE,
    bits: '16',
    loop: true,
    seed: part.feel.seed,
    ...(tempo ? { tempo: bpmOf(tempo) } : {}),
  }) as Uint8Array<ArrayBuffer>;
  // As whoever drops the file hears it.
  const { channels } = readWav(wav);
  return {
    wav,
    seconds: left.length / BREAK_RATE,
    heard: hearBreak(monoOf({ left: channels[0] as Float32Array, right: channels[1] }), BREAK_RATE),
  };
}
