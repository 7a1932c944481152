import { shortName } from './limits';

/**
 * Every error that a user can cause, in one table: what happened and what to do about it.
 * The interface shows both sentences, the HTTP API sends the code and the first.
 */
const TEXTS = {
  'empty-file': ['The file is empty.', 'Choose another file.'],
  'not-midi': ['This is not a standard MIDI file.', 'Its contents are damaged or of another kind: export it again where it was made.'],
  'damaged-midi': ['The MIDI file has a header, but no readable tracks.', 'Export it again from where it was made.'],
  'no-notes': ['The MIDI file has no notes.', 'Choose a file that has a drum part.'],
  'no-drum-notes': ['There are no notes on the chosen drum channels.', 'Pick the channels that carry the drums.'],
  'nothing-to-learn': ['There are no hits to extract a groove from.', 'Choose other voices, or another part.'],
  'file-too-large': ['The file is larger than 8 MiB.', 'Cut it into shorter parts first.'],
  'part-too-long': ['The part is longer than 100,000 quarter notes.', 'Cut it into shorter parts first.'],
  'too-many-bars': ['The part has more than 100,000 bars.', 'Cut it into shorter parts first.'],
  'too-many-tracks': ['The MIDI file has more than 2,048 tracks.', 'Take out tracks that are not needed.'],
  'too-many-hits': ['The part has more than 160,000 hits.', 'Cut it into shorter parts first.'],
  'too-many-tempos': ['The part has more than 50,000 tempo changes.', 'Thin them out first.'],
  'too-many-meters': ['The part has more than 20,000 meter changes.', 'Cut it into shorter parts first.'],
  'too-much-work': ['This feel has too many moves for this many hits.', 'Use fewer moves, or cut the part into shorter ones.'],
  'too-much-to-compare': ['The part has too many rows and bars that differ to compare them all.', 'Cut it into shorter parts first.'],
  'meter-changed': [
    "The time signature was changed or the grid follows the player: the song's other tracks no longer fit the bars.",
    'Export the part instead.',
  ],
  'bad-feel': ['The feel is not valid.', 'Correct the named field.'],
  'bad-groove': ['The groove file is not valid.', 'Correct the named field, or export the groove again.'],
  'bad-part': ['The part file is not valid.', 'Correct the named field, or export the part again.'],
  'bad-pattern': ['The pattern file is not valid.', 'Correct the named field, or export the pattern again.'],
  'no-such-length': ['The part cannot be converted.', 'Change what is named, or keep the tempo.'],
  'bad-target': ['The output map is not valid.', 'Correct the named field, or export the output map again.'],
  'bad-kit': ['The drum map is not valid.', 'Correct the named field, or export the drum map again.'],
  'bad-sound': ['This is not a sound that can be read.', 'Save it as a WAV file of 8 to 32 bits.'],
  'silent-sound': ['This file is silent.', 'Choose another file.'],
  'sound-too-large': ['The sound file is larger than 64 MiB.', 'Trim it first.'],
  'sound-too-long': ['The sound is too long.', 'Trim it first.'],
  'bad-sound-kit': ['The kit file is not valid.', 'Export the kit again, or choose its sounds themselves.'],
  'too-many-sounds': ['These are more files, or larger ones, than a kit can hold: 4,096 and 512 MiB.', 'Choose fewer at once.'],
  'bad-zip': ['The zip file cannot be read.', 'Pack it again, or choose the unpacked folder.'],
  'bad-library': [
    'The library file is not valid.',
    'Nothing of it was restored. Make the backup again, or open the part files in it one by one.',
  ],
  'library-too-large': [
    'This is more than a library file can hold: 4 GB and 65,000 files.',
    'Export some parts at a time: choose them on the Shelf.',
  ],
  'no-strokes': [
    'Too few strokes stand out in this sound to tell bars.',
    'Choose a loop with a beat, or import it into a part and set its bars by hand.',
  ],
  'too-few-strokes': ['There are too few hits to find a beat.', 'At least eight are needed; more bars give better results.'],
  'too-many-strokes': ['There are more than 20,000 hits to find a beat in.', 'Cut the take into shorter ones first.'],
  'take-too-long': ['The take is longer than two hours.', 'Cut it into shorter ones first.'],
  'no-demos': ['The demo parts could not be fetched.', 'Reload the page when the server can be reached.'],
  'no-recording': ['The recording could not be fetched.', 'Reload the page when the server can be reached.'],
  'no-sounds': ['There is no sound among these files.', 'Choose WAV files, a folder of them, or a kit that was exported here.'],
  'newer-format': [
    'This was made by a newer version of Nod Sway, in a format that this one does not know.',
    'Open it there, or bring this version up to date.',
  ],
  'bad-field': ['A field is missing or has a wrong value.', 'Correct the named field.'],
  'bad-resolution': ['This resolution does not fit.', 'Choose a whole number from 24 to 32767, for a song a multiple of its own.'],
  'no-source': ['This part was not imported from a song.', 'Export it as a part instead.'],
  'store-full': [
    'The browser has no room left for this part.',
    'It is saved as soon as there is room. Save a part file to be safe, then free some space.',
  ],
  'store-lost': [
    'The browser closed its storage; the disk may be full.',
    'Your work stays open in this tab and is saved as soon as there is room. Save a part file to be safe.',
  ],
  'store-refused': ['The browser does not let this page store data.', 'Your work stays open in this tab: export it to keep it.'],
  'changed-elsewhere': ['This part was changed in another tab, too.', 'Look at both and choose; the other one is kept.'],
  'deleted-elsewhere': ['This part was deleted in another tab.', 'Put it back, keep it as a new part, or save it as a file.'],
  'store-silent': ["The browser's storage does not respond.", 'Work goes on in memory: export what you want to keep, then reload.'],
  'not-ours': ['This file is neither a Nod Sway file nor a MIDI file.', 'Choose a .mid file, or one that was exported here.'],
  'not-found': ['This part is not on the Shelf.', 'Go back to the Shelf and choose another.'],
} as const;

export type ErrorCode = keyof typeof TEXTS;

const PASSING: readonly ErrorCode[] = ['store-full', 'store-lost', 'store-refused'];

/** Whether the browser's storage refused, and may accept the same write or read later. */
export const isPassing = (e: unknown): boolean => isNamedError(e) && PASSING.includes(e.code);

/** An error that says what happened and what to do; `details` names fields or counts where it helps. */
export class NamedError extends Error {
  readonly remedy: string;
  constructor(
    readonly code: ErrorCode,
    readonly details?: unknown,
    what?: string,
  ) {
    super(what ?? TEXTS[code][0]);
    this.name = 'NamedError';
    this.remedy = TEXTS[code][1];
  }
}

/** The same error, said of a file. @example errorOfFile(e, 'beat.mid').message // 'beat.mid: This is not a standard MIDI file.' */
export const errorOfFile = (e: unknown, fileName: string): unknown =>
  isNamedError(e) && !e.message.startsWith(fileName) ? new NamedError(e.code, e.details, `${shortName(fileName)}: ${e.message}`) : e;

export const isNamedError = (e: unknown): e is NamedError => e instanceof NamedError;

/** Plain data of an error: it survives a worker's border, where classes do not. */
export interface ErrorReport {
  code: ErrorCode;
  message: string;
  remedy: string;
  details?: unknown;
}

export const reportError = (e: NamedError): ErrorReport => ({ code: e.code, message: e.message, remedy: e.remedy, details: e.details });
export const errorFromReport = (r: ErrorReport): NamedError => new NamedError(r.code, r.details, r.message);
