import { counted } from '@/core/plurals';
import type { Effect } from '@/core/perform/effect';

/**
 * @example effectWords(effect) // 'Moves 84 hits, 9.4 ms on average, 20.1 at most; changes the velocity of 148 hits by 4 on average, 11 at
 * most.'
 */
export function effectWords({ hits, moved, meanMs, largestMs, levelled, meanVelocity, largestVelocity, timbres }: Effect): string {
  if (hits === 0 && timbres === 0) return 'It changes nothing right now.';
  const [ms, mostMs, velocity] = [meanMs.toFixed(1), largestMs.toFixed(1), meanVelocity.toFixed(0)];
  const time =
    moved === 0 ? null : `moves ${counted(moved, 'hit')}${ms === mostMs ? ` by ${ms} ms` : `, ${ms} ms on average, ${mostMs} at most`}`;
  const amount = velocity === String(largestVelocity) ? `by ${velocity}` : `by ${velocity} on average, ${largestVelocity} at most`;
  const level = levelled === 0 ? null : `changes the velocity of ${counted(levelled, 'hit')} ${amount}`;
  const sound = timbres === 0 ? null : `changes the sound of ${counted(timbres, 'hit')}`;
  const text = [time, level, sound].filter(Boolean).join('; ');
  return `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}.`;
}
