import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { midiFile, meterEvent, noteEvents, tempoEvent, text, trackChunk, type TestEvent } from '@tests/support/midi-bytes';
import { smallPart } from '@tests/support/arbitraries';
import { isNamedError } from '../errors';
import { NOD_SWAY_KIT, type KitMap } from '../key-map';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import type { Part } from '../model/part';
import { exportPart, defaultPpq } from './export-part';
import { importPart } from './import-part';
import { drumLanes, listLanes } from './lanes';
import { readSmf } from './read';

const Q = TICKS_PER_QUARTER;

const importBytes = (bytes: Uint8Array): { part: Part; notices: string[] } => {
  const file = readSmf(bytes);
  return importPart(file, { name: 'test', lanes: drumLanes(file, listLanes(file)) });
};

/** Absolute note-ons of an export, read by another package: [tick, key, velocity]. */
const notesOf = (bytes: Uint8Array): [number, number, number][] => {
  const found: [number, number, number][] = [];
  for (const track of parseMidi(bytes).tracks) {
    let now = 0;
    for (const e of track) {
      now += e.deltaTime;
      if (e.type === 'noteOn' && e.channel === 9) found.push([now, e.noteNumber, e.velocity]);
    }
  }
  return found.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
};

test('a file that uses both keys of a voice gets two rows; one of them alone is the plain voice; other maps are left as they are', () => {
  const read = (keys: readonly number[], kitMap?: KitMap) => {
    const file = readSmf(midiFile(0, 480, [trackChunk(noteEvents(keys.map((key, i) => [i * 240, key, 100])))]));
    return importPart(file, { name: 'test', lanes: drumLanes(file, listLanes(file)), ...(kitMap ? { kitMap } : {}) }).part;
  };
  const both = read([36, 35, 38, 40, 41, 43, 47, 48, 49, 57, 51, 59, 22]);
  expect(both.hits.map((h) => [h.key, h.voice])).toEqual([
    [36, 'kick'],
    [35, 'kick:2'],
    [38, 'snare'],
    [40, 'snare:2'],
    [41, 'tom-floor'],
    [43, 'tom-floor:2'],
    [47, 'tom-mid'],
    [48, 'tom-mid:2'],
    [49, 'crash'],
    [57, 'crash:2'],
    [51, 'ride'],
    [59, 'ride:2'],
    [22, 'key-22'],
  ]);
  expect(both.rows.slice(0, 5).map((r) => r.voice)).toEqual(['key-22', 'crash', 'crash:2', 'ride', 'ride:2']);
  expect(both.kitMap.voices[40]).toBe('snare:2');
  expect(read([35, 40, 43]).hits.map((h) => h.voice)).toEqual(['kick', 'snare', 'tom-floor']);
  expect(read([38, 40], { name: 'Mine', voices: { 38: 'snare', 40: 'snare' } }).hits.map((h) => h.voice)).toEqual(['snare', 'snare']);
  expect(read([22, 38, 40], NOD_SWAY_KIT).hits.map((h) => h.voice)).toEqual(['hat-shoulder', 'snare', 'snare']);
});

test('import reads tempo, meter, names and ghosts', () => {
  const notes = noteEvents([
    [0, 36, 110],
    [120, 38, 30],
    [480, 38, 112],
    [960, 42, 80],
    [1920, 20, 64],
  ]);
  const { part, notices } = importBytes(midiFile(0, 480, [trackChunk([tempoEvent(0, 625_000), meterEvent(0, 3, 2), ...notes])]));
  expect(notices).toEqual([]);
  expect(part.tempo).toEqual([{ tick: 0, microsecondsPerQuarter: 625_000 }]);
  expect(part.meter).toMatchObject([{ numerator: 3, denominator: 4 }]);
  expect(part.bars).toBe(2);
  expect(part.hits.map((h) => [h.voice, h.tick, h.ghost === true])).toEqual([
    ['kick', 0, false],
    ['snare', Q / 4, true],
    ['snare', Q, false],
    ['hat-closed', 2 * Q, false],
    ['key-20', 4 * Q, false],
  ]);
  expect(part.rows.map((r) => r.voice)).toEqual(['key-20', 'hat-closed', 'snare', 'kick']);
});

test('running status, note-on with velocity 0, and a missing end mark', () => {
  const track = [...text('MTrk'), 0, 0, 0, 11, 0, 0x99, 36, 100, 60, 36, 0, 60, 38, 90, 0x60];
  const { part, notices } = importBytes(midiFile(1, 96, [track]));
  expect(part.hits.map((h) => [h.key, h.tick, h.length, h.velocity])).toEqual([
    [36, 0, (60 / 96) * Q, 100],
    [38, (120 / 96) * Q, Q / 4, 90],
  ]);
  expect(notices).toHaveLength(2);
});

test('SMPTE time is read at 120 BPM: 25 frames of 40 ticks are a second, two quarters', () => {
  const { part } = importBytes(
    midiFile(0, 0xe728, [
      trackChunk([
        tempoEvent(0, 300_000),
        ...noteEvents([
          [0, 36, 100],
          [1000, 36, 100],
        ]),
      ]),
    ]),
  );
  expect(part.hits.map((h) => h.tick)).toEqual([0, 2 * Q]);
  expect(part.tempo).toEqual([{ tick: 0, microsecondsPerQuarter: 500_000 }]);
});

test('format 2 takes the first track with drums and its own maps', () => {
  const a = trackChunk([tempoEvent(0, 400_000), ...noteEvents([[0, 60, 90]], 10, 1)]);
  const b = trackChunk([
    tempoEvent(0, 750_000),
    ...noteEvents([
      [0, 36, 90],
      [96, 36, 90],
    ]),
  ]);
  const c = trackChunk(noteEvents([[0, 38, 90]]));
  const { part } = importBytes(midiFile(2, 96, [a, b, c]));
  expect(part.hits.map((h) => h.key)).toEqual([36, 36]);
  expect(part.tempo[0]?.microsecondsPerQuarter).toBe(750_000);
});

test('errors are named: not MIDI, empty, no notes, no drums (with counts), too long', () => {
  const code = (run: () => unknown): unknown => {
    try {
      run();
    } catch (e) {
      return isNamedError(e) ? [e.code, e.details] : e;
    }
  };
  expect(code(() => readSmf(new Uint8Array()))).toEqual(['empty-file', undefined]);
  expect(code(() => readSmf(new Uint8Array(text('hello, this is no midi file'))))).toEqual(['not-midi', undefined]);
  expect(code(() => importBytes(midiFile(0, 96, [trackChunk([])])))).toEqual(['no-notes', undefined]);
  expect(
    code(() =>
      importBytes(
        midiFile(0, 96, [
          trackChunk(
            noteEvents(
              [
                [0, 60, 90],
                [4, 61, 90],
              ],
              2,
              3,
            ),
          ),
        ]),
      ),
    ),
  ).toEqual(['no-drum-notes', { notesByChannel: { 3: 2 } }]);
  const far: TestEvent[] = Array.from({ length: 40 }, (_, i) => [(i + 1) * 2 ** 27, 0xff, 1, 0]);
  expect(code(() => importBytes(midiFile(0, 24, [trackChunk([...far, ...noteEvents([[41 * 2 ** 27, 36, 90]], 1)])])))).toEqual([
    'part-too-long',
    expect.anything(),
  ]);
});

const noteLists = fc.uniqueArray(
  fc.record({ tick: fc.integer({ min: 0, max: 5000 }), key: fc.integer({ min: 30, max: 60 }), velocity: fc.integer({ min: 1, max: 127 }) }),
  { minLength: 1, maxLength: 60, selector: (n) => `${n.tick}.${n.key}` },
);

test('import, then export of the untouched part gives the same notes at the same ticks, at any resolution', () => {
  fc.assert(
    fc.property(noteLists, fc.integer({ min: 24, max: 32767 }), (notes, ppq) => {
      const list = notes.map((n) => [n.tick, n.key, n.velocity] as const);
      const { part } = importBytes(midiFile(0, ppq, [trackChunk(noteEvents(list, 1))]));
      const factor = defaultPpq(part) / ppq;
      const result = exportPart(part);
      expect(parseMidi(result.bytes).header.ticksPerBeat).toBe(defaultPpq(part));
      expect(notesOf(result.bytes)).toEqual(
        list
          .map(([t, k, v]) => [t * factor, k, v])
          .sort((a, b) => (a[0] as number) - (b[0] as number) || (a[1] as number) - (b[1] as number)),
      );
    }),
  );
});

test('the default resolution is the least multiple of the source that reaches 960', () => {
  const steady = [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }];
  const from = (ppq: number | null, playerTempo?: typeof steady) =>
    defaultPpq({ tempo: steady, ...(playerTempo ? { playerTempo } : {}), ...(ppq ? { source: { fileName: '', ppq, lanes: [] } } : {}) });
  expect([null, 96, 480, 100, 960, 1024, 32767].map((ppq) => from(ppq))).toEqual([960, 960, 960, 1000, 960, 1024, 32767]);
  // Times that no grid holds are kept finer.
  expect([null, 96, 480, 1024].map((ppq) => from(ppq, [...steady]))).toEqual([1920, 1920, 1920, 2048]);
});

test('any bytes, and any damage to a good file, give a result or a named error', () => {
  const good = midiFile(1, 96, [
    trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2)]),
    trackChunk(
      noteEvents([
        [0, 36, 100],
        [24, 38, 90],
        [48, 42, 80],
      ]),
    ),
  ]);
  const tryBytes = (bytes: Uint8Array) => {
    try {
      const { part } = importBytes(bytes);
      expect(part.hits.length).toBeGreaterThan(0);
      exportPart(part);
    } catch (e) {
      expect(isNamedError(e)).toBe(true);
    }
  };
  fc.assert(fc.property(fc.uint8Array({ maxLength: 200 }), tryBytes));
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat({ max: good.length - 1 }), fc.nat({ max: 255 })), { maxLength: 6 }),
      fc.nat({ max: good.length }),
      (edits, cut) => {
        const bytes = Uint8Array.from(good);
        for (const [at, value] of edits) bytes[at] = value;
        tryBytes(bytes.slice(0, cut));
        tryBytes(bytes);
      },
    ),
    { numRuns: 400 },
  );
});

describe('hits performed before 0', () => {
  const early = (): Part => {
    const { part } = importBytes(
      midiFile(0, 480, [
        trackChunk(
          noteEvents([
            [0, 36, 100],
            [480, 38, 90],
          ]),
        ),
      ]),
    );
    return { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(-10), velocity: 0 } })) };
  };
  // 10 ms at 120 BPM are 19.2 ticks of 960.
  test.each([
    [
      'zero',
      [
        [0, 36, 100],
        [941, 38, 90],
      ],
    ],
    [
      'lead-in',
      [
        [3821, 36, 100],
        [4781, 38, 90],
      ],
    ],
    [
      'wrap',
      [
        [941, 38, 90],
        [3821, 36, 100],
      ],
    ],
  ] as const)('%s', (rule, expected) => {
    const result = exportPart(early(), { early: rule });
    expect(notesOf(result.bytes)).toEqual(expected);
    expect(result.left.early).toBe(1);
  });
});

test('notes of one key never overlap in an export', () => {
  const { part } = importBytes(
    midiFile(0, 96, [
      trackChunk(
        [
          ...noteEvents([[0, 36, 100]], 50),
          ...noteEvents(
            [
              [60, 36, 90],
              [61, 36, 80],
            ],
            40,
          ),
        ].sort((a, b) => a[0] - b[0]),
      ),
    ]),
  );
  const open = new Set<number>();
  for (const e of parseMidi(exportPart(part, { ppq: 96 }).bytes).tracks[0] ?? []) {
    if (e.type === 'noteOn') {
      expect(open.has(e.noteNumber)).toBe(false);
      open.add(e.noteNumber);
    } else if (e.type === 'noteOff') open.delete(e.noteNumber);
  }
  expect(open.size).toBe(0);
});

test('a gap longer than a delta can tell is written in steps: the note behind it stands where it should', () => {
  // 100,000 quarters at 32,767 ticks each are twelve times 2^28.
  const part = smallPart(
    [
      ['kick', 0, 100],
      ['snare', 99_990, 90],
    ],
    { bars: 25_000 },
  );
  expect(notesOf(exportPart(part, { ppq: 32_767 }).bytes).map(([tick]) => tick)).toEqual([0, 99_990 * 32_767]);
});

test('notes millions of bars behind the end still end on a bar line', () => {
  // 80 ms at a microsecond a quarter are 80,000 quarters: 20,000 bars behind the only one.
  const part = smallPart([['kick', 0, 100]], { bars: 1 });
  const far = {
    ...part,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 1 }],
    feel: { ...part.feel, moves: [{ kind: 'lay' as const, ms: 80 }] },
  };
  const [track] = parseMidi(exportPart(far, { ppq: 96 }).bytes).tracks;
  // The note at 80,000 quarters stands on the line of bar 20,001; the track ends on the next.
  expect(track!.reduce((sum, e) => sum + e.deltaTime, 0)).toBe(20_001 * 4 * 96);
});
