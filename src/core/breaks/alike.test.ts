import { PRINT_LENGTH, PRINT_PATTERN, packPrint, unpackPrint, type StrokePrint } from '../onsets/print';
import { BANDS } from '../onsets/look';
import { SOUNDS } from '../onsets/stroke-net';
import type { HeardStrokes } from '../model/break';
import { distinctExamples, levelOfKind, nameByExamples, strokeGroups } from './alike';
import { strokesOfBreak } from './strokes';

/** A print whose bands are all so much, in units of 20 dB, but for the first. */
const bands = (all: number, first = all): Float64Array => Float64Array.from({ length: BANDS }, (_, b) => (b === 0 ? first : all));
const printed = (all: number, likely: readonly number[], louds: readonly number[] = [0, 0, 0, 0, 0]): string =>
  packPrint(
    bands(all),
    SOUNDS.map((sound, k) => ({ sound, likely: likely[k]!, loud: louds[k]!, late: 0 })),
    -20,
  );
const print = (all: number, likely: readonly number[]): StrokePrint => unpackPrint(printed(all, likely));

test('a print keeps bands to 1 dB, chances to a quarter of a logit, levels to half a dB, in one character each', () => {
  const text = printed(-0.73, [0.9, 0.1, 0.5, 1e-9, 1 - 1e-9], [3.2, -12.4, 0, -90, 40]);
  expect(text).toHaveLength(PRINT_LENGTH);
  expect(PRINT_PATTERN.test(text)).toBe(true);
  expect(PRINT_PATTERN.test(`${text}0`)).toBe(false);
  const { bands: b, logits, levels } = unpackPrint(text);
  expect(b[5]).toBeCloseTo(-0.75, 9);
  // ln 9 is 2.197; chances beyond what is kept end at 8.
  expect([...logits].map((x) => x.toFixed(2))).toEqual(['2.25', '-2.25', '0.00', '-8.00', '8.00']);
  // -20 dB and 3.2; -80 is the least, 0 the most.
  expect([...levels].map((x) => x.toFixed(1))).toEqual(['-17.0', '-32.5', '-20.0', '-80.0', '0.0']);
});

test('what sounds the same as an example is called what it is; what sounds otherwise is left to the net', () => {
  const snare = [0.02, 0.9, 0.1, 0.05, 0.02];
  const example = { print: print(-1, snare), name: { kind: 'kick', also: 'hat' } as const };
  expect(nameByExamples(print(-1, snare), [example])).toMatchObject({ kind: 'kick', also: 'hat' });
  // 0.4 is 8 dB in each band: exp(-60 x 0.16) is 0.00007.
  expect(nameByExamples(print(-0.6, snare), [example])).toBeNull();
  // 0.2 is 4 dB: exp(-2.4) = 0.09, which is 0.7 of a logit. It takes the doubt, not the certainty.
  expect(nameByExamples(print(-0.8, snare), [example])).toMatchObject({ kind: 'snare' });
  expect(nameByExamples(print(-0.8, [0.4, 0.6, 0.4, 0.05, 0.02]), [example])).toMatchObject({ kind: 'kick', also: 'hat' });
});

test('an example of another drum stands for skins or for cymbals, whichever the net thought likelier', () => {
  const example = { print: print(-1, [0.01, 0.6, 0.01, 0.01, 0.3]), name: { kind: 'other' } as const };
  const named = nameByExamples(print(-1, [0.01, 0.6, 0.01, 0.01, 0.3]), [example]);
  expect(named).toMatchObject({ kind: 'other' });
  expect(named?.also).toBeUndefined();
});

test('of examples that say the same one is kept, and never more than 256', () => {
  const example = (all: number, kind: 'kick' | 'hat') => ({ print: print(all, KICK), name: { kind } });
  expect(distinctExamples([example(-1, 'kick'), example(-1, 'kick'), example(-1, 'hat'), example(-0.5, 'kick')])).toHaveLength(3);
  // 40 steps of the print by 2, and by kind: distinct, but for those that are the same again.
  const many = Array.from({ length: 1000 }, (_, i) => ({
    print: unpackPrint(packPrint(bands(-2 + 0.05 * (i % 40), -2 + 0.05 * Math.floor(i / 40)), [], 0).padEnd(PRINT_LENGTH, '0')),
    name: { kind: 'kick' as const },
  }));
  expect(distinctExamples(many).length).toBeLessThanOrEqual(256);
});

test('a kind’s level is its own part of the sound; of other drums the likelier one’s', () => {
  const own = unpackPrint(printed(-1, [0.9, 0.2, 0.1, 0.3, 0.6], [10, 0, -10, -6, -14]));
  expect(levelOfKind(own, 'kick')).toBeCloseTo(10 ** (-10 / 20), 9);
  expect(levelOfKind(own, 'hat')).toBeCloseTo(10 ** (-30 / 20), 9);
  expect(levelOfKind(own, 'other')).toBeCloseTo(10 ** (-34 / 20), 9);
});

const KICK = [0.95, 0.02, 0.02, 0.02, 0.02];
const HAT = [0.02, 0.02, 0.9, 0.02, 0.05];
const SNARE = [0.02, 0.7, 0.1, 0.1, 0.05];
/** Two kicks, three sounds alike that are called snare, and a snare that sounds otherwise. */
const heard: Omit<HeardStrokes, 'break'> = {
  at: [0, 0.5, 1, 1.5, 2, 2.5],
  strength: [1, 1, 1, 1, 1, 1],
  over: [2, 2, 2, 2, 2, 2],
  level: [1, 1, 1, 1, 1, 1],
  kinds: ['kick', 'snare', 'kick', 'snare', 'snare', 'snare'],
  sure: [0.9, 0.6, 0.9, 0.7, 0.6, 0.6],
  also: [null, null, null, null, null, null],
  prints: [printed(-0.5, KICK), printed(-1.5, SNARE), printed(-0.5, KICK), printed(-1.5, SNARE), printed(-1.45, SNARE), printed(-0.9, HAT)],
  readings: [],
};
const strokesWith = (hand: Parameters<typeof strokesOfBreak>[0]['hand']) => strokesOfBreak({ sensitivity: 0.5, hand }, heard);

test('strokes that sound alike and have one name are a group; the surest speaks for it', () => {
  const strokes = strokesWith([]);
  const groups = strokeGroups(strokes, (s) => unpackPrint(heard.prints![Number(s.id.slice(1))]!));
  expect(groups.map((g) => [g.kind, g.strokes.map((s) => s.id)])).toEqual([
    ['snare', ['n3', 'n1', 'n4']],
    ['kick', ['n0', 'n2']],
    ['snare', ['n5']],
  ]);
  expect(groups[0]!.sure).toBeCloseTo((0.6 + 0.7 + 0.6) / 3, 9);
});

test('one stroke named by hand takes those like it along, but not what the hand named otherwise', () => {
  const names = (hand: Parameters<typeof strokesOfBreak>[0]['hand']) =>
    strokesWith(hand).map((s) => [s.kind, ...(s.also ? [s.also] : [])].join());
  expect(names([])).toEqual(['kick', 'snare', 'kick', 'snare', 'snare', 'snare']);
  expect(names([{ n: 1, as: 'hat' }])).toEqual(['kick', 'hat', 'kick', 'hat', 'hat', 'snare']);
  expect(
    names([
      { n: 1, as: 'hat' },
      { n: 4, as: 'snare' },
    ])[4],
  ).toBe('snare');
  expect(names([{ n: 1, as: 'snare', also: 'hat' }])).toEqual(['kick', 'snare,hat', 'kick', 'snare,hat', 'snare,hat', 'snare']);
  // What was heard before prints were kept stays as it was heard.
  const { prints: _prints, ...old } = heard;
  expect(strokesOfBreak({ sensitivity: 0.5, hand: [{ n: 1, as: 'hat' }] }, old).map((s) => s.kind)).toEqual([
    'kick',
    'hat',
    'kick',
    'snare',
    'snare',
    'snare',
  ]);
});

test('a stroke has the level of what it is called', () => {
  const one = { ...heard, at: [0], strength: [1], over: [2], level: [1], kinds: ['kick'] as const, sure: [0.9], also: [null] };
  const prints = [printed(-1, KICK, [0, 0, -14, 0, 0])];
  const level = (hand: Parameters<typeof strokesOfBreak>[0]['hand']) =>
    strokesOfBreak({ sensitivity: 0.5, hand }, { ...one, prints })[0]!.level;
  expect(level([])).toBeCloseTo(0.1, 9);
  expect(level([{ n: 0, as: 'hat' }])).toBeCloseTo(10 ** (-34 / 20), 9);
});
