/** A stroke of a take that was played freely. */
export interface FreeStroke {
  /** Seconds from any moment. */
  at: number;
  /** MIDI key. */
  key: number;
  /** 1 to 127. */
  velocity: number;
}

/** What keeps time in a drum part: kicks, snares, cymbals that are struck once, toms, and all that goes on. */
export const DRUM_GROUPS = ['kick', 'snare', 'crash', 'tom', 'hat'] as const;
export type DrumGroup = (typeof DRUM_GROUPS)[number];
/** Their numbers, as columns hold them. */
export const [KICK, SNARE, CRASH, TOM, HAT] = [0, 1, 2, 3, 4] as const;

const GROUP_OF_KEY = new Map<number, number>([
  ...[35, 36].map((key) => [key, KICK] as const),
  ...[23, 24, 34, 37, 38, 39, 40].map((key) => [key, SNARE] as const),
  ...[49, 52, 55, 57].map((key) => [key, CRASH] as const),
  ...[25, 41, 43, 45, 47, 48, 50].map((key) => [key, TOM] as const),
]);

/** How much a stroke of each group says of the beat. */
const BASE = [1, 1, 0.8, 0.7, 0.6] as const;
/** A snare softer than this is a ghost, and says as much as this. */
const GHOST = { under: 50, base: 0.35 } as const;

/** Strokes as columns, by time. */
export interface StrokeTable {
  count: number;
  at: Float64Array;
  group: Uint8Array;
  velocity: Uint8Array;
  /** 1 for soft snares. */
  ghost: Uint8Array;
  weight: Float64Array;
}

/** @example tableOf([{ at: 0, key: 36, velocity: 100 }]).weight[0] // 1 */
export function tableOf(strokes: readonly FreeStroke[]): StrokeTable {
  const sorted = [...strokes].sort((a, b) => a.at - b.at || a.key - b.key);
  const count = sorted.length;
  const table: StrokeTable = {
    count,
    at: new Float64Array(count),
    group: new Uint8Array(count),
    velocity: new Uint8Array(count),
    ghost: new Uint8Array(count),
    weight: new Float64Array(count),
  };
  sorted.forEach(({ at, key, velocity }, i) => {
    const group = GROUP_OF_KEY.get(key) ?? HAT;
    const isGhost = group === SNARE && velocity < GHOST.under;
    table.at[i] = at;
    table.group[i] = group;
    table.velocity[i] = velocity;
    table.ghost[i] = isGhost ? 1 : 0;
    table.weight[i] = (isGhost ? GHOST.base : (BASE[group] as number)) * (0.35 + 0.65 * Math.min(1.15, velocity / 100));
  });
  return table;
}
