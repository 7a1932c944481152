import { metaName, noteEvents, rawTracks, tempoEvent, meterEvent, midiFile, trackChunk, type TestEvent } from './midi-bytes';

/** Files that are small to send and were hard to read: each must be answered or refused by name, and soon. */
export interface WorstFile {
  name: string;
  bytes: () => Uint8Array;
  /** The code that it is refused with; null where it is answered. */
  refused: string | null;
}

const one = (events: readonly TestEvent[], ppq = 480): Uint8Array =>
  midiFile(0, ppq, [trackChunk([...events].sort((a, b) => a[0] - b[0]))]);
const beat = noteEvents(
  [
    [0, 36, 100],
    [480, 38, 90],
  ],
  30,
);
const many = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i));

export const WORST_FILES: readonly WorstFile[] = [
  {
    name: '100,000 overlapping notes of one key',
    bytes: () =>
      one([...many(100_000, (i): TestEvent => [i, 0x99, 36, 100]), ...many(100_000, (i): TestEvent => [100_000 + i, 0x89, 36, 64])]),
    refused: null,
  },
  {
    name: '50,000 meter changes',
    bytes: () => one([...many(50_000, (i) => meterEvent(i * 480, 1 + (i % 2), 2)), ...beat, ...noteEvents([[50_000 * 480, 36, 90]], 30)]),
    refused: 'too-many-meters',
  },
  {
    name: '60,000 tempo changes',
    bytes: () => one([...many(60_000, (i) => tempoEvent(i * 480, 400_000 + i)), ...beat, ...noteEvents([[60_000 * 480, 36, 90]], 30)]),
    refused: 'too-many-tempos',
  },
  {
    name: '20,000 tracks',
    bytes: () => midiFile(1, 480, [trackChunk(beat), ...many(20_000, () => trackChunk(noteEvents([[0, 40, 90]], 10)))]),
    refused: 'too-many-tracks',
  },
  { name: 'a million empty tracks', bytes: () => rawTracks(900_000), refused: 'too-many-tracks' },
  { name: 'a name of 8 MB', bytes: () => one([metaName(0, 8_300_000), ...beat]), refused: null },
  {
    name: 'one tick a quarter and a hit far away',
    bytes: () =>
      one(
        [
          [0, 0x99, 36, 100],
          [0x0ffffff0, 0x99, 38, 90],
        ],
        1,
      ),
    refused: 'part-too-long',
  },
  {
    name: 'bars of a 64th',
    bytes: () =>
      one(
        [
          meterEvent(0, 1, 6),
          ...noteEvents(
            [
              [0, 36, 100],
              [90_000 * 24, 38, 90],
            ],
            10,
          ),
        ],
        24,
      ),
    refused: 'too-many-bars',
  },
  { name: 'a note held for ever', bytes: () => one([...beat, [500, 0x99, 49, 100], [0x0fffff00, 0x89, 49, 64]]), refused: null },
  { name: 'a tempo change far behind the end', bytes: () => one([...beat, tempoEvent(0x0ffffff0, 300_000)]), refused: null },
  {
    name: '300,000 hits',
    bytes: () => one(many(300_000, (i): TestEvent => [i * 12, 0x99, 35 + (i % 40), 1 + (i % 127)])),
    refused: 'too-many-hits',
  },
  { name: '150,000 hits', bytes: () => one(many(150_000, (i): TestEvent => [i * 60, 0x99, 35 + (i % 8), 1 + (i % 127)])), refused: null },
];

/** A feel whose scope names bars one by one, as many as fit. */
export const longScope = (entries: number): string =>
  JSON.stringify({
    format: 'nod-sway/feel@1',
    moves: [{ kind: 'lay', ms: 5, scope: { bars: { every: 2, at: Array.from({ length: entries }, () => 1) } } }],
  });
