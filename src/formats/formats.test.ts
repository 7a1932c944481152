import fc from 'fast-check';
import { isNamedError } from '@/core/errors';
import { DEFAULT_MOVES } from '@/core/moves/all';
import type { Part } from '@/core/model/part';
import { performPart } from '@/core/perform/perform';
import { homesOf } from '@/core/homes/homes';
import { exportPart } from '@/core/smf/export-part';
import { importPart } from '@/core/smf/import-part';
import { listLanes } from '@/core/smf/lanes';
import { readSmf } from '@/core/smf/read';
import { MOST_HITS } from '@/core/limits';
import { dice, mutateBytes } from '@tests/fuzz/mutate';
import { WORST_FILES } from '@tests/support/worst-files';
import { feelArbitrary, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { parseFeel, readFeelFile, writeFeelFile } from './feel-format';
import { looksLikePart } from './hit-rules';
import { readPartFile, writePartFile } from './part-file';
import { parsePart } from './part-format';

const problems = (run: () => unknown): unknown => {
  try {
    return run();
  } catch (e) {
    if (!isNamedError(e)) throw e;
    return e.details;
  }
};
const feel = (moves: unknown[], more: object = {}): unknown => ({ format: 'nod-sway/feel@3', moves, ...more });
const swing = (more: object): object => ({ kind: 'swing', ...more });

test('defaults are filled in', () => {
  expect(parseFeel(feel([swing({})]))).toEqual({
    format: 'nod-sway/feel@3',
    seed: 1,
    sway: 1,
    moves: [{ kind: 'swing', division: '1/16', percent: 56 }],
  });
});

test.each([
  ['an unknown kind', feel([{ kind: 'wobble' }]), 'moves[0].kind'],
  ['an unknown member', feel([swing({ depth: 1 })]), 'moves[0].depth'],
  ['an unknown member at the top', feel([], { name: 'x' }), 'name'],
  ['out of range', feel([swing({ percent: 81 })]), 'moves[0].percent'],
  ['an unknown version', { format: 'nod-sway/feel@x', moves: [] }, 'format'],
  ['an empty list', feel([swing({ scope: { voices: [] } })]), 'moves[0].scope.voices'],
  ['every without at', feel([swing({ scope: { bars: { every: 2 } } })]), 'moves[0].scope.bars'],
  ['from over to', feel([swing({ scope: { bars: { from: 3, to: 2 } } })]), 'moves[0].scope.bars'],
  ['bars at outside its cycle', feel([swing({ scope: { bars: { every: 2, at: [3] } } })]), 'moves[0].scope.bars'],
  ['steps at outside its cycle', feel([swing({ scope: { steps: { grid: '1/8', of: 2, at: [2] } } })]), 'moves[0].scope.steps'],
  ['an empty list of levels', feel([{ kind: 'accents', levels: [] }]), 'moves[0].levels'],
  ['floor over ceiling', feel([{ kind: 'accents', floor: 90, ceiling: 80 }]), 'moves[0]'],
  ['a lay too far', feel([{ kind: 'lay', ms: 81 }]), 'moves[0].ms'],
  ['a swung triplet grid', feel([{ kind: 'quantize', grid: '1/8T', swingPercent: 60 }]), 'moves[0]'],
  ['an order with an unknown group', feel([{ kind: 'apart', order: ['kick', 'bells'] }]), 'moves[0].order[1]'],
  ['a groove move without a groove', feel([{ kind: 'groove' }]), 'moves[0].groove'],
  [
    'a groove of too few steps',
    feel([
      {
        kind: 'groove',
        groove: { format: 'nod-sway/groove@1', name: 'x', meter: [4, 4], beats: 4, stepsPerBeat: 4, steps: [{ offset: 0, level: 1 }] },
      },
    ]),
    'moves[0].groove',
  ],
  [
    'an offset over half a step',
    feel([
      {
        kind: 'groove',
        groove: { format: 'nod-sway/groove@1', name: 'x', meter: [4, 4], beats: 1, stepsPerBeat: 1, steps: [{ offset: 0.6, level: 1 }] },
      },
    ]),
    'moves[0].groove.steps[0].offset',
  ],
  ['a seed that is no whole number', feel([{ kind: 'humanize', seed: 1.5 }]), 'moves[0].seed'],
  ['too many moves', feel(Array.from({ length: 65 }, () => swing({}))), 'moves'],
])('a feel with %s is refused, naming the member', (_what, data, field) => {
  expect(problems(() => parseFeel(data))).toEqual([expect.objectContaining({ field })]);
});

test('every kind of move has its defaults', () => {
  expect(
    parseFeel(feel([{ kind: 'quantize' }, { kind: 'lay' }, { kind: 'humanize' }, { kind: 'apart' }, { kind: 'accents' }])).moves,
  ).toEqual([DEFAULT_MOVES.quantize, DEFAULT_MOVES.lay, DEFAULT_MOVES.humanize, DEFAULT_MOVES.apart, DEFAULT_MOVES.accents]);
});

test('whatever moves a feel has, its file gives it back', () => {
  fc.assert(fc.property(feelArbitrary, (random) => expect(readFeelFile(writeFeelFile(random))).toEqual(random)));
});

test('any text as a feel file ends in a feel or a clear error', () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.json(),
        feelArbitrary.map((f) => JSON.stringify(f).replace(/\d/, 'x')),
      ),
      (text) => {
        const found = problems(() => readFeelFile(text));
        expect(found === undefined || typeof found === 'object').toBe(true);
      },
    ),
  );
});

test('a part file gives exactly that part back, with its song', () => {
  fc.assert(
    fc.property(partArbitrary, (random) => {
      const source = { fileName: 'song.mid', ppq: 960, lanes: [{ track: 0, channel: 10 }] };
      const part: Part = { ...random, source, tempo: random.tempo.filter((t, i) => i === 0 || t.tick > 0) };
      const song = exportPart(random).bytes;
      const back = readPartFile(writePartFile({ part, song }));
      expect(back.part).toEqual(part);
      expect([...(back.song ?? [])]).toEqual([...song]);
    }),
  );
});

test('a part file keeps versions and ornaments; a bad one names the field', () => {
  const ornament = { kind: 'flam', strokes: 2, spacingMs: 20, level: 0.5, slope: 0.1 } as const;
  const base = smallPart([['snare', 0, 100]]);
  const part = { ...base, hits: base.hits.map((h) => ({ ...h, ornament })) };
  const versions = [{ name: 'Before', at: 5, part: base }];
  expect(readPartFile(writePartFile({ part, versions }))).toEqual({ part, versions });
  expect(
    problems(() => readPartFile(writePartFile({ part, versions: [{ name: 'Bad', at: 5, part: { ...base, bars: 0 } }] }))),
  ).toBeDefined();
  for (const bad of [
    { ...ornament, strokes: 4 },
    { ...ornament, spacingMs: 500 },
    { ...ornament, more: 1 },
    { kind: 'trill' },
    { kind: 'roll', strokes: '1/7', speed: 0, to: 1, bend: 0 },
  ]) {
    const text = JSON.stringify({ ...part, hits: [{ ...base.hits[0], ornament: bad }] });
    expect(() => readPartFile(text)).toThrow(/hits\[0\]\.ornament/);
  }
});

test('whatever an import accepts: saved, exported as a part file and imported again it is the same part', () => {
  const song = exportPart(
    smallPart(
      [
        ['kick', 0, 100],
        ['snare', 1, 90],
        ['hat-closed', 0.5, 30],
      ],
      { bars: 2 },
    ),
  ).bytes;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 2 ** 31 }), (seed) => {
      const bytes = mutateBytes(song, dice(seed));
      try {
        const file = readSmf(bytes);
        const { part } = importPart(file, { name: 'x'.repeat(seed % 400), fileName: 'song.mid', lanes: listLanes(file).slice(0, 2) });
        expect(readPartFile(writePartFile({ part, song: bytes })).part).toEqual(part);
      } catch (e) {
        if (!isNamedError(e)) throw e;
      }
    }),
    { numRuns: 300 },
  );
  for (const file of WORST_FILES.filter((f) => ['a note held for ever', 'a tempo change far behind the end'].includes(f.name))) {
    const read = readSmf(file.bytes());
    const { part } = importPart(read, { name: 'far', lanes: listLanes(read) });
    expect(readPartFile(writePartFile({ part })).part).toEqual(part);
  }
});

test('names of objects are no voices, and no way in', () => {
  const odd = smallPart([
    ['__proto__', 0, 100],
    ['constructor', 0.5, 100],
    ['toString', 1, 90],
  ]);
  const { part } = readPartFile(writePartFile({ part: odd }));
  expect(part.hits.map((h) => h.voice)).toEqual(odd.hits.map((h) => h.voice));
  expect(performPart(part).ticks).toHaveLength(3);
  expect(exportPart(part).notes).toBe(3);
  expect(homesOf(part).ticks).toHaveLength(3);
});

test.each([
  ['a tempo without length', { tempo: [{ tick: 0, microsecondsPerQuarter: 1e-300 }] }],
  ['a bar count beyond all bounds', { bars: 1_584_017 }],
  ['a version of an absurd date', { versions: [{ name: 'x', at: 1e300, part: {} }] }],
  ['a song that is none', { song: 'AAAA' }],
])('%s is refused by name', (_what, change) => {
  expect(() => readPartFile(JSON.stringify({ ...smallPart([['kick', 0, 100]]), ...change }))).toThrow(
    expect.objectContaining({ code: 'bad-part' }),
  );
});

test('too many hits are refused in a file, and opened where they are in the store already', () => {
  const many = smallPart(
    Array.from({ length: MOST_HITS + 1 }, (_, i) => ['kick', i / 40_000, 90] as const),
    { bars: 2 },
  );
  expect(() => readPartFile(JSON.stringify(many))).toThrow(/hits: 160001 are too many/);
  expect(looksLikePart(many)).toBe(true);
});

test('rows that a file forgot are there again', () => {
  expect(readPartFile(JSON.stringify({ ...smallPart([['kick', 0, 100]]), rows: [] })).part.rows).toEqual([{ voice: 'kick' }]);
});

test('tempo and meter changes out of order are put in order: no hit is performed ages away', () => {
  const part = {
    ...smallPart(
      [
        ['kick', 0, 90],
        ['snare', 3, 90],
      ],
      { bars: 2 },
    ),
    tempo: [
      { tick: 0, microsecondsPerQuarter: 500_000 },
      { tick: 4 * 80_640, microsecondsPerQuarter: 1 },
      { tick: 80_640, microsecondsPerQuarter: 0xffffff },
    ],
    meter: [
      { tick: 4 * 80_640, numerator: 3, denominator: 4 },
      { tick: 0, numerator: 4, denominator: 4 },
    ],
  } as unknown as Part;
  const read = parsePart(JSON.parse(JSON.stringify(part)));
  expect(read.tempo.map((t) => t.tick / 80_640)).toEqual([0, 1, 4]);
  expect(read.meter.map((m) => m.numerator)).toEqual([4, 3]);
  const lay = { ...read, feel: { ...read.feel, moves: [{ kind: 'lay' as const, ms: 4 as never }] } };
  // 4 ms at 120 BPM, and at 16.777215 s a quarter.
  const { ticks: performed } = performPart(lay);
  expect(performed[0]).toBeCloseTo(0.008 * 80_640, 6);
  expect(performed[1]).toBeCloseTo(3 * 80_640 + (0.004 / 16.777215) * 80_640, 6);
});

test('any JSON as a part or a feel is a result or a named error', () => {
  fc.assert(
    fc.property(fc.json(), (text) => {
      for (const read of [() => readPartFile(text), () => parseFeel(JSON.parse(text)), () => parsePart(JSON.parse(text))]) problems(read);
    }),
  );
});

test('a damaged part names the field: a hit outside, a velocity of 0, an id used twice, an unknown member', () => {
  const part = JSON.parse(
    writePartFile({
      part: fc.sample(
        partArbitrary.filter((p) => p.hits.length > 2),
        { numRuns: 1, seed: 4 },
      )[0]!,
    }),
  );
  const broken = (change: (p: typeof part) => void): string => {
    const copy = structuredClone(part);
    change(copy);
    try {
      parsePart(copy);
      return 'accepted';
    } catch (e) {
      return (e as Error).message;
    }
  };
  expect(broken((p) => (p.hits.at(-1).tick = 1e9))).toContain('lies outside the part');
  expect(broken((p) => (p.hits[1].velocity = 0))).toContain('hits[1].velocity');
  expect(broken((p) => (p.hits[1].id = p.hits[0].id))).toContain('hits[1].id is used twice');
  expect(broken((p) => (p.hits[0].loud = true))).toContain('hits[0].loud');
  expect(broken((p) => (p.hits[0].companions = [{ kind: 'pedal', value: 70, aheadMs: 12.5 }]))).toBe('accepted');
  for (const bad of [
    [],
    [{ kind: 'pedal', value: 128, aheadMs: 1 }],
    [{ kind: 'wheel', value: 1, aheadMs: 1 }],
    [{ kind: 'pedal', value: 1, aheadMs: 31 }],
  ])
    expect(broken((p) => (p.hits[0].companions = bad))).toContain('hits[0].companions');
  expect(broken((p) => (p.format = 'nod-sway/part@9'))).toContain('format');
});

test('ideas go along in a part file; wrong ones are named', () => {
  const part = smallPart([['kick', 0, 100]]);
  const ideas = [
    { letter: 'A', bars: 1, part },
    { letter: 'C', bars: 2, part: { ...part, name: 'Other' } },
  ];
  expect(readPartFile(writePartFile({ part, ideas })).ideas).toEqual(ideas);
  expect(readPartFile(writePartFile({ part })).ideas).toBeUndefined();
  for (const wrong of [
    {},
    [{ letter: 'Z', bars: 1, part }],
    [{ letter: 'A', bars: 0, part }],
    [ideas[0], ideas[0]],
    [{ letter: 'A', bars: 1, part: { ...part, bars: -1 } }],
  ]) {
    expect(() => readPartFile(JSON.stringify({ ...part, ideas: wrong }))).toThrow(expect.objectContaining({ code: 'bad-part' }) as Error);
  }
});
