import { Fft, hann } from '../audio/fft';

/** Frames a second that a sound is looked at. */
export const FLUX_RATE = 100;
/** The window at 44.1 kHz, in samples; others go with the rate. */
const WINDOW = 1024;
const WINDOW_RATE = 44_100;
const BANDS_AN_OCTAVE = 12;
const LOWEST_HZ = 30;
const HIGHEST_HZ = 17_000;
/** Magnitudes are compressed: log10(1 + GAIN a). */
const GAIN = 100;
/** A band is compared with its neighbours so many frames before. */
const LAG = 2;

/**
 * How much each band rises against what it and its neighbours were: a spectral flux that sliding pitch hardly moves (S. Boeck and G.
 * Widmer, 2013).
 */
export interface Flux {
  /** By frame. */
  values: Float64Array;
  /** Seconds of a frame's middle. */
  timeOf: (frame: number) => number;
}

/** First bins of the bands, and behind the last; narrow bands share no bin. */
function bandEdges(size: number, rate: number): number[] {
  const edges: number[] = [];
  const top = Math.min(HIGHEST_HZ, rate * 0.48);
  for (let hz = LOWEST_HZ; hz <= top; hz *= 2 ** (1 / BANDS_AN_OCTAVE)) {
    const bin = Math.round((hz * size) / rate);
    if (bin >= 1 && bin > (edges.at(-1) ?? 0)) edges.push(bin);
  }
  return edges;
}

/** @param mono at a peak of 0.5 to 1 @param onProgress told how much is done, 0 to 1; throwing ends the work */
export function fluxOf(mono: Float32Array, rate: number, onProgress?: (done: number) => void): Flux {
  const wanted = Math.round((WINDOW * rate) / WINDOW_RATE);
  const size = 2 ** Math.round(Math.log2(wanted));
  const width = Math.min(wanted, size);
  const window = hann(width);
  const scale = 1 / window.reduce((sum, w) => sum + w, 0);
  const fft = new Fft(size);
  const edges = Int32Array.from(bandEdges(size, rate));
  const bands = edges.length - 1;
  const hop = rate / FLUX_RATE;
  const count = Math.max(1, Math.ceil(mono.length / hop));
  const frames = [new Float64Array(size), new Float64Array(size)] as const;
  const spectra = [new Float64Array(size / 2 + 1), new Float64Array(size / 2 + 1)] as const;
  /** The last frames' bands, in turn, with nothing on either side: a read outside an array is slow. */
  const kept = Array.from({ length: LAG + 2 }, () => new Float64Array(bands + 2));
  const gain = 2 * GAIN * scale;
  const values = new Float64Array(count);
  const fill = (frame: Float64Array, n: number) => {
    const start = Math.round(n * hop - width / 2);
    const from = Math.max(0, -start);
    const to = Math.min(width, mono.length - start);
    frame.fill(0, 0, from);
    for (let i = from; i < to; i++) frame[i] = (mono[start + i] as number) * (window[i] as number);
    frame.fill(0, Math.max(0, to), width);
  };
  for (let n = 0; n < count; n += 2) {
    fill(frames[0], n);
    fill(frames[1], n + 1);
    fft.magnitudesOfTwo(frames[0], frames[1], spectra[0], spectra[1]);
    for (let half = 0; half < 2 && n + half < count; half++) {
      const spectrum = spectra[half] as Float64Array;
      const now = kept[(n + half) % kept.length] as Float64Array;
      const before = kept[(n + half + kept.length - LAG) % kept.length] as Float64Array;
      for (let b = 0; b < bands; b++) {
        let sum = 0;
        for (let k = edges[b] as number; k < (edges[b + 1] as number); k++) sum += spectrum[k] as number;
        now[b + 1] = Math.log(1 + gain * sum) * Math.LOG10E;
      }
      let rise = 0;
      for (let b = 1; b <= bands; b++) {
        const was = n + half < LAG ? 0 : Math.max(before[b] as number, before[b - 1] as number, before[b + 1] as number);
        if ((now[b] as number) > was) rise += (now[b] as number) - was;
      }
      values[n + half] = (rise * 8) / bands;
    }
    if (n % 512 === 0) onProgress?.(n / count);
  }
  return { values, timeOf: (frame) => frame / FLUX_RATE };
}
