import { EMPTY_FEEL } from '../model/feel';
import { compareHits, type Hit, type Part } from '../model/part';
import { MeterMap } from '../time/meter-map';
import { microsecondsOf } from '../time/tempo-map';
import { clampVelocity, ticks, TICKS_PER_QUARTER, type Bpm } from '../units';
import { GENERAL_MIDI_KIT, keyOfVoice } from '../key-map';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { mod } from '../time/cycle';
import type { Groove, GrooveStep } from '../model/groove';
import { beatsOfMeter, ownVoices } from './steps';

/** Parts made of a groove: what it is heard on by itself, and its own steps as hits. */

interface Stroke {
  voice: VoiceName;
  tick: number;
  /** The step that it belongs to, in ticks. */
  home: number;
  velocity: number;
}

function partOf(groove: Groove, tempo: Bpm, bars: number, strokes: readonly Stroke[]): Part {
  const step = TICKS_PER_QUARTER / groove.stepsPerBeat;
  const hits = strokes
    .map(({ voice, tick, home, velocity }): Hit => {
      const key = keyOfVoice(GENERAL_MIDI_KIT, voice);
      return {
        id: `${key}@${tick}`,
        voice,
        key,
        tick: ticks(tick),
        home: ticks(home),
        length: ticks(Math.round(step / 2)),
        velocity: clampVelocity(velocity),
      };
    })
    .sort(compareHits);
  return {
    format: 'nod-sway/part@6',
    name: groove.name,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(tempo) }],
    meter: [{ tick: ticks(0), numerator: groove.meter[0], denominator: groove.meter[1] }],
    origin: ticks(0),
    bars,
    kitMap: GENERAL_MIDI_KIT,
    rows: [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice })),
    hits,
    feel: EMPTY_FEEL,
  };
}

/** Whole bars that hold the groove once. */
const barsOf = (groove: Groove): number => Math.max(1, Math.ceil(groove.beats / beatsOfMeter(groove.meter) - 1e-9));

/**
 * A plain pattern in the groove's meter, for hearing it alone: the closed hat on every step, kick and snare on the beats in turn, and
 * each voice that has steps of its own on every second step.
 */
export function neutralPart(groove: Groove, tempo: Bpm): Part {
  const bars = Math.max(2, barsOf(groove));
  const map = new MeterMap([{ tick: ticks(0), numerator: groove.meter[0], denominator: groove.meter[1] }]);
  const step = TICKS_PER_QUARTER / groove.stepsPerBeat;
  const strokes: Stroke[] = [];
  const others = ownVoices(groove).filter((v) => !['hat-closed', 'kick', 'snare'].includes(v));
  for (let b = 0; b < bars; b++) {
    const bar = map.barOf(b);
    map
      .beatsOf(bar)
      .forEach((beat, i) => strokes.push({ voice: i % 2 === 0 ? 'kick' : 'snare', tick: beat.start, home: beat.start, velocity: 100 }));
    for (let s = 0; s * step < bar.length; s++) {
      const tick = Math.round(bar.start + s * step);
      strokes.push({ voice: 'hat-closed', tick, home: tick, velocity: 74 });
      if (s % 2 === 0) for (const voice of others) strokes.push({ voice, tick, home: tick, velocity: 74 });
    }
  }
  return partOf(groove, tempo, bars, strokes);
}

/** Velocity that stands for level 1 where a groove is written as hits; level 1.98 is the most that MIDI can carry. */
export const LEVEL_VELOCITY = 64;

/** Where the steps for all voices are written: the first of these that has none of its own. */
const COMMON_VOICES: readonly VoiceName[] = ['hat-closed', 'shaker', 'claves', 'cowbell', 'triangle'];

/**
 * A groove as one hit a step: leans as places, levels as velocities around {@link LEVEL_VELOCITY}. Steps of single voices stand on
 * their own keys. An early first step comes at the end, as the groove goes round.
 */
export function grooveAsPart(groove: Groove, tempo: Bpm): Part {
  const step = TICKS_PER_QUARTER / groove.stepsPerBeat;
  const own = ownVoices(groove);
  const common = COMMON_VOICES.find((v) => !own.includes(v)) ?? 'hat-closed';
  const strokesOf = (voice: VoiceName, steps: readonly GrooveStep[]): Stroke[] =>
    steps.map((s, i) => {
      const length = steps.length * step;
      const tick = Math.round(mod((i + s.offset) * step, length));
      // An early first step stands at the end, and so does its line.
      const home = i === 0 && s.offset < 0 && tick > 0 ? length : i * step;
      return { voice, tick, home: Math.round(home), velocity: s.level * LEVEL_VELOCITY };
    });
  return partOf(groove, tempo, barsOf(groove), [
    ...strokesOf(common, groove.steps),
    ...own.flatMap((v) => strokesOf(v, groove.voices?.[v] ?? [])),
  ]);
}
