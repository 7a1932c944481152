import type { Tightness } from '@/core/take/tightness';
import { loosenessWord } from '../../shared/looseness';

/** @example tightnessWords({ meanMs: 4.2, spreadMs: 8.6, hits: 62 }) // '4.2 ms late on average, ± 8.6 ms: human' */
export function tightnessWords(tightness: Tightness | null): string {
  if (!tightness) return 'no strokes in the loop';
  const { meanMs, spreadMs } = tightness;
  const mean =
    Math.abs(meanMs) < 0.5 ? 'on the grid on average' : `${Math.abs(meanMs).toFixed(1)} ms ${meanMs < 0 ? 'early' : 'late'} on average`;
  return `${mean}, ± ${spreadMs.toFixed(1)} ms: ${loosenessWord(spreadMs)}`;
}
