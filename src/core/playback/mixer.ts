import { clamp } from '../units';

/** A sound that can be started: mono samples at the mixer's rate, and which sounds its start ends. */
export interface Sound {
  samples: Float32Array;
  /** Indices of sounds whose ring ends when this one starts. */
  ends: readonly number[];
}

interface Ringing {
  sound: number;
  samples: Float32Array;
  position: number;
  gain: number;
  /** Factor of the one-pole low-pass, 1 = open. */
  open: number;
  state1: number;
  state2: number;
  /** Frames left of a fade; -1 while it rings on. */
  fade: number;
}

/** More than this many at once end the oldest: no groove needs more, and the audio thread stays quick. */
const MOST_RINGING = 64;
const FADE_SECONDS = 0.006;
const GAIN_EXPONENT = 1.6;
const DARKEST_HZ = 900;
const BRIGHTEST_HZ = 19000;

/** How loud a velocity is, 0 to 1: the softest ghost is about 60 dB under the hardest stroke, 64 about 10 dB. */
export const gainOfVelocity = (velocity: number): number => (clamp(velocity, 0, 127) / 127) ** GAIN_EXPONENT;

/** How bright: corner of the low-pass in Hz, rising evenly in octaves; the hardest strokes are left as they are. */
export const brightnessOfVelocity = (velocity: number): number => DARKEST_HZ * (BRIGHTEST_HZ / DARKEST_HZ) ** (clamp(velocity, 0, 127) / 127);

/** Sums started sounds into a stereo block; velocity drives loudness and brightness. Pure: it also renders in tests and files. */
export class Mixer {
  private ringing: Ringing[] = [];
  private readonly fadeFrames: number;
  volume = 0.8;

  constructor(
    readonly sampleRate: number,
    private sounds: readonly Sound[],
  ) {
    this.fadeFrames = Math.round(FADE_SECONDS * sampleRate);
  }

  setSounds(sounds: readonly Sound[]) {
    this.sounds = sounds;
  }

  get isSilent(): boolean {
    return this.ringing.length === 0;
  }

  /** Starts a sound at a frame of the block that {@link render} makes next. */
  start(index: number, velocity: number, atFrame: number) {
    const sound = this.sounds[index];
    if (!sound || velocity <= 0) return;
    for (const other of this.ringing) if (other.fade < 0 && sound.ends.includes(other.sound)) other.fade = this.fadeFrames + atFrame;
    if (this.ringing.length >= MOST_RINGING) this.ringing.shift();
    const hz = brightnessOfVelocity(velocity);
    this.ringing.push({
      sound: index,
      samples: sound.samples,
      position: -atFrame,
      gain: gainOfVelocity(velocity),
      open: velocity >= 127 ? 1 : 1 - Math.exp((-2 * Math.PI * hz) / this.sampleRate),
      state1: 0,
      state2: 0,
      fade: -1,
    });
  }

  /** Lets everything end quickly. */
  silence() {
    for (const r of this.ringing) if (r.fade < 0) r.fade = this.fadeFrames;
  }

  /** Fills a block, both sides alike. */
  render(left: Float32Array, right: Float32Array) {
    left.fill(0);
    for (const r of this.ringing) this.add(r, left);
    for (let i = 0; i < left.length; i++) left[i] = limit((left[i] as number) * this.volume);
    right.set(left);
    this.ringing = this.ringing.filter((r) => r.position < r.samples.length && r.fade !== 0);
  }

  private add(r: Ringing, out: Float32Array) {
    for (let i = Math.max(0, -r.position); i < out.length; i++) {
      const at = r.position + i;
      if (at >= r.samples.length) break;
      r.state1 += ((r.samples[at] as number) - r.state1) * r.open;
      r.state2 += (r.state1 - r.state2) * r.open;
      let level = r.gain;
      if (r.fade >= 0) {
        const left = r.fade - i;
        if (left <= 0) break;
        level *= Math.min(1, left / this.fadeFrames);
      }
      out[i] = (out[i] as number) + r.state2 * level;
    }
    r.position += out.length;
    if (r.fade >= 0) r.fade = Math.max(0, r.fade - out.length);
  }
}

/** Above this level peaks are rounded off instead of cut; below it nothing is changed. */
const KNEE = 0.7;

function limit(x: number): number {
  const size = Math.abs(x);
  if (size <= KNEE) return x;
  return Math.sign(x) * (KNEE + (1 - KNEE) * Math.tanh((size - KNEE) / (1 - KNEE)));
}
