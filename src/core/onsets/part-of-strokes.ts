import { GENERAL_MIDI_KIT, keyOfVoice } from '../key-map';
import type { StrokeKind } from '../model/break';
import { EMPTY_FEEL } from '../model/feel';
import { compareHits, type Hit, type Part } from '../model/part';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { clampVelocity, seconds, ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE, type Seconds, type Velocity } from '../units';
import type { HeardStroke } from './listen';
import type { Reading } from './readings';

/** The rows that heard strokes go to. */
const ROW_OF_KIND: Readonly<Record<StrokeKind, VoiceName>> = { kick: 'kick', snare: 'snare', hat: 'hat-closed', other: 'own:other' };
/** How long a stroke's level is measured, in seconds. */
const LEVEL_SECONDS = 0.05;
/** The loudest of a row is struck so hard. */
const LOUDEST = 112;
/** Amplitude goes with velocity to this power. */
const LAW = 1.5;

/** How hard a stroke was struck that is so loud, the loudest of its kind being so loud. @example velocityOfLevel(0.2, 0.2) // 112 */
export const velocityOfLevel = (level: number, loudest: number): Velocity => clampVelocity(LOUDEST * (level / loudest) ** (1 / LAW));

/** The ring of what came before is measured so long before a stroke, and up to so little, in seconds. */
const RINGING = 0.012;
const RINGING_UNTIL = 0.002;
/** A stroke's own share of the power there is at least this. */
const LEAST_SHARE = 0.1;

function power(mono: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let k = from; k < to; k++) sum += (mono[k] as number) ** 2;
  return to > from ? sum / (to - from) : 0;
}

/** How loud each stroke begins: the root of its mean square, up to where the next is. */
export function levelsOf(mono: Float32Array, rate: number, strokes: readonly { seconds: Seconds; until: Seconds }[]): number[] {
  return strokes.map(({ seconds: at, until: next }) => {
    const until = Math.min(next, at + LEVEL_SECONDS);
    const [from, to] = [Math.round(at * rate), Math.min(mono.length, Math.round(until * rate))];
    // What rings on from before is none of its own.
    const before = power(mono, Math.max(0, from - Math.round(RINGING * rate)), from - Math.round(RINGING_UNTIL * rate));
    const own = power(mono, from, to);
    return Math.sqrt(Math.max(own - before, own * LEAST_SHARE));
  });
}

/**
 * Strokes that were heard as a part: on rows by what they are, where they were struck against the reading's lines, as hard as they are loud among
 * those of their row.
 */
export function partOfStrokes(mono: Float32Array, rate: number, onsets: readonly HeardStroke[], { bars, meter: [numerator, denominator], bpm, firstDownbeat }: Reading, name: string): Part {
  const levels = levelsOf(mono, rate, onsets.map(({ seconds: at }, i) => ({ seconds: at, until: onsets[i + 1]?.seconds ?? seconds(Infinity) })));
  const loudest = new Map<StrokeKind, number>();
  onsets.forEach(({ voice }, i) => loudest.set(voice, Math.max(loudest.get(voice) ?? 0, levels[i] as number)));
  const end = (bars * numerator * TICKS_PER_WHOLE) / denominator;
  const perSecond = (bpm / 60) * TICKS_PER_QUARTER;
  const hits = onsets.flatMap(({ seconds: at, voice }, i): Hit[] => {
    const tick = Math.round((at - firstDownbeat) * perSecond);
    if (tick >= end || tick < -TICKS_PER_QUARTER / 4) return [];
    const row = ROW_OF_KIND[voice];
    return [{ id: `s${i}`, voice: row, key: voice === 'other' ? 47 : keyOfVoice(GENERAL_MIDI_KIT, row), tick: ticks(tick), length: ticks(TICKS_PER_QUARTER / 4), velocity: velocityOfLevel(levels[i] as number, loudest.get(voice) as number) }];
  });
  const rows = [...new Set(hits.map((h) => h.voice))].sort(compareVoices);
  return {
    format: 'nod-sway/part@2',
    name,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: Math.round(60e6 / bpm) }],
    meter: [{ tick: ticks(0), numerator, denominator }],
    origin: ticks(0),
    bars,
    kitMap: GENERAL_MIDI_KIT,
    rows: rows.map((voice) => (voice === ROW_OF_KIND.other ? { voice, name: 'Other' } : { voice })),
    hits: hits.sort(compareHits),
    feel: EMPTY_FEEL,
  };
}

/** A reading of a sound whose bars are known: at the tempo that its strokes have, where that has as many; else over its whole length. */
export function readingFor(readings: readonly Reading[], length: number, wanted: { bars: number; meter: readonly [number, number]; firstDownbeat: number }): Reading {
  const quarters = (wanted.bars * wanted.meter[0] * 4) / wanted.meter[1];
  const byLength = (quarters * 60) / (length - wanted.firstDownbeat);
  // A tail that rings out is no part of the bars: strokes tell the tempo better than the sound's end.
  const heard = readings
    .flatMap((r) => [1, 2, 0.5].map((times) => ({ bpm: r.bpm * times, off: Math.abs(((r.bars * r.meter[0] * 4) / r.meter[1]) * times - quarters) })))
    .filter(({ bpm, off }) => bpm >= byLength * 0.97 && off < 1)
    .sort((a, b) => a.off - b.off)[0];
  return { bars: wanted.bars, meter: wanted.meter, bpm: heard?.bpm ?? byLength, firstDownbeat: seconds(wanted.firstDownbeat) };
}
