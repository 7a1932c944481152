import type { Hit } from '../model/part';
import { milliseconds, ticks } from '../units';
import { familyOfVoice, voiceOfRow, type VoiceName } from '../row-names';
import { evenOf, mix, mixLong, SALT } from '../feel/random-values';
import { APART_GROUPS, type ApartGroup, type ApartMove } from '../model/feel';
import { choice, number, optional, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** The group that a row sounds with. @example groupOf('ride-bell') // 'ride-and-hats' */
export function groupOf(voice: VoiceName): ApartGroup {
  const family = familyOfVoice(voice) ?? voiceOfRow(voice);
  if (family === 'ride' || family === 'hat') return 'ride-and-hats';
  if (family === 'tom') return 'toms';
  return family === 'kick' || family === 'snare' || family === 'clap' || family === 'crash' ? family : 'others';
}

/** Ranks of the groups: the named ones first, the rest in the usual order. */
const ranksOf = (order: readonly ApartGroup[]): Map<ApartGroup, number> =>
  new Map([...new Set([...order, ...APART_GROUPS])].map((group, i) => [group, i]));

/** Sets hits of different voices on one line apart, from the first to the last `ms`, a little more or less at each home. */
const applyApart: ApplyMove<ApartMove> = ({ ms, order, by }, { hits, range, times, lines, homes, tempo }, inScope, seed) => {
  if (ms === 0) return;
  const ranks = ranksOf(order);
  const salted = mix(seed, SALT.spread);
  const together = new Map<number, number[]>();
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    const home = (by === 'home' ? homes.ticks : lines)[i] as number;
    const list = together.get(home);
    if (list) list.push(i);
    else together.set(home, [i]);
  }
  for (const [home, indices] of together) {
    if (indices.length < 2) continue;
    // Strokes of one voice count as one; its lowest key stands for it.
    const keys = new Map<VoiceName, number>();
    for (const i of indices) {
      const { voice, key } = hits[i] as Hit;
      keys.set(voice, Math.min(key, keys.get(voice) ?? key));
    }
    if (keys.size < 2) continue;
    const voices = [...keys]
      .sort(([a, keyA], [b, keyB]) => (ranks.get(groupOf(a)) as number) - (ranks.get(groupOf(b)) as number) || keyA - keyB)
      .map(([voice]) => voice);
    const r = 0.7 + 0.6 * evenOf(mixLong(salted, home));
    const shift = new Map(voices.map((voice, k) => [voice, (k / (voices.length - 1) - 0.5) * ms * r]));
    for (const i of indices) times[i] = tempo.shift(ticks(times[i] as number), milliseconds(shift.get((hits[i] as Hit).voice) as number));
  }
};

export const apartMove: MoveSpec<ApartMove> = {
  kind: 'apart',
  members: { ms: number(0, 30), order: { is: 'order', of: APART_GROUPS }, by: optional(choice(['line', 'home'])) },
  plain: { kind: 'apart', ms: 5, order: APART_GROUPS },
  // Of the first format, so that the same seed keeps the same dice.
  salt: 'spread',
  draws: true,
  apply: applyApart,
};
