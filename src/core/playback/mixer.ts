import { clamp, type Seconds } from '../units';
import type { VoiceName } from '../voices';

/** A sound that can be started: mono samples at the mixer's rate, and which voices' sounds its start ends. */
export interface Sound {
  samples: Float32Array;
  /** What is struck, by which others end it. */
  voice?: VoiceName;
  /** Voices whose ring ends when this one starts, on all of their rows. */
  ends: readonly VoiceName[];
}

/** What a hit has of its own beside its velocity. */
export interface Colour {
  /** -100 (left) to 100 (right). */
  pan: number;
  /** Semitones. */
  pitch: number;
  /** -100 to 100, added to what the velocity gives. */
  brightness: number;
  /** Sounds nothing and ends the ring of its own sound. */
  choke: boolean;
  /** So long it sounds before it fades, in seconds; without it, it rings freely. */
  lasts?: Seconds;
}

export const PLAIN: Colour = { pan: 0, pitch: 0, brightness: 0, choke: false };

interface Ringing {
  sound: number;
  voice: VoiceName | undefined;
  samples: Float32Array;
  /** Frames since its start, negative before it. */
  position: number;
  /** Samples a frame: 1 as recorded, 2 an octave up. */
  speed: number;
  gainLeft: number;
  gainRight: number;
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

/** Full brightness moves the low-pass by so many octaves. */
const BRIGHTNESS_OCTAVES = 2.5;

/** Equal-power gains of a pan from -100 to 100; the middle is 1 on both sides, so that unpanned hits sound as they are. */
export function gainsOfPan(pan: number): { left: number; right: number } {
  const angle = ((clamp(pan, -100, 100) / 100 + 1) * Math.PI) / 4;
  return { left: Math.cos(angle) * Math.SQRT2, right: Math.sin(angle) * Math.SQRT2 };
}

/** Sums started sounds into a stereo block; velocity drives loudness and brightness. Pure: it also renders in tests and files. */
export class Mixer {
  private ringing: Ringing[] = [];
  /** By number; one that is not there is silent. */
  private readonly sounds: Sound[];
  private readonly fadeFrames: number;
  volume = 0.8;
  /** Of what is played now, beside the volume: makes versions equally loud. */
  gain = 1;

  constructor(
    readonly sampleRate: number,
    sounds: readonly Sound[],
  ) {
    this.sounds = [...sounds];
    this.fadeFrames = Math.round(FADE_SECONDS * sampleRate);
  }

  setSound(index: number, sound: Sound) {
    this.sounds[index] = sound;
  }

  get isSilent(): boolean {
    return this.ringing.length === 0;
  }

  /** Starts a sound, or with a choke ends it, at a frame of the block that {@link render} makes next. */
  start(index: number, velocity: number, atFrame: number, colour: Colour = PLAIN) {
    const sound = this.sounds[index];
    if (!sound || velocity <= 0) return;
    if (colour.choke) return this.end((r) => r.sound === index, atFrame);
    if (sound.ends.length > 0) this.end((r) => r.voice !== undefined && sound.ends.includes(r.voice), atFrame);
    if (this.ringing.length >= MOST_RINGING) this.ringing.shift();
    const hz = brightnessOfVelocity(velocity) * 2 ** ((BRIGHTNESS_OCTAVES * colour.brightness) / 100);
    const gain = gainOfVelocity(velocity);
    const pan = gainsOfPan(colour.pan);
    this.ringing.push({
      sound: index,
      voice: sound.voice,
      samples: sound.samples,
      position: -atFrame,
      speed: 2 ** (colour.pitch / 12),
      gainLeft: gain * pan.left,
      gainRight: gain * pan.right,
      open: hz >= BRIGHTEST_HZ ? 1 : 1 - Math.exp((-2 * Math.PI * hz) / this.sampleRate),
      state1: 0,
      state2: 0,
      fade: colour.lasts === undefined ? -1 : this.fadeFrames + atFrame + Math.round(colour.lasts * this.sampleRate),
    });
  }

  private end(is: (ringing: Ringing) => boolean, atFrame: number) {
    for (const other of this.ringing) if (is(other)) other.fade = this.fadeIn(other, atFrame);
  }

  /** Frames until a sound is gone that is to fade from a frame on; one that fades already goes on. */
  private readonly fadeIn = (r: Ringing, atFrame: number): number => (r.fade < 0 ? this.fadeFrames + atFrame : Math.min(r.fade, this.fadeFrames + atFrame));

  /** Lets everything end quickly. */
  silence() {
    for (const r of this.ringing) r.fade = this.fadeIn(r, 0);
  }

  /** Fills a stereo block. */
  render(left: Float32Array, right: Float32Array) {
    left.fill(0);
    right.fill(0);
    for (const r of this.ringing) this.add(r, left, right);
    const level = this.volume * this.gain;
    for (let i = 0; i < left.length; i++) {
      left[i] = limit((left[i] as number) * level);
      right[i] = limit((right[i] as number) * level);
    }
    this.ringing = this.ringing.filter((r) => r.position * r.speed < r.samples.length && r.fade !== 0);
  }

  private add(r: Ringing, left: Float32Array, right: Float32Array) {
    for (let i = Math.max(0, -r.position); i < left.length; i++) {
      const sample = sampleAt(r.samples, (r.position + i) * r.speed);
      if (sample === null) break;
      r.state1 += (sample - r.state1) * r.open;
      r.state2 += (r.state1 - r.state2) * r.open;
      let level = 1;
      if (r.fade >= 0) {
        const frames = r.fade - i;
        if (frames <= 0) break;
        level = Math.min(1, frames / this.fadeFrames);
      }
      left[i] = (left[i] as number) + r.state2 * r.gainLeft * level;
      right[i] = (right[i] as number) + r.state2 * r.gainRight * level;
    }
    r.position += left.length;
    if (r.fade >= 0) r.fade = Math.max(0, r.fade - left.length);
  }
}

/** A sample between two is read on the straight line between them; null past the end. */
function sampleAt(samples: Float32Array, at: number): number | null {
  const index = Math.floor(at);
  const here = samples[index];
  if (here === undefined) return null;
  const rest = at - index;
  return rest === 0 ? here : here + ((samples[index + 1] ?? 0) - here) * rest;
}

/** Above this level peaks are rounded off instead of cut; below it nothing is changed. */
const KNEE = 0.7;

function limit(x: number): number {
  const size = Math.abs(x);
  if (size <= KNEE) return x;
  return Math.sign(x) * (KNEE + (1 - KNEE) * Math.tanh((size - KNEE) / (1 - KNEE)));
}
