import { breakOfRow } from '../breaks/rows';
import { keyOfVoice, keyOnKit } from '../key-map';
import type { Part } from '../model/part';
import type { Target } from '../model/target';
import { soundOfRow } from '../part/rows';
import { allRowsOf, type VoiceName } from '../row-names';
import { throughCurve } from '../velocity-curve';

type Leaving = Pick<Part, 'rows' | 'breaks'>;

const LAST_KEY = 127;

/**
 * The key that a hit of a row leaves with, by a target.
 * @example keysFor(part, { ...NO_TARGET, keys: { kind: 'chromatic', from: 36 } })('kick', 35) // 36, where the kick is the lowest row
 */
export function keysFor(part: Leaving, { keys }: Pick<Target, 'keys'>): (row: VoiceName, key: number) => number {
  if (keys.kind === 'hits') return (_, key) => key;
  const known = new Map<VoiceName, number>();
  if (keys.kind === 'chromatic') {
    // Rows of breaks have no key elsewhere.
    [...part.rows].reverse().filter(({ voice }) => !breakOfRow(part, voice)).forEach(({ voice }, i) => known.set(voice, Math.min(LAST_KEY, keys.from + i)));
    return (row, key) => known.get(row) ?? key;
  }
  const map = { name: '', voices: keys.voices };
  const keyOf = (row: VoiceName): number => keyOfVoice(map, keyOnKit(map, row) === undefined ? soundOfRow(part, row) : row);
  return (row, key) => {
    const meant = map.voices[key];
    if (meant !== undefined && (meant === row || (keyOnKit(map, row) === undefined && meant === soundOfRow(part, row)))) return key;
    let found = known.get(row);
    if (found === undefined) known.set(row, (found = keyOf(row)));
    return found;
  };
}

/** The channel that a row leaves on, 1 to 16; those of `snare:*` and the like count for all rows of their voice. */
export function channelFor({ channel, channels }: Pick<Target, 'channel' | 'channels'>, row: VoiceName): number {
  return channels?.[row] ?? channels?.[allRowsOf(row)] ?? channel;
}

/** The velocity that a stroke leaves with, 1 to 127. */
export const velocityFor = ({ curve }: Pick<Target, 'curve'>, velocity: number): number => throughCurve(curve, velocity);
