import { GENERAL_MIDI_KIT } from '@/core/key-map';
import { EMPTY_FEEL, type Move } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { VOICES } from '@/core/voices';
import { GRIDS } from '@/core/time/grid';
import { TICKS_PER_QUARTER } from '@/core/units';

/** Numbers from 1 to a limit: small ones, the limit itself, and what lies between, each about as often. */
function upToLimit(roll: () => number, limit: number): number {
  const kind = roll();
  if (kind < 0.25) return 1 + Math.floor(roll() * Math.min(4, limit));
  if (kind < 0.4) return limit;
  return Math.max(1, Math.floor(limit ** roll()));
}

const MOVES: readonly Move[] = Object.values(DEFAULT_MOVES as Readonly<Record<string, Move>>).map((move) =>
  move.kind === 'groove' ? { ...move, groove: HOUSE_GROOVES[0] as Groove } : move,
);

const pick = <T>(roll: () => number, list: readonly T[]): T => list[Math.floor(roll() * list.length)] as T;
const many = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i));
const maybe = <T>(roll: () => number, share: number, make: () => T): T | undefined => (roll() < share ? make() : undefined);

/** At most so many hits, so that the reading of the text is not what is measured. */
const MOST_HITS = 20_000;

/** A part file that is well formed, with its lists and numbers anywhere up to their limits: what it would make may be far too much. */
export function partAtLimits(roll: () => number): string {
  const denominator = pick(roll, [1, 2, 4, 8, 16, 32, 64]);
  const numerator = upToLimit(roll, 64);
  const bar = (numerator * 4 * TICKS_PER_QUARTER) / denominator;
  const bars = Math.max(1, Math.min(upToLimit(roll, 100_000), Math.floor((100_000 * TICKS_PER_QUARTER) / bar)));
  const rows = many(upToLimit(roll, roll() < 0.2 ? 512 : 12), (i) => ({
    voice: VOICES[i] ?? `own:row${i}`,
    cycle: maybe(roll, 0.3, () => ({ grid: pick(roll, GRIDS), steps: upToLimit(roll, 256) })),
  }));
  const sectionCount = Math.min(bars, roll() < 0.5 ? 0 : upToLimit(roll, 512));
  const sections = many(sectionCount, (i) => ({ id: `s${i}`, name: `Section ${i}`, from: i + 1, bars: 1 }));
  const end = bars * bar;
  const spread = roll() < 0.3 ? 1 : end;
  const hits = many(upToLimit(roll, MOST_HITS), (i) => ({
    id: `h${i}`,
    voice: pick(roll, rows).voice,
    key: Math.floor(roll() * 128),
    tick: Math.floor(roll() * spread),
    length: pick(roll, [0, 1, TICKS_PER_QUARTER, 100_000 * TICKS_PER_QUARTER]),
    velocity: 1 + Math.floor(roll() * 127),
    chance: maybe(roll, 0.1, () => 1 + Math.floor(roll() * 99)),
    passes: maybe(roll, 0.1, () => ({ every: 64, at: [1, 64] })),
    nudge: maybe(roll, 0.1, () => ({ ms: Math.floor(roll() * 100) - 50, velocity: Math.floor(roll() * 252) - 126 })),
    choke: maybe(roll, 0.05, () => true),
    ornament: maybe(roll, 0.1, () =>
      pick(roll, [
        { kind: 'roll', strokes: upToLimit(roll, 62) + 2, speed: 1, to: 4, bend: -1 },
        { kind: 'roll', strokes: pick(roll, GRIDS), length: Math.floor(roll() * end) + 1, speed: -1, to: 0.05, bend: 1 },
        { kind: 'flam', strokes: 3, spacingMs: 80, level: 2, slope: -1 },
        { kind: 'echo', steps: 16, grid: pick(roll, GRIDS), repeats: 16, decay: 1 },
      ]),
    ),
  }));
  return JSON.stringify({
    format: 'nod-sway/part@2',
    name: 'at its limits',
    tempo: many(upToLimit(roll, roll() < 0.2 ? 50_000 : 200), (i) => ({
      tick: i * pick(roll, [1, 97, TICKS_PER_QUARTER]) + i * TICKS_PER_QUARTER,
      microsecondsPerQuarter: pick(roll, [1, 300_000, 500_000, 0xffffff]),
    })),
    meter: [{ tick: 0, numerator, denominator }],
    origin: pick(roll, [0, 0, TICKS_PER_QUARTER / 8]),
    bars,
    kitMap: GENERAL_MIDI_KIT,
    rows,
    sections: sectionCount > 0 ? sections : undefined,
    order:
      sectionCount > 0
        ? many(upToLimit(roll, 1024), () => ({
            section: pick(roll, sections).id,
            times: upToLimit(roll, 64),
            sway: maybe(roll, 0.2, () => Math.floor(roll() * 101)),
          }))
        : undefined,
    feel: { ...EMPTY_FEEL, moves: many(Math.floor(roll() * 6), () => pick(roll, MOVES)) },
    hits,
  });
}

/** Longer takes and more strokes are read in more than the time that a single request is allowed here; limits have tests of their own. */
const MOST_EVENTS = 1200;
const LONGEST_TAKE = 240;

/** What was played, for /api/beats: strokes anywhere, at one moment, in even steps, or far from zero; and taps that fit or do not. */
export function playedAtLimits(roll: () => number): { events: string; taps?: string } {
  const count = upToLimit(roll, MOST_EVENTS);
  const zero = pick(roll, [0, 0, -900_000, 999_000]);
  const step = pick(roll, [0, 1e-6, 0.05, 0.31, 1.7]);
  const spread = pick(roll, [0, 1e-3, 1, LONGEST_TAKE]);
  const at = (i: number): number => zero + Math.min(LONGEST_TAKE, i * step) + roll() * spread;
  const events = many(count, (i) => ({ t: at(i), key: Math.floor(roll() * 128), velocity: 1 + Math.floor(roll() * 127) }));
  const taps = maybe(roll, 0.3, () =>
    JSON.stringify(many(1 + Math.floor(roll() * 4), (i) => zero + i * pick(roll, [0.5, 0.5, 1e-9, 100]))),
  );
  return { events: JSON.stringify(events), ...(taps ? { taps } : {}) };
}
