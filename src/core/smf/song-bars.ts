import type { Lane } from '../model/part';
import { MeterMap } from '../time/meter-map';
import { ticks } from '../units';
import { mapsOfSong, tickScale } from './import-part';
import type { SmfFile } from './read';

/**
 * Bars of a whole song, in the meters of its file: up to the bar line after the last event of any track.
 * @param drums the lanes that the part came from
 */
export function barsOfSong(file: SmfFile, drums: readonly Lane[]): number {
  const toTicks = tickScale(file);
  const last = file.tracks.reduce(
    (most, { events }) => (events.length > 0 ? Math.max(most, toTicks(events.ticks[events.length - 1] as number)) : most),
    0,
  );
  const bar = new MeterMap(mapsOfSong(file, drums, []).meter).barAt(ticks(last));
  return bar.start < last ? bar.index + 1 : bar.index;
}

/**
 * Why a part is shorter than its song.
 * @example songBarsText(69, 73) // 'The part ends with its last drum hit, in bar 69. The song goes on to bar 73.'
 */
export const songBarsText = (part: number, song: number): string =>
  `The part ends with its last drum hit, in bar ${part}. The song goes on to bar ${song}.`;
