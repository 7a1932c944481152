import * as Comlink from 'comlink';
import type { Lane } from '@/core/model/part';
import { renderTones } from '@/core/playback/tones';
import { MOST_SECONDS } from '@/core/limits';
import { otherTracks } from '@/core/smf/other-tracks';
import { barsOfSong } from '@/core/smf/song-bars';
import { readSmf } from '@/core/smf/read';
import { TempoMap, type TempoChange } from '@/core/time/tempo-map';
import { seconds } from '@/core/units';
import { sayReady } from './ready';

/** A track of a song beside its drums, for the one who chooses. */
export interface TrackChoice {
  id: string;
  name: string;
  isBass: boolean;
}

export interface MadeTones {
  samples: Float32Array<ArrayBuffer>;
  rate: number;
}

const RATE = 22_050;

/** Makes plain tones of a song's other tracks. */
const api = {
  tracks: (song: Uint8Array, drums: readonly Lane[]): TrackChoice[] =>
    otherTracks(readSmf(song), drums).map(({ id, name, isBass }) => ({ id, name, isBass })),
  bars: (song: Uint8Array, drums: readonly Lane[]): number => barsOfSong(readSmf(song), drums),
  /** Those that are named, from the file's zero, at a tempo. */
  make(song: Uint8Array, drums: readonly Lane[], heard: readonly string[], tempo: readonly TempoChange[]): MadeTones {
    const map = new TempoMap(tempo);
    const tones = otherTracks(readSmf(song), drums)
      .filter((t) => heard.includes(t.id))
      .flatMap((t) => t.notes)
      .map(({ start, end, key, velocity }) => ({
        start: map.toSeconds(start),
        length: seconds(map.toSeconds(end) - map.toSeconds(start)),
        key,
        velocity,
      }));
    const last = tones.reduce((most, t) => Math.max(most, t.start + t.length), 0);
    const samples = renderTones(tones, RATE, Math.min(MOST_SECONDS, last + 0.5));
    return Comlink.transfer({ samples, rate: RATE }, [samples.buffer]);
  },
};

export type TonesApi = typeof api;

Comlink.expose(api);
sayReady();
