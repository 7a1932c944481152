/**
 * What is too much, by name: whatever comes from outside is refused above these, so that no file holds the page or a server. They lie
 * far above real work, and within them everything is linear or n log n.
 */

/** Longest part, in quarter notes ... */
export const MAX_QUARTERS = 100_000;
/** ... and in bars. */
export const MAX_BARS = 100_000;
/** Tracks of a MIDI file. */
export const MOST_TRACKS = 2048;
/** Hits of a part. */
export const MOST_HITS = 160_000;
export const MOST_TEMPOS = 50_000;
export const MOST_METERS = 20_000;
/** Rows of a part; MIDI files have at most 128. */
export const MOST_ROWS = 512;
/** Entries of a list within a feel or a groove. */
export const MOST_ENTRIES = 4096;
/** Files of a kit of sounds, a folder or a zip, and bytes of them, counted while unpacking. */
export const KIT_LIMITS = { entries: 4096, bytes: 512 * 2 ** 20 } as const;
/** At most so many seconds of a recording are a drum's sound. */
export const LONGEST_SAMPLE = 60;
/** At most so large is a file of sound, in bytes. */
export const LARGEST_SOUND = 64 * 2 ** 20;
/** The longest sound that is listened to, in seconds. */
export const MOST_SECONDS = 600;
/** Letters of a name; longer ones are shortened. */
export const LONGEST_NAME = 240;
/**
 * What a request may ask for, in hits times moves by their weight: a song of 18,000 hits may have 64 plain ones. It takes under two
 * seconds.
 */
export const MOST_WORK = 1_300_000;
/** Reading, fitting and writing a hit takes as long as so many moves. */
const MOVES_OF_A_HIT = 6;

/** @example workOf(18_000, 64) <= MOST_WORK // true */
export const workOf = (hits: number, moves: number): number => hits * (moves + MOVES_OF_A_HIT);

/** A name within {@link LONGEST_NAME}, cut between letters. @example shortName('x'.repeat(300)).length // 240 */
export const shortName = (name: string): string =>
  name.length <= LONGEST_NAME
    ? name
    : `${name
        .slice(0, LONGEST_NAME - 1)
        .trimEnd()
        .toWellFormed()
        .replace(/\uFFFD$/, '')}…`;
