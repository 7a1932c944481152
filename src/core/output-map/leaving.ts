import { breakOfRow } from '../breaks/rows';
import { keyOfVoice } from '../key-map';
import type { Hit, Part } from '../model/part';
import type { OutputMap } from '../model/output-map';
import { generalMidiKey, soundOfRow } from '../part/rows';
import { allRowsOf, standIns, voiceOfRow, type VoiceName } from '../row-names';
import { hatOf } from '../articulation/openness';
import { throughCurve } from '../velocity-curve';

type Leaving = Pick<Part, 'rows' | 'breaks'>;

const LAST_KEY = 127;

/**
 * The key that a hit of a row leaves with, by a target.
 * @example keysFor(part, { ...NO_TARGET, keys: { kind: 'chromatic', from: 36 } })('kick', 35) // 36, where the kick is the lowest row
 */
export function keysFor(part: Leaving, { keys }: Pick<OutputMap, 'keys'>): (row: VoiceName, key: number) => number {
  if (keys.kind === 'hits') return (_, key) => key;
  const known = new Map<VoiceName, number>();
  if (keys.kind === 'chromatic') {
    // Rows of breaks have no key elsewhere.
    [...part.rows]
      .reverse()
      .filter(({ voice }) => !breakOfRow(part, voice))
      .forEach(({ voice }, i) => known.set(voice, Math.min(LAST_KEY, keys.from + i)));
    return (row, key) => known.get(row) ?? key;
  }
  const find = keys.kind === 'rows' ? (row: VoiceName) => keyOfRow(part, keys.rows, row) : undefined;
  return (row, key) => {
    if (!find) return generalMidiKey(part, row, key) ?? key;
    let found = known.get(row);
    if (found === undefined) known.set(row, (found = find(row) ?? key));
    return found;
  };
}

/** The key of a row, or of what stands for it. */
function keyOfRow(part: Leaving, keys: Readonly<Record<VoiceName, number>>, row: VoiceName): number | undefined {
  const sound = soundOfRow(part, row);
  return [row, voiceOfRow(row), sound, ...standIns(sound)].map((name) => keys[name]).find((key) => key !== undefined);
}

/**
 * Every row of a part with the key that its hits leave with: what a user changes one by one.
 * @example keysOfRows(part, NO_TARGET) // { kick: 36, snare: 38 }
 */
export function keysOfRows(
  part: Pick<Part, 'rows' | 'breaks' | 'hits' | 'kitMap'>,
  target: Pick<OutputMap, 'keys'>,
): Record<VoiceName, number> {
  const keyOf = keysFor(part, target);
  const written = new Map<VoiceName, number>();
  for (const { voice, key } of part.hits) if (!written.has(voice)) written.set(voice, key);
  const rows = part.rows.filter(({ voice }) => !breakOfRow(part, voice));
  return Object.fromEntries(rows.map(({ voice }) => [voice, keyOf(voice, written.get(voice) ?? keyOfVoice(part.kitMap, voice))]));
}

/**
 * The key that a hit is sent with: its row's, or, with articulation as keys, that of the hi-hat voice matching its openness.
 * @example keysOfHits(part, map)({ voice: 'hat-closed', key: 42, openness: 127 }) // 46, where General MIDI's keys are wanted
 */
export function keysOfHits(
  part: Leaving & Pick<Part, 'kitMap'>,
  map: Pick<OutputMap, 'keys' | 'articulation'>,
): (hit: Pick<Hit, 'openness'>, row: VoiceName, key: number) => number {
  const keyOf = keysFor(part, map);
  if (map.articulation !== 'keys') return (_, row, key) => keyOf(row, key);
  return ({ openness }, row, key) => {
    const hat = hatOf(row, openness);
    return hat === row ? keyOf(row, key) : keyOf(hat, keyOfVoice(part.kitMap, hat));
  };
}

/** The channel that a row leaves on, 1 to 16; those of `snare:*` and the like count for all rows of their voice. */
export function channelFor({ channel, channels }: Pick<OutputMap, 'channel' | 'channels'>, row: VoiceName): number {
  return channels?.[row] ?? channels?.[allRowsOf(row)] ?? channel;
}

/** The velocity that a stroke leaves with, 1 to 127. */
export const velocityFor = ({ curve }: Pick<OutputMap, 'curve'>, velocity: number): number => throughCurve(curve, velocity);
