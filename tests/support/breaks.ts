import { bpm, clampVelocity, ticks, TICKS_PER_QUARTER, velocity, type Bpm } from '@/core/units';
import { EMPTY_FEEL } from '@/core/model/feel';
import { compareHits, type Hit, type Part } from '@/core/model/part';
import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/key-map';
import { makeProgram } from '@/core/playback/program';
import { performPart } from '@/core/perform/perform';
import { tempoMapOf } from '@/core/part/part-time';
import { microsecondsOf } from '@/core/time/tempo-map';
import { renderPart, strokeSource, type StrokeSource } from '@/core/render/render-part';
import { randomStream } from '@/core/random';
import type { KitName } from '@/core/model/sound';

/** A drum loop as sound, with what is in it. */
export interface KnownBreak {
  mono: Float32Array;
  rate: number;
  part: Part;
  /** Seconds at which strokes are performed, those within 20 ms of one before left out. */
  times: number[];
  bpm: number;
}

const sources = new Map<number, StrokeSource>();

/** Strokes of a rate, made once for all tests of a file. */
export const strokesAt = (rate: number): StrokeSource => {
  let source = sources.get(rate);
  if (!source) sources.set(rate, (source = strokeSource(rate)));
  return source;
};

/** A beat with ghosts, hats and what random adds, humanized; on some seeds other instruments and sixteenths. */
export function randomBeat(seed: number, kit: KitName, bars = 2): Part {
  const random = randomStream(seed);
  const tempo = bpm(70 + Math.floor(random() * 70));
  const hits: Hit[] = [];
  const add = (voice: string, sixteenth: number, v: number) => {
    hits.push({
      id: `h${hits.length}`,
      voice,
      key: keyOfVoice(GENERAL_MIDI_KIT, voice),
      tick: ticks((sixteenth * TICKS_PER_QUARTER) / 4),
      home: ticks((sixteenth * TICKS_PER_QUARTER) / 4),
      length: ticks(TICKS_PER_QUARTER / 8),
      velocity: clampVelocity(v),
    });
  };
  // Few different strokes: most of what a loop costs is making them.
  const time = seed % 5 === 0 ? 'ride' : 'hat-closed';
  // A ride in eighths is one long wash in a wooden kit: its strokes are not told apart.
  const every = time === 'ride' ? 4 : random() < 0.5 ? 2 : random() < 0.5 ? 1 : 4;
  for (let s = 0; s < 16 * bars; s++) {
    const place = s % 16;
    if (place === 0 || (place === 8 && random() < 0.6) || (place % 2 === 0 && random() < 0.12)) add('kick', s, 112);
    if (place === 4 || place === 12) add('snare', s, 112);
    else if (random() < 0.12) add('snare', s, random() < 0.5 ? 20 : 36);
    if (s % every === 0) add(time, s, s % 4 === 0 ? 88 : 70);
    else if (random() < 0.06) add('tom-floor', s, 96);
  }
  return humanBeat({ seed, tempo, kit, bars, hits });
}

/** Strokes as a part in 4/4 that nobody plays to the millisecond. */
export const humanBeat = ({
  seed,
  tempo,
  kit,
  bars,
  hits,
}: {
  seed: number;
  tempo: Bpm;
  kit: KitName;
  bars: number;
  hits: Hit[];
}): Part => ({
  format: 'nod-sway/part@6',
  name: `beat ${seed}`,
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(tempo) }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  bars,
  kit,
  kitMap: GENERAL_MIDI_KIT,
  rows: [...new Set(hits.map((h) => h.voice))].map((voice) => ({ voice })),
  hits: hits.sort(compareHits),
  feel: { ...EMPTY_FEEL, seed, moves: [{ kind: 'humanize', timingMs: 7, velocityPercent: 0, memory: 0.4, anchor: 0.3, span: 8 }] },
});

/** Strokes that are within so many seconds sound as one. */
const TOGETHER = 0.02;

/** Moments in order, those within 20 ms of one before left out. */
export function onsetTimes(moments: readonly number[]): number[] {
  const all = [...moments].sort((a, b) => a - b);
  return all.filter((t, i) => i === 0 || t - (all[i - 1] as number) >= TOGETHER);
}

/** A part as sound: a round of it, the tail of which rings out. */
export function breakOf(part: Part, rate: number, { level = 1, noise = 0 }: { level?: number; noise?: number } = {}): KnownBreak {
  const { left, right } = renderPart(part, { rate, ending: 'ring', volume: 0.8, strokes: strokesAt(rate) });
  const random = randomStream(99);
  const mono = left.map((x, i) => ((x + (right[i] as number)) / 2) * level + noise * (random() * 2 - 1));
  const program = makeProgram(
    part,
    performPart(part),
    { start: ticks(0), end: ticks(part.bars * 4 * TICKS_PER_QUARTER), loop: true },
    (h) => Number(h.id.slice(1)),
    () => 0,
  );
  return { mono, rate, part, times: onsetTimes([...program.offsets].map((t) => Math.max(0, t))), bpm: tempoMapOf(part).bpmAt(ticks(0)) };
}

/** A stroke alone. */
export function strokeAlone(voice: string, v: number, kit: KitName, rate = 44_100): Float32Array {
  const part: Part = {
    ...randomBeat(1, kit, 1),
    feel: EMPTY_FEEL,
    rows: [{ voice }],
    hits: [
      {
        id: 'h0',
        voice,
        key: keyOfVoice(GENERAL_MIDI_KIT, voice),
        tick: ticks(0),
        home: ticks(0),
        length: ticks(TICKS_PER_QUARTER),
        velocity: velocity(v),
      },
    ],
  };
  const { left } = renderPart(part, { rate, ending: 'ring', volume: 0.8, strokes: strokesAt(rate) });
  return left;
}

/** How many are found, missed and invented within so many seconds, after the best constant offset of at most 5 ms. */
export function scored(
  found: readonly number[],
  truth: readonly number[],
  within = 0.025,
): { f: number; medianError: number; missed: number[]; extra: number[] } {
  let best = { f: -1, medianError: 1, missed: [] as number[], extra: [] as number[] };
  for (let shift = -0.005; shift <= 0.005001; shift += 0.00025) {
    const taken = new Set<number>();
    const errors: number[] = [];
    const missed: number[] = [];
    for (const t of truth) {
      let near = -1;
      found.forEach((at, i) => {
        if (taken.has(i) || Math.abs(at + shift - t) > within) return;
        if (near < 0 || Math.abs(at + shift - t) < Math.abs((found[near] as number) + shift - t)) near = i;
      });
      if (near < 0) missed.push(t);
      else {
        taken.add(near);
        errors.push(Math.abs((found[near] as number) + shift - t));
      }
    }
    const hits = errors.length;
    const f = truth.length + found.length === 0 ? 1 : (2 * hits) / (truth.length + found.length);
    const medianError = errors.sort((a, b) => a - b)[Math.floor(hits / 2)] ?? 1;
    if (f > best.f || (f === best.f && medianError < best.medianError))
      best = { f, medianError, missed, extra: found.filter((_, i) => !taken.has(i)) };
  }
  return best;
}
