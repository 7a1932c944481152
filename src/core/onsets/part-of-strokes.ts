import { GENERAL_MIDI_KIT, keyOfVoice } from '../key-map';
import { EMPTY_FEEL } from '../model/feel';
import { compareHits, type Hit, type Part } from '../model/part';
import type { VoiceName } from '../row-names';
import { provisionalHome } from '../homes/homes';
import { MeterMap } from '../time/meter-map';
import { compareVoices } from '../voices';
import { clampVelocity, seconds, ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE, type Velocity } from '../units';
import type { HeardStroke } from './listen';
import type { LoopReading } from './readings';
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

/** One sound that was struck, by itself: at a moment of the recording, in seconds, with its own amplitude. */
export interface SoundStruck {
  at: number;
  sound: SoundKind;
  level: number;
}

/** How a recording is counted. */
export interface Counting extends Pick<LoopReading, 'bars' | 'meter' | 'bpm'> {
  /** Where a moment lies, in ticks from the first bar line. */
  tickOf: (at: number) => number;
}

/** At a steady tempo from the first downbeat on. */
export function countedBy({ firstDownbeat, ...reading }: LoopReading): Counting {
  const perSecond = (reading.bpm / 60) * TICKS_PER_QUARTER;
  return { ...reading, tickOf: (at) => Math.round((at - firstDownbeat) * perSecond) };
}

/** All that is struck, also what falls together, each at its own moment. */
export const soundsOf = (onsets: readonly HeardStroke[]): SoundStruck[] =>
  onsets.flatMap(({ seconds: at, struck }) => struck.map(({ sound, level, late }) => ({ at: at + late, sound, level })));

/**
 * What was struck in a recording as a part: on rows by what it is, where it was struck against the lines, as hard as it is loud among that
 * of its row.
 */
export function partOfStrokes(
  strokes: readonly SoundStruck[],
  { bars, meter: [numerator, denominator], bpm, tickOf }: Counting,
  name: string,
): Part {
  const loudest = new Map<SoundKind, number>();
  for (const { sound, level } of strokes) loudest.set(sound, Math.max(loudest.get(sound) ?? 0, level));
  const map = new MeterMap([{ tick: ticks(0), numerator, denominator }]);
  const end = (bars * numerator * TICKS_PER_WHOLE) / denominator;
  const hits = strokes.flatMap(({ at, sound, level }, i): Hit[] => {
    const tick = tickOf(at);
    if (tick >= end || tick < -TICKS_PER_QUARTER / 4) return [];
    const { voice, key = keyOfVoice(GENERAL_MIDI_KIT, voice) } = ROWS[sound];
    return [
      {
        id: `s${i}`,
        voice,
        key,
        tick: ticks(tick),
        home: provisionalHome(map, ticks(tick)),
        length: ticks(TICKS_PER_QUARTER / 4),
        velocity: velocityOfLevel(level, loudest.get(sound) as number),
      },
    ];
  });
  const named = new Map(Object.values(ROWS).map(({ voice, name }) => [voice, name]));
  const rows = [...new Set(hits.map((h) => h.voice))].sort(compareVoices);
  return {
    format: 'nod-sway/part@6',
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

/** A sound's length tells its tempo to such a share where it was cut at bars. */
const CUT_SHARE = 0.004;
/** What may have been counted for a quarter: its half or double; where that does not fit, dotted ones, as eighths in threes are heard. */
const COUNTED_AS = [
  [1, 2, 0.5],
  [1.5, 3, 0.75, 2 / 3],
] as const;

/** A reading of a sound whose bars are known: over its whole length where it was cut there; else at the tempo that its strokes have. */
export function readingFor(
  readings: readonly LoopReading[],
  length: number,
  wanted: { bars: number; meter: readonly [number, number]; firstDownbeat: number },
): LoopReading {
  const quarters = (wanted.bars * wanted.meter[0] * 4) / wanted.meter[1];
  const byLength = (quarters * 60) / (length - wanted.firstDownbeat);
  // A tail that rings out is no part of the bars: strokes tell the tempo better than the sound's end.
  const [heard] = COUNTED_AS.flatMap((ways) =>
    readings
      .flatMap((r) =>
        ways.map((times) => ({ bpm: r.bpm * times, off: Math.abs(((r.bars * r.meter[0] * 4) / r.meter[1]) * times - quarters) })),
      )
      .filter(({ bpm, off }) => bpm >= byLength * 0.97 && off < 1)
      .sort((a, b) => a.off - b.off),
  );
  const isCut = !heard || Math.abs(heard.bpm / byLength - 1) < CUT_SHARE;
  return { bars: wanted.bars, meter: wanted.meter, bpm: isCut ? byLength : heard.bpm, firstDownbeat: seconds(wanted.firstDownbeat) };
}
