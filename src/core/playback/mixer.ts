import { amplitudeOf } from '../synth/classes';
import { TILT_HZ, type RenderedStroke } from '../synth/stroke';
import { clamp, type Seconds } from '../units';
import type { VoiceName } from '../row-names';
import { Limiter } from './limiter';
import { kernelFor } from '../audio/resample';
import { addPlain, addShaped, type Ringing } from './ringing';
import { RoomReverb } from './room';
import { PLAIN_MIX, PLAIN_MIX_OF_PART, type Mix, type RowMix } from './row-mix';

/** Strokes of like velocities. */
export interface SoundLayer {
  /** The highest velocity that it plays. */
  upTo: number;
  /** The velocity that its takes were struck with. */
  at: number;
  /** One is missing as long as it is not ready. */
  takes: (RenderedStroke | undefined)[];
}

/** A sound that can be started, and what its start ends. */
export interface Sound {
  layers: SoundLayer[];
  /** What is struck, by which others end it. */
  voice?: VoiceName;
  /** Voices whose ring ends when this one starts, on all of their rows; and within how many ms. */
  ends: readonly VoiceName[];
  endMs?: number;
  /** Factor on all of its strokes; 1 without it. */
  gain?: number;
  /** A choke ends it within so many ms. */
  chokeMs?: number;
  /** A new stroke ends the one before within so many ms: electronic sounds and slices. */
  selfMs?: number;
}

/** A sound of one take for all velocities. @example oneTake(Float32Array.of(1)) */
export const oneTake = (samples: Float32Array): Sound => ({
  layers: [{ upTo: 127, at: 127, takes: [{ samples, high: 0, tiltHz: TILT_HZ }] }],
  ends: [],
});

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
  /** Decides which take is struck. */
  dice?: number;
  /** The take that is struck, whatever the dice say. */
  take?: number;
}

export const PLAIN: Colour = { pan: 0, pitch: 0, brightness: 0, choke: false };

/** What is heard unless another volume is set. */
export const USUAL_VOLUME = 0.8;

/** More than this many at once end the oldest: no groove needs more, and the audio thread stays quick. */
const MOST_RINGING = 64;
const STOLEN_MS = 5;
const SILENCE_MS = 6;
const CHOKE_MS = 6;
/** A row of a group ends the others within so many ms. */
const GROUP_MS = 30;
/** Within a layer the highs go with the velocity to this power. */
const TILT_POWER = 0.3;
/** Full brightness lifts or cuts the highs by so many dB. */
const BRIGHTNESS_DB = 15;
/** Velocity response turns around this velocity: a row does not get louder by it as a whole. */
const PIVOT = 100;
/** How much of a stroke's length is 60 dB. */
const RING_SHARE = 0.83;

/** Amplitude of a velocity by a response: 1 is the law, 0 makes all alike, 2 doubles the differences in dB. */
export const responseOf = (velocity: number, response: number): number =>
  amplitudeOf(PIVOT) * (clamp(velocity, 1, 127) / PIVOT) ** (1.5 * response);

/** The velocity whose tone is heard, by a row's response of the tone. @example tonedVelocity(50, 0.5) // 75 */
export const tonedVelocity = (velocity: number, tone: number): number => clamp(Math.round(PIVOT + (velocity - PIVOT) * tone), 1, 127);

/** Equal-power gains of a pan from -100 to 100; the middle is 1 on both sides, so that unpanned hits sound as they are. */
export function gainsOfPan(pan: number): { left: number; right: number } {
  const angle = ((clamp(pan, -100, 100) / 100 + 1) * Math.PI) / 4;
  return { left: Math.cos(angle) * Math.SQRT2, right: Math.sin(angle) * Math.SQRT2 };
}

export interface MixerOptions {
  /** Default true. */
  limited?: boolean;
}

/**
 * Sums started sounds into a stereo block; the room is added, and no sample leaves above full scale. Pure: it also renders in tests and
 * files.
 */
export class Mixer {
  private ringing: Ringing[] = [];
  /** By number; one that is not there is silent. */
  private readonly sounds: Sound[];
  /** The take that each sound was struck with last. */
  private readonly lastTake = new Map<number, number>();
  private readonly room: RoomReverb;
  private readonly limiter: Limiter | null;
  private buses: Bus[] = [];
  private sendLeft = new Float32Array(0);
  private sendRight = new Float32Array(0);
  private mix: Mix = PLAIN_MIX_OF_PART;
  volume = USUAL_VOLUME;
  /** Of what is played now, beside the volume: makes versions equally loud. */
  gain = 1;
  /** Only this sound is heard, dry (`dry`), or only the room (`room`); all without it. Others still end what they end. */
  only: { sound: number } | 'room' | null = null;

  constructor(
    readonly sampleRate: number,
    sounds: readonly Sound[],
    { limited = true }: MixerOptions = {},
  ) {
    this.sounds = [...sounds];
    this.room = new RoomReverb(sampleRate);
    this.limiter = limited ? new Limiter(sampleRate) : null;
  }

  /** What is started at a frame leaves so many frames later. */
  get latency(): number {
    return this.limiter?.latency ?? 0;
  }

  setSound(index: number, sound: Sound) {
    this.sounds[index] = sound;
  }

  setStroke(index: number, layer: number, take: number, stroke: RenderedStroke | undefined) {
    const takes = this.sounds[index]?.layers[layer]?.takes;
    if (takes) takes[take] = stroke;
  }

  setMix(mix: Mix) {
    this.mix = mix;
    this.room.setSize(mix.room.size);
  }

  /** Takes begin anew, as at the start of a playing. */
  forgetTakes() {
    this.lastTake.clear();
  }

  get isSilent(): boolean {
    return this.ringing.length === 0;
  }

  /** Nothing rings, and the room is still. */
  get isQuiet(): boolean {
    return this.ringing.length === 0 && (this.mix.room.amount === 0 || this.room.isSilent);
  }

  /** The lowest gain of the limiter since it was last asked: 1 is none. */
  takeLimited(): number {
    return this.limiter?.takeLowest() ?? 1;
  }

  /** Starts a sound, or with a choke ends it, at a frame of the block that {@link render} makes next. */
  start(index: number, velocity: number, atFrame: number, colour: Colour = PLAIN) {
    const sound = this.sounds[index];
    if (!sound || velocity <= 0) return;
    if (colour.choke) return this.end((r) => r.sound === index, atFrame, sound.chokeMs ?? CHOKE_MS);
    if (sound.ends.length > 0) this.end((r) => r.voice !== undefined && sound.ends.includes(r.voice), atFrame, sound.endMs ?? CHOKE_MS);
    if (sound.selfMs !== undefined) this.end((r) => r.sound === index, atFrame, sound.selfMs);
    const mix = this.mix.rows[index] ?? PLAIN_MIX;
    if (mix.group > 0) this.end((r) => r.group === mix.group && r.sound !== index, atFrame, sound.selfMs ?? GROUP_MS);
    const toned = tonedVelocity(velocity, mix.tone);
    const layer = this.layerOf(sound, toned);
    const stroke = layer && (colour.take === undefined ? this.takeOf(index, layer, colour.dice ?? 0) : layer.takes[colour.take]);
    if (!layer || !stroke) return;
    if (this.ringing.length >= MOST_RINGING) this.steal(atFrame);
    this.ringing.push(this.ringingOf(index, sound, layer, stroke, velocity, toned, mix, atFrame, colour));
  }

  private ringingOf(
    index: number,
    sound: Sound,
    layer: SoundLayer,
    stroke: RenderedStroke,
    velocity: number,
    toned: number,
    mix: RowMix,
    atFrame: number,
    colour: Colour,
  ): Ringing {
    const inLayer = Math.min(1, (toned / layer.at) ** TILT_POWER);
    // What the highs lose within a layer is made good: the loudness follows the law alone.
    const kept = 1 / Math.sqrt(Math.max(0.05, 1 - stroke.high * (1 - inLayer * inLayer)));
    const gain = (responseOf(velocity, mix.loudness) / amplitudeOf(layer.at)) * kept * mix.gain * (sound.gain ?? 1);
    const pan = gainsOfPan(colour.pan + mix.pan);
    const speed = 2 ** ((colour.pitch + mix.tune) / 12);
    const natural = Math.max(0.02, (stroke.samples.length / speed / this.sampleRate) * RING_SHARE);
    return {
      sound: index,
      voice: sound.voice,
      samples: stroke.samples,
      samplesRight: stroke.right,
      group: mix.group,
      position: 0 - atFrame,
      speed,
      kernel: speed === 1 ? null : kernelFor(speed),
      left: gain * pan.left,
      right: gain * pan.right,
      send: mix.room,
      tilt: inLayer * 10 ** ((BRIGHTNESS_DB * clamp(colour.brightness, -100, 100)) / 2000),
      tiltFactor: 1 - Math.exp((-2 * Math.PI * stroke.tiltHz) / this.sampleRate),
      low: 0,
      lowRight: 0,
      ring: 1,
      decay: mix.ring === 1 ? 1 : 10 ** ((-3 / (natural * this.sampleRate)) * (1 / mix.ring - 1)),
      tailFrom: mix.ring > 1 ? stroke.samples.length * 0.8 : Infinity,
      ...(colour.lasts === undefined
        ? { fade: -1, fadeFrames: 1 }
        : this.fadeAfter(atFrame + Math.round(colour.lasts * this.sampleRate), SILENCE_MS)),
    };
  }

  /** The layer that plays a velocity, or the nearest that has a take. */
  private layerOf({ layers }: Sound, velocity: number): SoundLayer | undefined {
    const wanted = layers.findIndex((l) => velocity <= l.upTo);
    const first = wanted < 0 ? layers.length - 1 : wanted;
    for (let away = 0; away < layers.length; away++) {
      for (const i of [first + away, first - away]) if (layers[i]?.takes.some(Boolean)) return layers[i];
    }
    return undefined;
  }

  /** A take by the hit's dice, never the one that was struck last. */
  private takeOf(index: number, { takes }: SoundLayer, dice: number): RenderedStroke | undefined {
    const n = takes.length;
    let take = dice % n;
    if (n > 1 && take === this.lastTake.get(index)) take = (take + 1 + ((dice >>> 8) % (n - 1))) % n;
    this.lastTake.set(index, take);
    return takes[take] ?? takes.find(Boolean);
  }

  private steal(atFrame: number) {
    const oldest = this.ringing.find((r) => r.fade < 0);
    if (oldest) Object.assign(oldest, this.fadeAfter(atFrame, STOLEN_MS));
    // All of them fade already: the first goes.
    else this.ringing.shift();
  }

  private fadeAfter(frames: number, ms: number): { fade: number; fadeFrames: number } {
    const fadeFrames = Math.max(1, Math.round((ms * this.sampleRate) / 1000));
    return { fade: frames + fadeFrames, fadeFrames };
  }

  private end(is: (ringing: Ringing) => boolean, atFrame: number, ms: number) {
    for (const r of this.ringing) if (is(r)) this.fadeSooner(r, atFrame, ms);
  }

  /** One that would be gone sooner anyway goes on. */
  private fadeSooner(r: Ringing, atFrame: number, ms: number) {
    const next = this.fadeAfter(atFrame, ms);
    if (r.fade < 0 || r.fade > next.fade) Object.assign(r, next);
  }

  /** Lets everything end quickly. */
  silence() {
    for (const r of this.ringing) this.fadeSooner(r, 0, SILENCE_MS);
  }

  /** Fills a stereo block. */
  render(left: Float32Array, right: Float32Array) {
    if (this.sendLeft.length !== left.length) {
      this.sendLeft = new Float32Array(left.length);
      this.sendRight = new Float32Array(left.length);
      this.buses = [];
    }
    for (const bus of this.buses) {
      if (!bus.empty) bus.frames.fill(0);
      bus.empty = true;
    }
    const { only, mix, sendLeft, sendRight } = this;
    const wet = mix.room.amount > 0 && (only === null || only === 'room');
    for (const r of this.ringing) this.add(r, left.length, wet);
    left.fill(0);
    right.fill(0);
    sendLeft.fill(0);
    sendRight.fill(0);
    for (const bus of this.buses) {
      if (only !== 'room') pour(bus, left, right, 1);
      if (wet && bus.send > 0) pour(bus, sendLeft, sendRight, bus.send);
    }
    if (wet && !(this.room.isSilent && this.ringing.length === 0)) this.room.process(sendLeft, sendRight, left, right, mix.room.amount);
    const level = this.volume * this.gain * mix.volume;
    for (let i = 0; i < left.length; i++) {
      left[i] = (left[i] as number) * level;
      right[i] = (right[i] as number) * level;
    }
    this.limiter?.process(left, right);
    this.ringing = this.ringing.filter((r) => r.position * r.speed < r.samples.length && r.fade !== 0);
  }

  /** Adds what rings to the bus of its send; what nobody hears only grows older. */
  private add(r: Ringing, count: number, wet: boolean) {
    const { only } = this;
    if (only === null || (only === 'room' ? wet && r.send > 0 : only.sound === r.sound)) {
      const bus = this.busOf(r.send, count);
      bus.empty = false;
      if (r.samplesRight || r.kernel || r.decay !== 1 || r.fade >= 0) addShaped(r, r.samplesRight ?? r.samples, bus.frames, count);
      else addPlain(r, bus.frames, count);
    }
    r.position += count;
    if (r.fade >= 0) r.fade = Math.max(0, r.fade - count);
  }

  /** Rows that send alike are summed together, and sent once. */
  private busOf(send: number, count: number): Bus {
    let bus = this.buses.find((b) => b.send === send) ?? this.buses.find((b) => b.empty);
    if (!bus) this.buses.push((bus = { send, frames: new Float64Array(2 * count), empty: true }));
    bus.send = send;
    return bus;
  }
}

/** What rows of one send to the room sum up to, left and right in turn. */
interface Bus {
  send: number;
  frames: Float64Array;
  empty: boolean;
}

function pour({ frames, empty }: Bus, left: Float32Array, right: Float32Array, factor: number) {
  if (empty) return;
  for (let i = 0; i < left.length; i++) {
    left[i] = (left[i] as number) + (frames[2 * i] as number) * factor;
    right[i] = (right[i] as number) + (frames[2 * i + 1] as number) * factor;
  }
}
