import { NamedError } from '@/core/errors';
import { exportSong } from '@/core/smf/export-song';
import { readSmf } from '@/core/smf/read';
import { partStore } from '@/storage/part-store';
import { account } from './account';
import { midiName } from './file-name';
import type { ExporterSpec } from './exporter';
import { firstNotes, NotesChoices, type NotesOptions } from './midi-options';

const { message, remedy } = new NamedError('meter-changed');
const GRID_CHANGED = `${message} ${remedy}`;

export const midiSong: ExporterSpec<NotesOptions> = {
  id: 'song',
  title: 'the song with these drums',
  about: 'with every other track as it came, byte for byte',
  isAvailable: ({ hasSong }) => hasSong,
  initial: firstNotes,
  // The grid was made for this part's hits.
  refusal: ({ part }) => (part.playerTempo ? GRID_CHANGED : null),
  Options: NotesChoices,
  isQuick: true,
  async run({ id, part }, { version, withMuted, generalMidi }) {
    const song = await partStore.song(id);
    if (!song) throw new NamedError('no-source');
    const written = version === 'written';
    const result = exportSong(part, readSmf(song), { written, withMuted, generalMidi });
    return {
      data: result.bytes,
      fileName: midiName(`${part.name} song${written ? ' written' : ''}`, result),
      type: 'audio/midi',
      said: account(result, part, { song: true, written }),
    };
  },
};
