import { filterInPlace } from './filter';
import type { ClusterLayer, Layer, ModesLayer, NoiseLayer, Pair, PlateLayer, WaverLayer, WiresLayer } from './recipe';

/** What a stroke is like: its force from 0 to 1, and its own dice. */
export interface StrokeForce {
  force: number;
  rate: number;
  /** Which take, 0 to 2. */
  alternate: number;
  random: () => number;
  /** Dice that all takes share: what short noises have in common, so that takes are the same instrument. */
  shared: () => number;
}

/** Between a pair's ends, geometrically. */
export const between = ([soft, hard]: Pair, force: number): number => soft * (hard / soft) ** force;

/** Nothing is computed that is so far below its start. */
const SILENT = 1e-5;

/** Time constants in 60 dB. */
const NEPERS = Math.log(1000);

/** Factor a frame for 60 dB in so many seconds. */
const decayOf = (t60: number, rate: number): number => 10 ** (-3 / (t60 * rate));

/** What a contact of so many ms leaves of a frequency: the envelope of a half sine's spectrum. */
const contactAt = (hz: number, ms: number): number => 1 / (1 + (1.6 * hz * ms * 1e-3) ** 2);

/** Even from -1 to 1. */
const even = (random: () => number): number => random() * 2 - 1;

export function addLayer(out: Float32Array, layer: Layer, struck: StrokeForce): void {
  switch (layer.kind) {
    case 'modes':
      return addModes(out, layer, struck);
    case 'plate':
      return addPlate(out, layer, struck);
    case 'noise':
      return addNoise(out, layer, struck);
    case 'wires':
      return addWires(out, layer, struck);
    case 'waver':
      return addWaver(out, layer, struck);
    case 'cluster':
      return addCluster(out, layer, struck);
  }
}

/** A sine that decays: two multiplications a frame. */
function addSine(out: Float32Array, hz: number, level: number, t60: number, rate: number, phase = 0) {
  if (hz >= rate * 0.48 || level === 0) return;
  const r = decayOf(t60, rate);
  const turn = (2 * Math.PI * hz) / rate;
  const a = 2 * r * Math.cos(turn);
  const b = r * r;
  let y2 = level * Math.sin(phase);
  let y1 = level * r * Math.sin(turn + phase);
  const end = Math.min(out.length, Math.ceil((Math.log10(Math.abs(level) / SILENT) / 3) * t60 * rate));
  if (end > 1) {
    out[0] = (out[0] as number) + y2;
    out[1] = (out[1] as number) + y1;
  }
  for (let i = 2; i < end; i++) {
    const y = a * y1 - b * y2;
    out[i] = (out[i] as number) + y;
    y2 = y1;
    y1 = y;
  }
}

/** After so many times of its fall a pitch is at rest. */
const SETTLED = 9;

/** The same with a pitch that falls to its rest. */
function addGlide(out: Float32Array, hz: number, level: number, t60: number, rate: number, bend: number, seconds: number, start: number) {
  const decay = decayOf(t60, rate);
  const settle = Math.exp(-1 / (seconds * rate));
  const turn = (2 * Math.PI * hz) / rate;
  const falling = Math.min(out.length, Math.ceil(SETTLED * seconds * rate));
  let strength = level;
  let above = bend - 1;
  let phase = start;
  let [y1, y2] = [0, 0];
  let i = 0;
  for (; i < falling && Math.abs(strength) > SILENT; i++) {
    y2 = y1;
    y1 = Math.sin(phase) * strength;
    out[i] = (out[i] as number) + y1;
    phase += turn * (1 + above);
    if (phase > Math.PI) phase -= 2 * Math.PI;
    above *= settle;
    strength *= decay;
  }
  // From here on it is a plain decaying sine, that goes on from the last two frames.
  const a = 2 * decay * Math.cos(turn);
  const b = decay * decay;
  const end =
    Math.abs(strength) > SILENT ? Math.min(out.length, i + Math.ceil((Math.log10(Math.abs(strength) / SILENT) / 3) * t60 * rate)) : i;
  for (; i < end; i++) {
    const y = a * y1 - b * y2;
    out[i] = (out[i] as number) + y;
    y2 = y1;
    y1 = y;
  }
}

function addModes(out: Float32Array, layer: ModesLayer, { force, rate, alternate, random }: StrokeForce) {
  const contact = between(layer.contact, force);
  for (const [ratio, weight] of layer.modes) {
    // Where the stick lands is another each time: the first mode stands, the others come and go.
    const place = ratio === 1 ? 1 + 0.03 * even(random) : 1 + 0.09 * even(random);
    // Low ones begin with the stroke, high ones anywhere within a turn.
    const phase = ratio === 1 ? (alternate - 1) * 0.5 * Math.min(1, (layer.hz / 400) ** 2) : Math.PI * even(random);
    const hz = layer.hz * ratio * (1 + 0.003 * even(random));
    const level = layer.level * weight * place * contactAt(hz, contact);
    const t60 = layer.t60 * ratio ** -layer.damping;
    const bend = layer.glide ? 2 ** ((layer.glide.semitones * force * force) / 12) : 1;
    const add = (l: number, t: number) =>
      layer.glide ? addGlide(out, hz, l, t, rate, bend, layer.glide.seconds, phase) : addSine(out, hz, l, t, rate, phase);
    const share = layer.tail?.share ?? 0;
    add(level * (1 - share), t60);
    if (layer.tail) add(level * share, t60 * layer.tail.times);
  }
}

const SPARSE_HZ = 8200;
/** Below this a mode has no other that rises beside it. */
const LEAST_LATE = 0.04;
/** A mode of hundreds ends here: 85 dB under the stroke. */
const PLATE_SILENT = 1e-4;

/** A decaying sine as a recursion: the next value is `a` times the last less `b` times the one before. */
interface Chain {
  a: number;
  b: number;
  first: number;
  frames: number;
}

function chainOf(hz: number, level: number, t60: number, rate: number): Chain {
  const r = decayOf(t60, rate);
  const turn = (2 * Math.PI * hz) / rate;
  return {
    a: 2 * r * Math.cos(turn),
    b: r * r,
    first: level * r * Math.sin(turn),
    frames: Math.ceil((Math.log10(Math.max(PLATE_SILENT, Math.abs(level)) / PLATE_SILENT) / 3) * t60 * rate),
  };
}

function addPlate(out: Float32Array, layer: PlateLayer, struck: StrokeForce) {
  const { force, rate, random } = struck;
  const contact = between(layer.contact, force);
  const late = layer.late * force ** 0.5;
  const chains: Chain[] = [];
  for (let f = layer.from, dense = 1; f < layer.to; f += layer.spacing / dense) {
    // The highest are not told apart: half as many do.
    dense = f < SPARSE_HZ ? 1 : 0.5;
    const hz = f + (layer.spacing / dense) * layer.jitter * even(random);
    const sign = random() < 0.5 ? -1 : 1;
    const weight = layer.level * (hz / 1000) ** layer.slope * (0.85 + 0.15 * random()) * sign * Math.sqrt(1 / dense);
    const t60 = layer.t60 * (600 / hz) ** layer.fall;
    const share = Math.min(2.6, (hz / 4000) ** 2.5);
    const rising = share < LEAST_LATE ? 0 : weight * late * share * (0.85 + 0.15 * random());
    if (hz >= rate * 0.48) continue;
    chains.push(chainOf(hz, weight * contactAt(hz, contact), t60, rate));
    if (rising === 0) continue;
    // What rises is what decays less what decays faster. It stands anywhere beside the other: at one distance all would beat in time.
    const hz2 = hz + layer.spacing * (0.35 + 0.5 * random());
    chains.push(chainOf(hz2, rising, t60 * 0.9, rate), chainOf(hz2, -rising, 1 / (1 / (t60 * 0.9) + 1 / (NEPERS * layer.rise)), rate));
  }
  addChains(out, chains);
  if (layer.air > 0)
    addNoise(
      out,
      {
        kind: 'noise',
        filter: 'highpass',
        hz: Math.min(15_000, rate * 0.4),
        q: 0.7,
        t60: layer.t60 * 0.18,
        attack: layer.rise * 0.4,
        force: 0.5,
        level: layer.air * layer.level,
      },
      struck,
    );
}

/**
 * Adds chains, four in a loop: one alone waits for its own last value, four do not wait for each other. Those of like length go together.
 */
function addChains(out: Float32Array, chains: Chain[]) {
  const sum = new Float64Array(out.length);
  chains.sort((p, q) => p.frames - q.frames);
  for (let k = 0; k < chains.length; k += 4) {
    const [p, q, r, s] = [0, 1, 2, 3].map((i) => chains[k + i] ?? SILENCE) as [Chain, Chain, Chain, Chain];
    const end = Math.min(sum.length, Math.max(p.frames, q.frames, r.frames, s.frames));
    let [p1, q1, r1, s1] = [p.first, q.first, r.first, s.first];
    let [p2, q2, r2, s2] = [0, 0, 0, 0];
    const { a: pa, b: pb } = p;
    const { a: qa, b: qb } = q;
    const { a: ra, b: rb } = r;
    const { a: sa, b: sb } = s;
    for (let i = 1; i < end; i++) {
      sum[i] = (sum[i] as number) + p1 + q1 + (r1 + s1);
      const p0 = pa * p1 - pb * p2;
      const q0 = qa * q1 - qb * q2;
      const r0 = ra * r1 - rb * r2;
      const s0 = sa * s1 - sb * s2;
      p2 = p1;
      p1 = p0;
      q2 = q1;
      q1 = q0;
      r2 = r1;
      r1 = r0;
      s2 = s1;
      s1 = s0;
    }
  }
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (sum[i] as number);
}

const SILENCE: Chain = { a: 0, b: 0, first: 0, frames: 0 };

/** A noise shorter than this would differ too much from take to take. */
const SHORT_NOISE = 0.12;

function addNoise(out: Float32Array, layer: NoiseLayer, { force, rate, random, shared }: StrokeForce) {
  const dice = layer.t60 < SHORT_NOISE ? () => 0.8 * even(shared) + 0.6 * even(random) : () => even(random);
  const level = layer.level * force ** (layer.force ?? 0);
  const length = Math.min(out.length, Math.ceil((Math.max(0, ...(layer.bursts ?? [0])) + layer.t60 * 2.1 + (layer.attack ?? 0)) * rate));
  const noise = new Float32Array(length);
  const attack = Math.max(0.0004, layer.attack ?? 0) * rate;
  const decay = decayOf(layer.t60, rate);
  let wanted = 0;
  for (const start of layer.bursts ?? [0]) {
    const first = Math.round(start * (1 + 0.015 * even(random)) * rate);
    let strength = level * (layer.bursts ? 1 + 0.1 * even(random) : 1);
    for (let i = first, n = 0; i < length && strength > SILENT; i++, n++) {
      const size = strength * (n < attack ? n / attack : 1);
      noise[i] = (noise[i] as number) + dice() * size;
      wanted += size * size;
      if (n >= attack) strength *= decay;
    }
  }
  addFiltered(out, noise, wanted, layer, rate);
}

/**
 * Adds filtered noise, at the loudness it has on average: a short one is now loud, now soft by chance, and takes are to be the same
 * instrument.
 */
function addFiltered(
  out: Float32Array,
  noise: Float32Array,
  squares: number,
  filter: Pick<NoiseLayer, 'filter' | 'hz' | 'q'>,
  rate: number,
) {
  filterInPlace(noise, filter.filter, filter.hz, filter.q, rate);
  let energy = 0;
  for (const x of noise) energy += x * x;
  const gain = energy > 0 ? Math.sqrt((squares / 3) * (passOf(filter, rate) / energy)) : 0;
  for (let i = 0; i < noise.length; i++) out[i] = (out[i] as number) + (noise[i] as number) * gain;
}

/** What a filter lets through of white noise: its noise bandwidth as a part of all. */
function passOf({ filter, hz, q }: Pick<NoiseLayer, 'filter' | 'hz' | 'q'>, rate: number): number {
  const share = (hz * Math.PI) / 2 / (rate / 2);
  const pass = filter === 'bandpass' ? share / q : filter === 'lowpass' ? share : 1 - Math.min(0.95, share * 0.7);
  return Math.min(1, Math.max(0.02, pass));
}

const WIRE_BANDS = [1700, 2900, 4700, 7600, 12_000];
const WIRE_DELAY = 0.0018;
/** The wires follow the head to this power: soft strokes rattle more, for what they are. */
const WIRE_POWER = 0.62;

function addWires(out: Float32Array, layer: WiresLayer, { force, rate, random, shared }: StrokeForce) {
  const delay = Math.round(WIRE_DELAY * rate);
  WIRE_BANDS.forEach((hz, b) => {
    if (hz > rate * 0.45) return;
    const share = b / (WIRE_BANDS.length - 1);
    const own = layer.t60[0] * (layer.t60[1] / layer.t60[0]) ** share;
    const length = Math.min(out.length, delay + Math.ceil(own * 1.4 * rate));
    const noise = new Float32Array(length);
    const decay = decayOf(own, rate) * decayOf(layer.head / WIRE_POWER, rate);
    let squares = 0;
    let strength = layer.level * 10 ** ((layer.open * share * (force - 1)) / 20);
    for (let i = delay; i < length; i++) {
      const rise = Math.min(1, (i - delay) / (0.0015 * rate));
      noise[i] = (0.9 * even(shared) + 0.44 * even(random)) * strength * rise;
      squares += (strength * rise) ** 2;
      strength *= decay;
    }
    addFiltered(out, noise, squares, { filter: 'bandpass', hz, q: 1.1 }, rate);
  });
}

function addWaver(out: Float32Array, layer: WaverLayer, { rate, random }: StrokeForce) {
  const detune = 1 + 0.012 * even(random);
  const turn = random() * 2 * Math.PI;
  let phase = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / rate;
    const share = Math.min(1, t / layer.seconds);
    const hz = detune * (layer.from + (layer.to - layer.from) * share) * (1 + layer.depth * Math.sin(2 * Math.PI * layer.rate * t + turn));
    const envelope = Math.min(1, t / layer.attack) * Math.exp(-((t / (layer.seconds * 1.1)) ** 4));
    if (envelope < SILENT && t > layer.seconds) break;
    out[i] = (out[i] as number) + (Math.sin(phase) + 0.25 * Math.sin(2 * phase) + 0.12 * Math.sin(3 * phase)) * envelope * layer.level;
    phase += (2 * Math.PI * hz) / rate;
  }
}

const CLUSTER = [1, 1.4471, 1.617, 1.9265, 2.5028, 2.6637];

function addCluster(out: Float32Array, layer: ClusterLayer, { force, rate, random }: StrokeForce) {
  const length = Math.min(out.length, Math.ceil((layer.t60 * 1.2 + (layer.attack ?? 0)) * rate));
  const metal = new Float32Array(length);
  for (const ratio of CLUSTER) {
    const step = (layer.hz * ratio * (1 + 0.004 * even(random))) / rate;
    let phase = random();
    for (let i = 0; i < length; i++) {
      metal[i] = (metal[i] as number) + squareAt(phase, step);
      phase += step;
      if (phase >= 1) phase -= 1;
    }
  }
  const corner = layer.highpass * (0.45 + 0.55 * force);
  filterInPlace(metal, 'highpass', corner, 0.9, rate);
  filterInPlace(metal, 'highpass', corner * 0.8, 0.7, rate);
  const decay = decayOf(layer.t60, rate);
  const attack = Math.max(0.0004, layer.attack ?? 0) * rate;
  let strength = layer.level / CLUSTER.length;
  for (let i = 0; i < length; i++) {
    out[i] = (out[i] as number) + (metal[i] as number) * strength * Math.min(1, i / attack);
    strength *= decay;
  }
}

/** A square whose edges are rounded over two frames (a polynomial band-limited step), so that it does not fold back. */
function squareAt(phase: number, step: number): number {
  let y = phase < 0.5 ? 1 : -1;
  y += edge(phase, step);
  return y - edge(phase >= 0.5 ? phase - 0.5 : phase + 0.5, step);
}

function edge(phase: number, step: number): number {
  if (phase < step) {
    const t = phase / step;
    return t + t - t * t - 1;
  }
  if (phase > 1 - step) {
    const t = (phase - 1) / step;
    return t * t + t + t + 1;
  }
  return 0;
}
