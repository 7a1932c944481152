import { parseMidi, type MidiEvent } from 'midi-file';

export type Timed = MidiEvent & { at: number };

/** The tracks of a file with absolute ticks, read by a package that is not ours. */
export function tracksOf(bytes: Uint8Array): Timed[][] {
  return parseMidi(bytes).tracks.map((track) => {
    let at = 0;
    return track.map((e) => ({ ...e, at: (at += e.deltaTime) }));
  });
}

/** All but the ends of tracks; notes that go on behind a tick end there. */
export const contentOf = (bytes: Uint8Array, until = Infinity): unknown[][] =>
  tracksOf(bytes).map((track) =>
    track
      .filter((e) => e.type !== 'endOfTrack')
      .map(({ deltaTime: _, ...e }) => (e.type === 'noteOff' ? { ...e, at: Math.min(e.at, until) } : e)),
  );
