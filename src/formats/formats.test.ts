import fc from 'fast-check';
import { isNamedError } from '@/core/errors';
import { DEFAULT_MOVES } from '@/core/feel/feel';
import type { Part } from '@/core/part/part';
import { exportPart } from '@/core/smf/export-part';
import { feelArbitrary, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { parseFeel, readFeelFile, writeFeelFile } from './feel-format';
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
const feel = (moves: unknown[], more: object = {}): unknown => ({ format: 'nod-sway/feel@1', moves, ...more });
const swing = (more: object): object => ({ kind: 'swing', ...more });

test('defaults are filled in', () => {
  expect(parseFeel(feel([swing({})]))).toEqual({ format: 'nod-sway/feel@1', seed: 1, sway: 1, moves: [{ kind: 'swing', division: '1/16', percent: 56 }] });
});

test.each([
  ['an unknown kind', feel([{ kind: 'wobble' }]), 'moves[0].kind'],
  ['an unknown member', feel([swing({ depth: 1 })]), 'moves[0].depth'],
  ['an unknown member at the top', feel([], { name: 'x' }), 'name'],
  ['out of range', feel([swing({ percent: 81 })]), 'moves[0].percent'],
  ['an unknown version', { format: 'nod-sway/feel@2', moves: [] }, 'format'],
  ['an empty list', feel([swing({ scope: { voices: [] } })]), 'moves[0].scope.voices'],
  ['every without at', feel([swing({ scope: { bars: { every: 2 } } })]), 'moves[0].scope.bars'],
  ['from over to', feel([swing({ scope: { bars: { from: 3, to: 2 } } })]), 'moves[0].scope.bars'],
  ['bars at outside its cycle', feel([swing({ scope: { bars: { every: 2, at: [3] } } })]), 'moves[0].scope.bars'],
  ['steps at outside its cycle', feel([swing({ scope: { steps: { grid: '1/8', of: 2, at: [2] } } })]), 'moves[0].scope.steps'],
  ['an empty list of levels', feel([{ kind: 'accents', levels: [] }]), 'moves[0].levels'],
  ['floor over ceiling', feel([{ kind: 'accents', floor: 90, ceiling: 80 }]), 'moves[0]'],
  ['a lay too far', feel([{ kind: 'lay', ms: 81 }]), 'moves[0].ms'],
  ['a swung triplet grid', feel([{ kind: 'tighten', grid: '1/8T', swingPercent: 60 }]), 'moves[0]'],
  ['an order with an unknown group', feel([{ kind: 'spread', order: ['kick', 'bells'] }]), 'moves[0].order[1]'],
  ['a template without a groove', feel([{ kind: 'template' }]), 'moves[0].groove'],
  ['a groove of too few steps', feel([{ kind: 'template', groove: { format: 'nod-sway/groove@1', name: 'x', meter: [4, 4], beats: 4, stepsPerBeat: 4, steps: [{ offset: 0, level: 1 }] } }]), 'moves[0].groove'],
  ['an offset over half a step', feel([{ kind: 'template', groove: { format: 'nod-sway/groove@1', name: 'x', meter: [4, 4], beats: 1, stepsPerBeat: 1, steps: [{ offset: 0.6, level: 1 }] } }]), 'moves[0].groove.steps[0].offset'],
  ['a seed that is no whole number', feel([{ kind: 'drift', seed: 1.5 }]), 'moves[0].seed'],
  ['too many moves', feel(Array.from({ length: 65 }, () => swing({}))), 'moves'],
])('a feel with %s is refused, naming the member', (_what, data, field) => {
  expect(problems(() => parseFeel(data))).toEqual([expect.objectContaining({ field })]);
});

test('every kind of move has its defaults', () => {
  expect(parseFeel(feel([{ kind: 'tighten' }, { kind: 'lay' }, { kind: 'drift' }, { kind: 'spread' }, { kind: 'accents' }])).moves).toEqual([DEFAULT_MOVES.tighten, DEFAULT_MOVES.lay, DEFAULT_MOVES.drift, DEFAULT_MOVES.spread, DEFAULT_MOVES.accents]);
});

test('whatever moves a feel has, its file gives it back', () => {
  fc.assert(fc.property(feelArbitrary, (random) => expect(readFeelFile(writeFeelFile(random))).toEqual(random)));
});

test('any text as a feel file ends in a feel or a clear error', () => {
  fc.assert(
    fc.property(fc.oneof(fc.string(), fc.json(), feelArbitrary.map((f) => JSON.stringify(f).replace(/\d/, 'x'))), (text) => {
      const found = problems(() => readFeelFile(text));
      expect(found === undefined || typeof found === 'object').toBe(true);
    }),
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
  expect(problems(() => readPartFile(writePartFile({ part, versions: [{ name: 'Bad', at: 5, part: { ...base, bars: 0 } }] })))).toBeDefined();
  for (const bad of [{ ...ornament, strokes: 4 }, { ...ornament, spacingMs: 500 }, { ...ornament, more: 1 }, { kind: 'trill' }, { kind: 'roll', strokes: '1/7', speed: 0, to: 1, bend: 0 }]) {
    const text = JSON.stringify({ ...part, hits: [{ ...base.hits[0], ornament: bad }] });
    expect(() => readPartFile(text)).toThrow(/hits\[0\]\.ornament/);
  }
});

test('any JSON as a part or a feel is a result or a named error', () => {
  fc.assert(
    fc.property(fc.json(), (text) => {
      for (const read of [() => readPartFile(text), () => parseFeel(JSON.parse(text)), () => parsePart(JSON.parse(text))]) problems(read);
    }),
  );
});

test('a damaged part names the field: a hit outside, a velocity of 0, an id used twice, an unknown member', () => {
  const part = JSON.parse(writePartFile({ part: fc.sample(partArbitrary.filter((p) => p.hits.length > 2), { numRuns: 1, seed: 4 })[0]! }));
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
  for (const bad of [[], [{ kind: 'pedal', value: 128, aheadMs: 1 }], [{ kind: 'wheel', value: 1, aheadMs: 1 }], [{ kind: 'pedal', value: 1, aheadMs: 31 }]]) expect(broken((p) => (p.hits[0].companions = bad))).toContain('hits[0].companions');
  expect(broken((p) => (p.format = 'nod-sway/part@9'))).toContain('format');
});
