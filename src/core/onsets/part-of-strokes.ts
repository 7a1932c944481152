import { GENERAL_MIDI_KIT, keyOfVoice } from '../key-map';
import { EMPTY_FEEL } from '../model/feel';
import { compareHits, type Hit, type Part } from '../model/part';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { clampVelocity, seconds, ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE, type Velocity } from '../units';
import type { HeardStroke } from './listen';
import type { Reading } from './readings';
import type { SoundKind } from './stroke-net';

/** The rows that heard strokes go to; those that are no instrument's own have a key and a name. */
const ROWS: Readonly<Record<SoundKind, { voice: VoiceName; key?: number; name?: string }>> = {
  kick: { voice: 'kick' },
  snare: { voice: 'snare' },
  hat: { voice: 'hat-closed' },
  skin: { voice: 'own:other', key: 47, name: 'Other' },
  bright: { voice: 'own:bright', key: 51, name: 'Other, bright' },
};
/** The loudest of a row is struck so hard. */
const LOUDEST = 112;
/** Amplitude goes with velocity to this power. */
const LAW = 1.5;

/** How hard a stroke was struck that is so loud, the loudest of its kind being so loud. @example velocityOfLevel(0.2, 0.2) // 112 */
export const velocityOfLevel = (level: number, loudest: number): Velocity => clampVelocity(LOUDEST * (level / loudest) ** (1 / LAW));

/**
 * Strokes that were heard as a part: on rows by what they are, all of those that fall together, where they were struck against the reading's lines,
 * as hard as they are loud among those of their row.
 */
export function partOfStrokes(onsets: readonly HeardStroke[], { bars, meter: [numerator, denominator], bpm, firstDownbeat }: Reading, name: string): Part {
  const strokes = onsets.flatMap(({ seconds: at, struck }) => struck.map(({ sound, level, late }) => ({ at: at + late, sound, level })));
  const loudest = new Map<SoundKind, number>();
  for (const { sound, level } of strokes) loudest.set(sound, Math.max(loudest.get(sound) ?? 0, level));
  const end = (bars * numerator * TICKS_PER_WHOLE) / denominator;
  const perSecond = (bpm / 60) * TICKS_PER_QUARTER;
  const hits = strokes.flatMap(({ at, sound, level }, i): Hit[] => {
    const tick = Math.round((at - firstDownbeat) * perSecond);
    if (tick >= end || tick < -TICKS_PER_QUARTER / 4) return [];
    const { voice, key = keyOfVoice(GENERAL_MIDI_KIT, voice) } = ROWS[sound];
    return [{ id: `s${i}`, voice, key, tick: ticks(tick), length: ticks(TICKS_PER_QUARTER / 4), velocity: velocityOfLevel(level, loudest.get(sound) as number) }];
  });
  const named = new Map(Object.values(ROWS).map(({ voice, name }) => [voice, name]));
  const rows = [...new Set(hits.map((h) => h.voice))].sort(compareVoices);
  return {
    format: 'nod-sway/part@2',
    name,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: Math.round(60e6 / bpm) }],
    meter: [{ tick: ticks(0), numerator, denominator }],
    origin: ticks(0),
    bars,
    kitMap: GENERAL_MIDI_KIT,
    rows: rows.map((voice) => ({ voice, ...(named.get(voice) ? { name: named.get(voice) as string } : {}) })),
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
