import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { QUALITIES, QUALITY, readQuality } from '@/core/shaping/qualities';
import { shapeHits } from '@/core/shaping/shape-hits';
import { smallPart } from '@tests/support/arbitraries';
import { firstShape, SHAPE_KINDS, shapeLabel } from '../features/hits/shape-kinds';
import { groupings } from '../features/bars/groupings';
import { paintVelocity, linesOfStroke, stepIndexOf } from '../store/tools';
import { BENCH_FEATURES } from '../features/all';
import { keysOfFeatures } from '../shared/feature-keys';
import { KEYS } from './keys';
import { keysOf } from '../shared/key-spec';

jest.mock('@/ui/notify', () => ({ say: () => {} }));

const STEP = TICKS_PER_QUARTER / 4;
const part = smallPart([['kick', 0, 100]], { bars: 4 });

test('a stroke of painting covers every n-th line from where it began, either way', () => {
  const lines = (stride: number, from: number, to: number) =>
    linesOfStroke(part, '1/16', stride, ticks(from * STEP), ticks(to * STEP)).map((t) => t / STEP);
  expect(lines(1, 3, 6)).toEqual([3, 4, 5, 6]);
  expect(lines(3, 2, 12)).toEqual([2, 5, 8, 11]);
  expect(lines(2, 9, 2)).toEqual([9, 7, 5, 3]);
  expect(lines(16, 0, 63)).toEqual([0, 16, 32, 48]);
});

test('accents follow the strokes of a bar and restart at each bar line', () => {
  const paint = { levels: [110, 70, 90], stride: 1, ghosts: false };
  const at = (step: number, stride = 1) => paintVelocity(part, { ...paint, stride }, '1/16', ticks(step * STEP));
  expect([0, 1, 2, 3, 15, 16].map((s) => at(s))).toEqual([110, 70, 90, 110, 110, 110]);
  expect([0, 2, 4, 6].map((s) => at(s, 2))).toEqual([110, 70, 90, 110]);
  expect(stepIndexOf(part, '1/8', ticks(18 * STEP))).toBe(1);
});

test('no two shortcuts share keys; Shift counts for letters and named keys alone', () => {
  const all = [...KEYS, ...keysOfFeatures(BENCH_FEATURES)].flatMap((s) => s.keys);
  expect(new Set(all).size).toBe(all.length);
  const event = (key: string, more: Partial<KeyboardEvent> = {}) =>
    keysOf({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });
  expect([
    event('Z', { ctrlKey: true, shiftKey: true }),
    event('?', { shiftKey: true }),
    event('ArrowUp', { shiftKey: true }),
    event(' '),
    event('z', { metaKey: true }),
  ]).toEqual(['mod+shift+z', '?', 'shift+up', 'space', 'mod+z']);
});

test('every shape starts with numbers that its quality can have, and says what it does', () => {
  const base = smallPart([
    ['hat-closed', 0, 90],
    ['hat-closed', 0.5, 60],
    ['hat-closed', 1, 80],
  ]);
  const all = new Set(base.hits.map((h) => h.id));
  for (const quality of QUALITIES) {
    for (const kind of SHAPE_KINDS) {
      const shape = firstShape(kind, quality, { mean: quality === 'velocity' ? 77 : 0, deviation: 12 });
      const next = shapeHits(base, all, quality, shape);
      for (const h of next.hits) {
        const value = readQuality(h, quality);
        expect(value).toBeGreaterThanOrEqual(QUALITY[quality].min);
        expect(value).toBeLessThanOrEqual(QUALITY[quality].max);
      }
      expect(shapeLabel(shape, quality, '3 hats')).toMatch(/3 hats/);
    }
  }
  expect(shapeLabel({ kind: 'add', by: -12 }, 'velocity', '12 off-beat hats')).toBe('Soften 12 off-beat hats by 12');
  expect(shapeLabel({ kind: 'stretch', percent: 60, pivot: 80 }, 'velocity', 'all')).toBe('Compress all to 60 % around 80');
});

test('groupings offer the default first, then twos and threes that add up', () => {
  expect(groupings(7, 8)).toEqual([
    [2, 2, 3],
    [2, 3, 2],
    [3, 2, 2],
  ]);
  for (const n of [4, 5, 8, 9, 12]) for (const g of groupings(n, 8)) expect(g.reduce((a, b) => a + b, 0)).toBe(n);
});
