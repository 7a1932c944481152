import { EMPTY_FEEL, type SwingMove } from '@/core/feel/feel';
import { compareHits, type Hit, type Part } from '@/core/part/part';
import { randomStream } from '@/core/random';
import { ticks, TICKS_PER_QUARTER, velocity } from '@/core/units';
import { compareVoices, GENERAL_MIDI_KIT, keyOfVoice } from '@/core/voices';

const VOICES = ['kick', 'snare', 'hat-closed', 'hat-open', 'ride', 'tom-floor', 'clap', 'crash'];

/** A part of `count` hits, 40 a bar of 4/4, a little off the grid; every third bar differs. */
export function largePart(count: number): Part {
  const random = randomStream(count);
  const hits: Hit[] = [];
  const bars = Math.ceil(count / 40);
  for (let i = 0; i < count; i++) {
    const bar = Math.floor(i / 40);
    const voice = VOICES[(i * 7 + (bar % 3)) % VOICES.length] as string;
    const key = keyOfVoice(GENERAL_MIDI_KIT, voice);
    const step = Math.floor(((i % 40) * 16) / 40);
    const tick = Math.max(0, Math.round(bar * 4 * TICKS_PER_QUARTER + (step * TICKS_PER_QUARTER) / 4 + (random() - 0.5) * 3000));
    hits.push({ id: `${key}@${tick}.${i}`, voice, key, tick: ticks(tick), length: ticks(9000), velocity: velocity(20 + Math.floor(random() * 107)) });
  }
  return {
    format: 'nod-sway/part@1',
    name: 'Large',
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
    meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
    origin: ticks(0),
    bars,
    kitMap: GENERAL_MIDI_KIT,
    rows: [...VOICES].sort(compareVoices).map((voice) => ({ voice })),
    hits: hits.sort(compareHits),
    feel: EMPTY_FEEL,
  };
}

/** Six moves with scopes of every sort (swing is the one kind that exists). */
export const sixMoves: SwingMove[] = [
  { kind: 'swing', division: '1/16', percent: 57, scope: { voices: ['hat-closed', 'hat-open', 'ride'] } },
  { kind: 'swing', division: '1/16', percent: 54, scope: { voices: ['kick', 'snare'] } },
  { kind: 'swing', division: '1/8', percent: 52 },
  { kind: 'swing', division: '1/16', percent: 60, scope: { bars: { every: 2, at: [2] } } },
  { kind: 'swing', division: '1/32', percent: 53, scope: { steps: { grid: '1/16', of: 4, at: [1, 3] } } },
  { kind: 'swing', division: '1/16', percent: 51, scope: { ghosts: 'none' } },
];
