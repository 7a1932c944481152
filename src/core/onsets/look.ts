import { Fft } from '../audio/fft';

/** Third-octaves from here on up to HIGHEST_HZ. */
const LOWEST_HZ = 30;
const HIGHEST_HZ = 17_000;
const BANDS_AN_OCTAVE = 3;
export const BANDS = Math.floor(BANDS_AN_OCTAVE * Math.log2(HIGHEST_HZ / LOWEST_HZ));
/** Bands in which short looks are told apart. */
const COARSE = 3;

/** The transform's length at 44.1 kHz, in samples; others go with the rate. */
const SIZE = 2048;
const SIZE_RATE = 44_100;
/** What a stroke is, is looked at so long from its attack on, in seconds, or up to the next; at least LEAST. */
const HEARD = 0.0464;
const LEAST = 0.012;
/**
 * What rings on from before is looked at so long, up to GAP before the attack and from AFTER_LAST behind the stroke before; at least
 * LEAST_BEFORE.
 */
const BEFORE = 0.03;
const GAP = 0.001;
const AFTER_LAST = 0.008;
const LEAST_BEFORE = 0.006;
/** The attack alone. */
const EARLY = 0.012;
/** How it rings, where nothing else is struck. */
const LATE_FROM = 0.05;
const LATE = 0.04;
/** And how it rings on after that. */
const LATER_FROM = 0.09;
const LATER = 0.0464;
/** How it rises: power by slots around its moment, in parts below and between these, in Hz. */
const SLOT = 0.003;
const SLOTS_BEFORE = 4;
const SLOTS_AFTER = 8;
const SPLITS_HZ = [200, 1000, 6000] as const;
const PARTS = SPLITS_HZ.length + 1;

/** Powers are compared in bels by two around the stroke's own; what is 60 dB under it is nothing. */
const FLOOR_DB = -60;
const SILENT = 1e-18;

const COARSE_BANDS = Math.ceil(BANDS / COARSE);
/** How many numbers tell of a stroke. */
export const LOOK_SIZE = 2 * BANDS + 3 * COARSE_BANDS + (SLOTS_BEFORE + SLOTS_AFTER) * PARTS + 3;
/** Least share of a stroke's power that counts as new, however much was still ringing. */
const ALWAYS_NEW = 0.02;

/** What is seen of a stroke, as numbers around 0. */
export interface Look {
  /** LOOK_SIZE of them: bands of the stroke, of what rang before, of its attack, of its ring, how it rises, where it was cut off. */
  values: Float64Array;
  /** Power that the stroke brought in each of the BANDS, in dB. */
  fresh: Float64Array;
  /** Mean power of its start, in dB. */
  total: number;
}

/** Where a stroke is among its neighbours, in seconds. */
export interface StrokeNeighbours {
  at: number;
  previous: number;
  next: number;
}

/** Looks at strokes of one sound. */
export class Looker {
  private readonly fft: Fft;
  private readonly frames: readonly [Float64Array, Float64Array];
  private readonly spectra: readonly [Float64Array, Float64Array];
  /** First bins of the bands, and behind the last. */
  private readonly edges: Float64Array;
  /** Of the filters between the parts. */
  private readonly poles: Float64Array;
  private readonly windows = new Map<number, { falling: Float64Array; power: number }>();

  constructor(
    private readonly mono: Float32Array,
    private readonly rate: number,
  ) {
    const size = 2 ** Math.round(Math.log2((SIZE * rate) / SIZE_RATE));
    this.fft = new Fft(size);
    this.frames = [new Float64Array(size), new Float64Array(size)];
    this.spectra = [new Float64Array(size / 2 + 1), new Float64Array(size / 2 + 1)];
    this.poles = Float64Array.from(SPLITS_HZ, (hz) => 1 - Math.exp((-2 * Math.PI * hz) / rate));
    this.edges = Float64Array.from({ length: BANDS + 1 }, (_, b) => (LOWEST_HZ * 2 ** (b / BANDS_AN_OCTAVE) * size) / rate);
  }

  look({ at, previous, next }: StrokeNeighbours): Look {
    const { rate } = this;
    const start = Math.round(at * rate);
    const most = this.fft.size;
    const samples = (s: number): number => Math.min(most, Math.round(s * rate));
    const heard = Math.max(samples(LEAST), Math.min(samples(HEARD), Math.round((next - at) * rate)));
    const before = Math.max(samples(LEAST_BEFORE), Math.min(samples(BEFORE), Math.round((at - previous - AFTER_LAST) * rate)));
    const [own, rang] = this.powers(
      { from: start, length: heard, rises: false },
      { from: start - samples(GAP) - before, length: before, rises: true },
    );
    const [attack, ring] = this.powers(
      { from: start, length: samples(EARLY), rises: false },
      { from: start + samples(LATE_FROM), length: samples(LATE), rises: false },
    );
    const [ringOn] = this.powers(
      { from: start + samples(LATER_FROM), length: samples(LATER), rises: false },
      { from: start, length: samples(EARLY), rises: false },
    );
    const total = 10 * Math.log10(own.reduce((sum, p) => sum + p, SILENT));
    const beside = (power: number): number => Math.max(FLOOR_DB, 10 * Math.log10(power + SILENT) - total) / 20 + 1.5;
    const cutOff = next - at < LATE_FROM + LATE;
    const cutLater = next - at < LATER_FROM + LATER;
    const values = new Float64Array(LOOK_SIZE);
    let n = 0;
    for (const p of own) values[n++] = beside(p);
    for (const p of rang) values[n++] = beside(p);
    for (const p of coarse(attack)) values[n++] = beside(p);
    for (const p of coarse(ring)) values[n++] = cutOff ? 0 : beside(p);
    for (const p of coarse(ringOn)) values[n++] = cutLater ? 0 : beside(p);
    for (const p of this.rise(start)) values[n++] = beside(p);
    values[n++] = cutOff ? 1 : 0;
    values[n++] = cutLater ? 1 : 0;
    values[n++] = heard < samples(HEARD) ? 1 : 0;
    const fresh = own.map((p, b) => 10 * Math.log10(Math.max(p - (rang[b] as number), ALWAYS_NEW * p) + SILENT));
    return { values, fresh, total };
  }

  /** Mean powers by bands of two stretches. */
  private powers(...stretches: readonly [Stretch, Stretch]): [Float64Array, Float64Array] {
    const { frames, spectra, fft } = this;
    const weights = stretches.map((s, i) => this.fill(frames[i] as Float64Array, s));
    fft.magnitudesOfTwo(frames[0], frames[1], spectra[0], spectra[1]);
    return [this.bandsOf(spectra[0], weights[0] as number), this.bandsOf(spectra[1], weights[1] as number)];
  }

  /** A stretch under a window that falls away from the attack. @returns the window's power */
  private fill(frame: Float64Array, { from, length, rises }: Stretch): number {
    const { mono } = this;
    const { falling, power } = this.windowOf(length);
    const first = Math.min(length, Math.max(0, -from));
    const last = Math.max(first, Math.min(length, mono.length - from));
    frame.fill(0, 0, first);
    for (let i = first; i < last; i++) frame[i] = (mono[from + i] as number) * (falling[rises ? length - 1 - i : i] as number);
    frame.fill(0, last);
    return power;
  }

  private windowOf(length: number) {
    let window = this.windows.get(length);
    if (!window) {
      const falling = Float64Array.from({ length }, (_, i) => 0.5 + 0.5 * Math.cos((Math.PI * (i + 0.5)) / length));
      this.windows.set(length, (window = { falling, power: falling.reduce((sum, w) => sum + w * w, 0) }));
    }
    return window;
  }

  private bandsOf(spectrum: Float64Array, windowPower: number): Float64Array {
    const { edges } = this;
    const scale = 2 / (windowPower * this.fft.size);
    const powers = new Float64Array(BANDS);
    for (let b = 0; b < BANDS; b++) {
      const [low, high] = [edges[b] as number, edges[b + 1] as number];
      let sum = 0;
      const last = Math.min(Math.ceil(high), spectrum.length);
      for (let k = Math.ceil(low); k < last; k++) sum += (spectrum[k] as number) ** 2;
      // Low bands are narrower than a bin: they have their share of the nearest.
      if (Math.ceil(low) >= high) sum = (spectrum[Math.round((low + high) / 2)] as number) ** 2 * (high - low);
      powers[b] = sum * scale;
    }
    return powers;
  }

  /** Mean powers by slots around a moment, of the parts of the sound between the splits. */
  private rise(start: number): Float64Array {
    const { mono } = this;
    const slot = Math.max(1, Math.round(SLOT * this.rate));
    const slots = SLOTS_BEFORE + SLOTS_AFTER;
    const powers = new Float64Array(slots * PARTS);
    const low = new Float64Array(SPLITS_HZ.length);
    const first = start - SLOTS_BEFORE * slot;
    // The filters settle for as long before it.
    for (let n = -SLOTS_BEFORE, i = first - SLOTS_BEFORE * slot; n < slots; n++) {
      for (const end = i + slot; i < end; i++) {
        const x = i >= 0 && i < mono.length ? (mono[i] as number) : 0;
        let under = 0;
        for (let s = 0; s < SPLITS_HZ.length; s++) {
          const below = (low[s] as number) + (this.poles[s] as number) * (x - (low[s] as number));
          low[s] = below;
          if (n >= 0) powers[s * slots + n]! += (below - under) ** 2;
          under = below;
        }
        if (n >= 0) powers[SPLITS_HZ.length * slots + n]! += (x - under) ** 2;
      }
    }
    for (let k = 0; k < powers.length; k++) powers[k]! /= slot;
    return powers;
  }
}

interface Stretch {
  from: number;
  length: number;
  /** The window rises to the attack instead of falling from it. */
  rises: boolean;
}

function coarse(bands: Float64Array): Float64Array {
  const sums = new Float64Array(COARSE_BANDS);
  bands.forEach((p, b) => (sums[Math.floor(b / COARSE)]! += p));
  return sums;
}
