import * as Comlink from 'comlink';
import { importPart, type ImportedPart } from '@/core/smf/import-part';
import { listLanes, type LaneContent } from '@/core/smf/lanes';
import { otherTracks } from '@/core/smf/other-tracks';
import { barsOfSong, songBarsText } from '@/core/smf/song-bars';
import { readSmf } from '@/core/smf/read';
import type { Lane } from '@/core/model/part';
import { outcome, type Outcome } from './outcome';
import { sayReady } from './ready';

/** Reads MIDI files away from the interface, so that a large one never freezes it. */
const api = {
  lanes: (bytes: Uint8Array): Outcome<{ format: number; lanes: LaneContent[] }> =>
    outcome(() => {
      const file = readSmf(bytes);
      return { format: file.format, lanes: listLanes(file) };
    }),
  part: (bytes: Uint8Array, name: string, fileName: string, lanes: Lane[]): Outcome<ImportedPart> =>
    outcome(() => {
      const file = readSmf(bytes);
      const { part, notices } = importPart(file, { name, fileName, lanes });
      const song = barsOfSong(file, lanes);
      return {
        part,
        notices: otherTracks(file, lanes).length > 0 && song > part.bars ? [...notices, songBarsText(part.bars, song)] : notices,
      };
    }),
};

export type ImportApi = typeof api;

Comlink.expose(api);
sayReady();
