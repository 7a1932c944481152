import type { Effect } from '@/core/perform/effect';

/** @example effectWords(effect) // '48 hits: 3.1 ms, at most 9.0; velocity 4, at most 11' */
export function effectWords({ hits, meanMs, largestMs, meanVelocity, largestVelocity, timbres }: Effect): string {
  const sound = timbres > 0 ? `sound of ${timbres} ${timbres === 1 ? 'hit' : 'hits'}` : null;
  if (hits === 0) return sound ?? 'changes nothing right now';
  const words = [];
  if (largestMs >= 0.1) words.push(`${meanMs.toFixed(1)} ms, at most ${largestMs.toFixed(1)}`);
  if (largestVelocity > 0) words.push(`velocity ${meanVelocity.toFixed(0)}, at most ${largestVelocity}`);
  return `${hits} ${hits === 1 ? 'hit' : 'hits'}: ${words.join('; ')}${sound ? `; ${sound}` : ''}`;
}
