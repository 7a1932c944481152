import { EMPTY_FEEL, type Move } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { newOrnament } from '@/core/ornament/all';
import { compareHits, type Hit, type Part } from '@/core/model/part';
import { randomStream } from '@/core/random';
import { ticks, TICKS_PER_QUARTER, velocity } from '@/core/units';
import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/key-map';
import { compareVoices } from '@/core/voices';
import { DEFAULT_MOVES } from '@/core/moves/all';

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
    hits.push({
      id: `${key}@${tick}.${i}`,
      voice,
      key,
      tick: ticks(tick),
      home: ticks(bar * 4 * TICKS_PER_QUARTER + (step * TICKS_PER_QUARTER) / 4),
      length: ticks(9000),
      velocity: velocity(20 + Math.floor(random() * 107)),
    });
  }
  return {
    format: 'nod-sway/part@6',
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

/** The part with so many of its hits carrying rolls, flams and echoes in turn. */
export function ornamented(part: Part, count: number): Part {
  const kinds = [newOrnament('roll'), newOrnament('flam'), newOrnament('echo')];
  const every = Math.max(1, Math.floor(part.hits.length / count));
  return {
    ...part,
    hits: part.hits.map((h, i): Hit => (i % every === 0 && i / every < count ? { ...h, ornament: kinds[(i / every) % kinds.length] } : h)),
  };
}

/** Six moves of six kinds, with scopes of every sort. */
export const sixMoves: Move[] = [
  { ...DEFAULT_MOVES.quantize, scope: { ghosts: 'none' } },
  { ...DEFAULT_MOVES.swing, percent: 57, scope: { voices: ['hat-closed', 'hat-open', 'ride'] } },
  { kind: 'groove', groove: HOUSE_GROOVES[0] as Groove, lean: 0.6, level: 0.5, scope: { bars: { every: 2, at: [2] } } },
  { ...DEFAULT_MOVES.lay, ms: 8, scope: { voices: ['snare', 'clap'] } },
  { ...DEFAULT_MOVES.humanize },
  { ...DEFAULT_MOVES.accents, levels: [1.1, 0.8, 0.95, 0.8], jitter: 3, scope: { steps: { grid: '1/16', of: 4, at: [1, 3] } } },
];
