import { voiceOfKey, GENERAL_MIDI_KIT } from '../key-map';
import { labelOfVoice } from '../voices';
import type { Lane } from '../model/part';
import type { SmfFile } from './read';

/** A track and channel of a file with the notes that start on it. */
export interface LaneContent extends Lane {
  trackName: string;
  notes: number;
  /** What its commonest keys would play as drums, to help a user choose. */
  sample: string;
}

/** General MIDI's drum channel. */
export const DRUM_CHANNEL = 10;

/** Every track and channel that has notes, in file order. */
export function listLanes(file: SmfFile): LaneContent[] {
  const lanes: LaneContent[] = [];
  file.tracks.forEach((track, index) => {
    // Note-ons by channel and key.
    const counts = new Uint32Array(16 * 128);
    const { length, statuses, starts } = track.events;
    for (let i = 0; i < length; i++) {
      const status = statuses[i] as number;
      const at = starts[i] as number;
      if ((status & 0xf0) === 0x90 && file.bytes[at + 1] !== 0) counts[(status & 0x0f) * 128 + (file.bytes[at] as number)]!++;
    }
    for (let channel = 1; channel <= 16; channel++) {
      const own = counts.subarray((channel - 1) * 128, channel * 128);
      const notes = own.reduce((sum, n) => sum + n, 0);
      if (notes === 0) continue;
      const common = [...own.keys()].filter((key) => own[key]).sort((a, b) => (own[b] as number) - (own[a] as number) || a - b);
      lanes.push({
        track: index,
        channel,
        trackName: track.name,
        notes,
        sample: common
          .slice(0, 3)
          .map((key) => labelOfVoice(voiceOfKey(GENERAL_MIDI_KIT, key)))
          .join(', '),
      });
    }
  });
  return lanes;
}

/** The lanes that plainly carry drums: those on channel 10; of a format 2 file those of its first track that has any. */
export function drumLanes(file: SmfFile, lanes: readonly LaneContent[], channels: readonly number[] = [DRUM_CHANNEL]): LaneContent[] {
  const found = lanes.filter((lane) => channels.includes(lane.channel));
  return file.format === 2 ? found.filter((lane) => lane.track === found[0]?.track) : found;
}

/** Notes by channel, for an error that says where notes are. */
export function notesByChannel(lanes: readonly LaneContent[]): Record<number, number> {
  const counts: Record<number, number> = {};
  for (const lane of lanes) counts[lane.channel] = (counts[lane.channel] ?? 0) + lane.notes;
  return counts;
}
