import { readAt, type Kernel } from '../audio/resample';
import type { VoiceName } from '../row-names';

/** What was started and still rings. */
export interface Ringing {
  sound: number;
  voice: VoiceName | undefined;
  samples: Float32Array;
  /** The right side, where it differs. */
  samplesRight: Float32Array | undefined;
  group: number;
  /** Frames since its start, negative before it. */
  position: number;
  /** Samples a frame: 1 as recorded, 2 an octave up; the kernel where it is not 1. */
  speed: number;
  kernel: Kernel | null;
  left: number;
  right: number;
  send: number;
  /** Factor on what lies above the tilt's frequency; 1 leaves all as it is. */
  tilt: number;
  tiltFactor: number;
  low: number;
  lowRight: number;
  /** The ring's own envelope: its level now, and its factor a frame. */
  ring: number;
  decay: number;
  /** Where a longer ring begins to fade before its samples end, in samples. */
  tailFrom: number;
  /** Frames left, of them so many in a fade; -1 while it rings on. */
  fade: number;
  fadeFrames: number;
}

/**
 * What rings on as it was rendered, tilted at most: nearly all there is. The tilt is a one-pole low-pass of which so much is taken, four
 * frames at a
 * time, since each would wait for the one before: low[n+4] = a^4 low[n] + what the four add.
 */
export function addPlain(r: Ringing, bus: Float64Array, count: number) {
  const { samples, tilt, tiltFactor: b } = r;
  const position = r.position | 0;
  const end = Math.min(count, samples.length - position);
  const a = 1 - b;
  const a2 = a * a;
  const a3 = a2 * a;
  const a4 = a2 * a2;
  const [highLeft, highRight] = [r.left * tilt, r.right * tilt];
  const [lowLeft, lowRight] = [r.left - highLeft, r.right - highRight];
  let { low } = r;
  let i = Math.max(0, -position);
  for (; i + 3 < end; i += 4) {
    const at = position + i;
    const x0 = samples[at] as number;
    const x1 = samples[at + 1] as number;
    const x2 = samples[at + 2] as number;
    const x3 = samples[at + 3] as number;
    const c0 = b * x0;
    const c1 = a * c0 + b * x1;
    const c2 = a * c1 + b * x2;
    const c3 = a * c2 + b * x3;
    const l0 = a * low + c0;
    const l1 = a2 * low + c1;
    const l2 = a3 * low + c2;
    low = a4 * low + c3;
    const to = 2 * i;
    bus[to] = (bus[to] as number) + l0 * lowLeft + x0 * highLeft;
    bus[to + 1] = (bus[to + 1] as number) + l0 * lowRight + x0 * highRight;
    bus[to + 2] = (bus[to + 2] as number) + l1 * lowLeft + x1 * highLeft;
    bus[to + 3] = (bus[to + 3] as number) + l1 * lowRight + x1 * highRight;
    bus[to + 4] = (bus[to + 4] as number) + l2 * lowLeft + x2 * highLeft;
    bus[to + 5] = (bus[to + 5] as number) + l2 * lowRight + x2 * highRight;
    bus[to + 6] = (bus[to + 6] as number) + low * lowLeft + x3 * highLeft;
    bus[to + 7] = (bus[to + 7] as number) + low * lowRight + x3 * highRight;
  }
  for (; i < end; i++) {
    const x = samples[position + i] as number;
    low = a * low + b * x;
    bus[2 * i] = (bus[2 * i] as number) + low * lowLeft + x * highLeft;
    bus[2 * i + 1] = (bus[2 * i + 1] as number) + low * lowRight + x * highRight;
  }
  r.low = low;
}

/** What is pitched, rings longer or shorter, fades, or is a stereo recording, whose sides the pan balances. */
export function addShaped(r: Ringing, samplesRight: Float32Array, bus: Float64Array, count: number) {
  const { samples, kernel, speed, tiltFactor, tilt, fade, fadeFrames, tailFrom, decay } = r;
  const stereo = samplesRight !== samples;
  const end = fade >= 0 ? Math.min(count, fade) : count;
  for (let i = Math.max(0, -r.position); i < end; i++) {
    const at = (r.position + i) * speed;
    if (at >= samples.length) break;
    let level = 1;
    if (decay !== 1) {
      level = r.ring;
      r.ring *= decay;
      if (at > tailFrom) level *= (samples.length - at) / (samples.length - tailFrom);
    }
    if (fade >= 0 && fade - i < fadeFrames) level *= (fade - i) / fadeFrames;
    const x = kernel ? readAt(samples, at, kernel) : (samples[at] as number);
    r.low += (x - r.low) * tiltFactor;
    const left = (r.low + (x - r.low) * tilt) * level;
    let right = left;
    if (stereo) {
      const y = kernel ? readAt(samplesRight, at, kernel) : (samplesRight[at] as number);
      r.lowRight += (y - r.lowRight) * tiltFactor;
      right = (r.lowRight + (y - r.lowRight) * tilt) * level;
    }
    bus[2 * i] = (bus[2 * i] as number) + left * r.left;
    bus[2 * i + 1] = (bus[2 * i + 1] as number) + right * r.right;
  }
}
