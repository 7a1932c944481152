import { seconds, type Seconds } from '../units';
import type { PlannedStroke } from './practice';

/** What the practice player can play: sixteenths of a bar by MIDI key; X loud, x plain, g soft. Later passes play the next layer. */
export interface PracticePattern {
  name: string;
  layers: readonly Readonly<Record<number, string>>[];
}

const LEVELS: Readonly<Record<string, number>> = { X: 112, x: 92, g: 34 };

export const PRACTICE_PATTERNS: readonly PracticePattern[] = [
  { name: 'Feet, then hats', layers: [{ 36: 'X.....x.X.......', 38: '....X.......X..g' }, { 42: 'X.x.X.x.X.x.X.x.' }] },
  { name: 'Backbeat, all at once', layers: [{ 36: 'X.......X.x.....', 38: '....X..g....X...', 42: 'X.x.x.x.X.x.x.x.' }] },
  { name: 'Sixteenth hats', layers: [{ 42: 'Xgxgxgxgxgxgxgxg' }] },
];

/** The bars of a loop, in seconds from its start. */
export interface LoopShape {
  /** Length of the loop. */
  length: Seconds;
  /** Start and length of each bar, and how many sixteenths it has. */
  bars: readonly { start: number; length: number; sixteenths: number }[];
}

/** Strokes of a pattern in `[from, to)` over the passes of a loop; bars longer or shorter than sixteen sixteenths go round or are cut. */
export function strokesOfPattern(pattern: PracticePattern, loop: LoopShape, from: Seconds, to: Seconds): PlannedStroke[] {
  const strokes: PlannedStroke[] = [];
  for (let pass = Math.max(0, Math.floor(from / loop.length)); pass * loop.length < to; pass++) {
    const layer = pattern.layers[pass % pattern.layers.length] ?? {};
    for (const bar of loop.bars) {
      for (let s = 0; s < bar.sixteenths; s++) {
        const at = pass * loop.length + bar.start + (s * bar.length) / bar.sixteenths;
        if (at < from || at >= to) continue;
        for (const [key, signs] of Object.entries(layer)) {
          const velocity = LEVELS[signs[s % signs.length] as string];
          if (velocity !== undefined) strokes.push({ at: seconds(at), key: Number(key), velocity });
        }
      }
    }
  }
  return strokes.sort((a, b) => a.at - b.at || a.key - b.key);
}
