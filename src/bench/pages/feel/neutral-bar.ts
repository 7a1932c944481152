import { EMPTY_FEEL } from '@/core/model/feel';
import { compareHits, type Hit, type Part } from '@/core/model/part';
import { ticks, TICKS_PER_QUARTER, velocity } from '@/core/units';
import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/voices';

/** The bar that feels are pictured on: even hats, a kick and a backbeat, at 120 BPM. */
export const PICTURED = { length: 4 * TICKS_PER_QUARTER, ticksPerMs: (2 * TICKS_PER_QUARTER) / 1000 } as const;

const STEPS: readonly (readonly [voice: string, steps: readonly number[]])[] = [
  ['hat-closed', Array.from({ length: 16 }, (_, i) => i)],
  ['snare', [4, 12]],
  ['kick', [0, 8, 10]],
];

let made: Part | null = null;

export function neutralBar(): Part {
  if (made) return made;
  const step = TICKS_PER_QUARTER / 4;
  const hits = STEPS.flatMap(([voice, steps]) =>
    steps.map((s): Hit => ({ id: `${voice}${s}`, voice, key: keyOfVoice(GENERAL_MIDI_KIT, voice), tick: ticks(s * step), length: ticks(step / 2), velocity: velocity(voice === 'hat-closed' ? 84 : 100) })),
  ).sort(compareHits);
  made = {
    format: 'nod-sway/part@2',
    name: 'Neutral bar',
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
    meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
    origin: ticks(0),
    bars: 1,
    kitMap: GENERAL_MIDI_KIT,
    rows: STEPS.map(([voice]) => ({ voice })),
    hits,
    feel: EMPTY_FEEL,
  };
  return made;
}
