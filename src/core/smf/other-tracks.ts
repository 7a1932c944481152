import type { Lane } from '../model/part';
import { median } from '../statistics';
import type { Ticks } from '../units';
import { ticks } from '../units';
import { tickScale } from './import-part';
import { DRUM_CHANNEL, listLanes } from './lanes';
import { channelOf, isNote, type SmfFile } from './read';

/** A note of a song that is no drum's. */
export interface SongNote {
  start: Ticks;
  end: Ticks;
  key: number;
  velocity: number;
}

/** A track and channel of a song beside its drums. */
export interface OtherTrack extends Lane {
  /** For the one who chooses: `track.channel`. */
  id: string;
  name: string;
  isBass: boolean;
  notes: SongNote[];
}

/** A bass plays below this on the whole: the E in the middle of a bass clef. */
const BASS_BELOW = 50;

/**
 * The other tracks of a song, each with its notes in internal ticks. Notes that never end last a quarter.
 * @param drums the lanes that the part came from
 */
export function otherTracks(file: SmfFile, drums: readonly Lane[]): OtherTrack[] {
  const scale = tickScale(file);
  const isDrums = (lane: Lane): boolean =>
    lane.channel === DRUM_CHANNEL || drums.some((d) => d.track === lane.track && d.channel === lane.channel);
  return listLanes(file)
    .filter((lane) => !isDrums(lane))
    .map(({ track, channel, trackName }): OtherTrack => {
      const notes = notesOfLane(file, { track, channel }, scale);
      const named = trackName.trim();
      return {
        track,
        channel,
        id: `${track}.${channel}`,
        name: named || `Track ${track + 1}, channel ${channel}`,
        isBass: /bass/i.test(named) || median(notes.map((n) => n.key)) < BASS_BELOW,
        notes,
      };
    });
}

function notesOfLane(file: SmfFile, { track, channel }: Lane, scale: (tick: number) => number): SongNote[] {
  const events = file.tracks[track]?.events;
  const notes: SongNote[] = [];
  const open = new Map<number, SongNote[]>();
  for (let i = 0; events && i < events.length; i++) {
    const status = events.statuses[i] as number;
    if (!isNote(status) || channelOf(status) !== channel) continue;
    const at = events.starts[i] as number;
    const [key, velocity] = [file.bytes[at] as number, file.bytes[at + 1] as number];
    const tick = ticks(scale(events.ticks[i] as number));
    if ((status & 0xf0) === 0x90 && velocity > 0) {
      const note = { start: tick, end: ticks(tick + UNENDED), key, velocity };
      notes.push(note);
      open.set(key, [...(open.get(key) ?? []), note]);
    } else {
      const ended = open.get(key)?.shift();
      if (ended) ended.end = tick;
    }
  }
  return notes;
}

/** A quarter. */
const UNENDED = 80_640;
