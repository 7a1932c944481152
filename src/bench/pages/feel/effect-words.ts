import type { Effect } from '@/core/perform/effect';

/** @example effectWords(effect) // 'Moves 48 hits, 3.1 ms on average, 9.0 at most; their velocities change by 4 on average, 11 at most.' */
export function effectWords({ hits, meanMs, largestMs, meanVelocity, largestVelocity, timbres }: Effect): string {
  const counted = (n: number) => `${n} ${n === 1 ? 'hit' : 'hits'}`;
  const sound = timbres > 0 ? `the sound of ${counted(timbres)}` : null;
  if (hits === 0) return sound ? `Changes ${sound}.` : 'It changes nothing right now.';
  const [ms, mostMs, velocity] = [meanMs.toFixed(1), largestMs.toFixed(1), meanVelocity.toFixed(0)];
  const time = largestMs < 0.1 ? null : `Moves ${counted(hits)}${ms === mostMs ? ` by ${ms} ms` : `, ${ms} ms on average, ${mostMs} at most`}`;
  const amount = velocity === String(largestVelocity) ? `by ${velocity}` : `by ${velocity} on average, ${largestVelocity} at most`;
  const level = largestVelocity === 0 ? null : time ? `their velocities change ${amount}` : `Changes the velocity of ${counted(hits)} ${amount}`;
  return `${[time, level, sound && `${sound} changes`].filter(Boolean).join('; ')}.`;
}
