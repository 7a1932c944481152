import type { Hit } from '../model/part';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '../units';
import { limbOf, type VoiceLimb } from '../voices';
import type { VoiceName } from '../row-names';

/** What a fill is made of: which strokes leave under it, and what is struck instead. */

export const SHAPE_NAMES = ['toms', 'around', 'snare', 'broken', 'hats', 'kick-out', 'all-out', 'eighth', 'pickup'] as const;
export type FillShape = (typeof SHAPE_NAMES)[number];

export interface FillGrid {
  /** How many steps of the grid the fill has, and how long each is. */
  steps: number;
  step: Ticks;
  from: Ticks;
  /** The groove's own velocity. */
  level: number;
  /** The part's rows. */
  rows: readonly VoiceName[];
  hits: readonly Hit[];
  random: () => number;
}

/** A stroke; its velocity against the groove's. */
export interface ShapeStroke {
  voice: VoiceName;
  tick: Ticks;
  velocity: number;
}

export interface ShapeSpec {
  /** After "a fill": down the toms. */
  words: string;
  /** The pedal plays quarter notes under it. */
  keepsTime?: boolean;
  leaves(limb: VoiceLimb, home: number, range: { from: number; end: number }): boolean;
  strokes(ground: FillGrid): ShapeStroke[];
}

const TOMS = ['tom-high', 'tom-mid', 'tom-low', 'tom-floor'];

/** The rows of these voices that there are; without any the snare, or whatever hands may strike. */
function surfaces(rows: readonly VoiceName[], wanted: readonly VoiceName[]): VoiceName[] {
  const found = wanted.filter((v) => rows.includes(v));
  if (found.length > 0) return found;
  return rows.includes('snare') ? ['snare'] : rows.filter((r) => !r.startsWith('kick') && !r.startsWith('hat-')).slice(0, 1);
}

/** So many of a fill's steps rest, the first and the last never. */
const RESTS = 0.12;

/** A little louder towards its end, never softer than the groove. */
const rising = (i: number, steps: number): number => 1 + (0.06 * i) / Math.max(1, steps - 1);

/** One stroke a step, some of them rests. */
function everyStep(
  { steps, step, from, random }: FillGrid,
  voiceAt: (i: number) => VoiceName | undefined,
  velocityAt: (i: number) => number = (i) => rising(i, steps),
): ShapeStroke[] {
  return Array.from({ length: steps }, (_, i) => i).flatMap((i): ShapeStroke[] => {
    const rests = random() < RESTS && i > 0 && i < steps - 1;
    const voice = voiceAt(i);
    return rests || voice === undefined ? [] : [{ voice, tick: ticks(from + i * step), velocity: velocityAt(i) }];
  });
}

const byHand = (limb: VoiceLimb): boolean => limb === 'hand';
const byHandOrKick = (limb: VoiceLimb): boolean => limb !== 'hat-foot';

export const FILL_SHAPES: Readonly<Record<FillShape, ShapeSpec>> = {
  toms: {
    words: 'down the toms',
    keepsTime: true,
    leaves: byHand,
    strokes(ground) {
      const down = surfaces(ground.rows, ['snare', ...TOMS]);
      return everyStep(ground, (i) => down[Math.min(down.length - 1, Math.floor((i / ground.steps) * down.length))]);
    },
  },
  around: {
    words: 'around the kit',
    keepsTime: true,
    leaves: byHand,
    strokes(ground) {
      const places = surfaces(ground.rows, ['snare', ...TOMS, 'rim']);
      let at = 0;
      // Two strokes on a place, then on to another.
      return everyStep(ground, (i) => {
        if (i % 2 === 0 && i > 0 && places.length > 1) at = (at + 1 + Math.floor(ground.random() * (places.length - 1))) % places.length;
        return places[at];
      });
    },
  },
  snare: {
    words: 'building up on the snare',
    keepsTime: true,
    leaves: byHand,
    strokes: (ground) => {
      const [drum] = surfaces(ground.rows, ['snare']);
      return everyStep(
        ground,
        () => drum,
        (i) => 1 + (0.25 * i) / Math.max(1, ground.steps - 1),
      );
    },
  },
  broken: {
    words: 'broken with the kick',
    keepsTime: true,
    leaves: byHandOrKick,
    strokes(ground) {
      const hands = surfaces(ground.rows, ['snare', ...TOMS]);
      const every = ground.random() < 0.5 ? 3 : 4;
      return everyStep(ground, (i) =>
        i % every === every - 1 && ground.rows.includes('kick') ? 'kick' : hands[Math.floor((i / ground.steps) * hands.length)],
      );
    },
  },
  hats: {
    words: 'with the hats opening',
    leaves: byHand,
    strokes(ground) {
      const closed = ground.rows.includes('hat-closed') ? 'hat-closed' : undefined;
      const open = ground.rows.includes('hat-open') ? 'hat-open' : closed;
      const perBeat = Math.max(1, Math.round(TICKS_PER_QUARTER / ground.step));
      return everyStep(ground, (i) =>
        i === ground.steps - 1 || (i % perBeat === perBeat - 1 && ground.random() < 0.6)
          ? open
          : (closed ?? surfaces(ground.rows, ['snare'])[0]),
      );
    },
  },
  'kick-out': {
    words: 'dropping the kick',
    leaves: (limb) => limb === 'kick-foot',
    strokes: () => [],
  },
  'all-out': {
    words: 'dropping everything',
    leaves: () => true,
    strokes: () => [],
  },
  eighth: {
    words: 'repeating the last eighth',
    leaves: byHandOrKick,
    strokes({ steps, step, from, hits, level }) {
      const eighth = TICKS_PER_QUARTER / 2;
      // The pedal keeps time as it is.
      const source = hits.filter((h) => h.tick >= from - eighth && h.tick < from && !h.choke && limbOf(h.voice) !== 'hat-foot');
      const times = Math.max(1, Math.floor((steps * step) / eighth));
      return Array.from({ length: times }, (_, k) =>
        source.map((h): ShapeStroke => ({ voice: h.voice, tick: ticks(h.tick + (k + 1) * eighth), velocity: h.velocity / level })),
      ).flat();
    },
  },
  pickup: {
    words: 'with the kick leading in',
    leaves: () => false,
    strokes({ steps, step, from, rows, random }) {
      const end = from + steps * step;
      const voice = rows.includes('kick') ? 'kick' : surfaces(rows, ['snare'])[0];
      if (voice === undefined) return [];
      const before = random() < 0.5 ? [TICKS_PER_QUARTER / 2] : [TICKS_PER_QUARTER / 2, TICKS_PER_QUARTER / 4];
      return before.map((b): ShapeStroke => ({ voice, tick: ticks(end - b), velocity: 1 }));
    },
  },
};
