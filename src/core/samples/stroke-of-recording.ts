import { atRate } from '../audio/resample';
import type { AudioData } from '../audio/read-wav';
import { amplitudeOf } from '../synth/classes';
import { HEADROOM_DB, tiltOf, type RenderedStroke } from '../synth/stroke';
import { fromBeginning, powerOf } from './recording';

/** A stroke of a recording begins and ends without a step, within so many seconds. */
const RISE = 0.0005;
const FALL = 0.004;
/** At most so much is a soft recording made louder, in dB: its noise with it. */
const MOST_GAIN_DB = 48;

/**
 * Makes a stroke of a recording: from where it begins, at the player's rate, its loudness brought to the law. What a recording of soft
 * strokes lacks in level is made good, since the velocity gives it.
 * @param at the velocity that it is a stroke of, 1 to 127
 * @param rate frames a second
 */
export function strokeOfRecording(recording: AudioData, at: number, rate: number): RenderedStroke {
  const whole = fromBeginning(recording);
  const channels = whole.channels.map((c) => atRate(c, whole.rate, rate));
  const wanted = 10 ** (HEADROOM_DB / 20) * amplitudeOf(at);
  const power = powerOf({ rate, channels });
  const gain = power > 0 ? Math.min(wanted / Math.sqrt(power), 10 ** (MOST_GAIN_DB / 20)) : 0;
  for (const channel of channels) shape(channel, gain, rate);
  const [left, right] = channels as [Float32Array, Float32Array?];
  // A stereo file whose sides are alike is a mono one.
  if (!right || left.every((x, i) => x === right[i])) return { samples: left, ...tiltOf(left, rate) };
  return { samples: left, right, ...tiltOf(left, rate) };
}

function shape(samples: Float32Array, gain: number, rate: number) {
  const [rise, fall] = [Math.round(RISE * rate), Math.round(FALL * rate)];
  const n = samples.length;
  for (let i = 0; i < n; i++) {
    const edge = Math.min(1, i / rise, (n - 1 - i) / fall);
    samples[i] = (samples[i] as number) * gain * edge;
  }
}
