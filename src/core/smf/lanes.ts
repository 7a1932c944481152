import { labelOfVoice, voiceOfKey, GENERAL_MIDI_KIT } from '../voices';
import type { Lane } from '../part/part';
import { channelOf, type SmfFile } from './read';

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
    const keys = new Map<number, Map<number, number>>();
    for (const event of track.events) {
      if ((event.status & 0xf0) !== 0x90 || file.bytes[event.start + 1] === 0) continue;
      const channel = channelOf(event.status);
      let counts = keys.get(channel);
      if (!counts) keys.set(channel, (counts = new Map()));
      const key = file.bytes[event.start] as number;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    for (const [channel, counts] of [...keys].sort((a, b) => a[0] - b[0])) {
      const common = [...counts].sort((a, b) => b[1] - a[1]).slice(0, 3);
      lanes.push({
        track: index,
        channel,
        trackName: track.name,
        notes: [...counts.values()].reduce((sum, n) => sum + n, 0),
        sample: common.map(([key]) => labelOfVoice(voiceOfKey(GENERAL_MIDI_KIT, key))).join(', '),
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
