import { seconds, type Seconds } from '../units';
import type { VoiceName } from '../row-names';
import type { PlannedStroke } from './practice';

/** What the practice player can play: sixteenths of a bar by voice; X loud, x plain, g soft. Later passes play the next layer. */
export interface PracticePattern {
  name: string;
  layers: readonly Readonly<Record<VoiceName, string>>[];
}

const LEVELS: Readonly<Record<string, number>> = { X: 112, x: 92, g: 34 };

export const PRACTICE_PATTERNS: readonly PracticePattern[] = [
  { name: 'Feet, then hats', layers: [{ kick: 'X.....x.X.......', snare: '....X.......X..g' }, { 'hat-closed': 'X.x.X.x.X.x.X.x.' }] },
  { name: 'Backbeat, all at once', layers: [{ kick: 'X.......X.x.....', snare: '....X..g....X...', 'hat-closed': 'X.x.x.x.X.x.x.x.' }] },
  { name: 'Sixteenth hats', layers: [{ 'hat-closed': 'Xgxgxgxgxgxgxgxg' }] },
];

/** The bars of a loop, in seconds from its start. */
export interface LoopShape {
  /** Length of the loop. */
  length: Seconds;
  /** Start and length of each bar, and how many sixteenths it has. */
  bars: readonly { start: number; length: number; sixteenths: number }[];
}

/**
 * Strokes of a pattern in `[from, to)` over the passes of a loop; bars longer or shorter than sixteen sixteenths go round or are cut.
 * `keyOf` gives the key that strikes a voice.
 */
export function strokesOfPattern(
  pattern: PracticePattern,
  keyOf: (voice: VoiceName) => number,
  loop: LoopShape,
  from: Seconds,
  to: Seconds,
): PlannedStroke[] {
  const strokes: PlannedStroke[] = [];
  for (let pass = Math.max(0, Math.floor(from / loop.length)); pass * loop.length < to; pass++) {
    const layer = pattern.layers[pass % pattern.layers.length] ?? {};
    for (const bar of loop.bars) {
      for (let s = 0; s < bar.sixteenths; s++) {
        const at = pass * loop.length + bar.start + (s * bar.length) / bar.sixteenths;
        if (at < from || at >= to) continue;
        for (const [voice, signs] of Object.entries(layer)) {
          const velocity = LEVELS[signs[s % signs.length] as string];
          if (velocity !== undefined) strokes.push({ at: seconds(at), key: keyOf(voice), velocity });
        }
      }
    }
  }
  return strokes.sort((a, b) => a.at - b.at || a.key - b.key);
}
