import type { RowPlacement } from '@/core/analysis/placement';
import { leanWords, readingOf } from './reading';

const row = (voice: string, change: Partial<RowPlacement> = {}): RowPlacement => ({
  voice,
  n: 16,
  leanMs: 0,
  spreadMs: 0,
  swing: null,
  isOffStraight: false,
  velocity: { min: 60, mean: 90, max: 120, sd: 14 },
  ghosts: 0,
  ...change,
});
const flat = { velocity: { min: 100, mean: 100, max: 100, sd: 0 } };
const told = (...rows: RowPlacement[]): string => readingOf({ rows: rows.map(({ voice }) => ({ voice })) }, { rows }).join(' ');

test.each<[string, RowPlacement[], string]>([
  ['flat', [row('kick', flat), row('snare', flat)], 'Every hit is on the grid. Every row has one velocity throughout.'],
  ['on the grid', [row('kick'), row('snare')], 'Every hit is on the grid.'],
  [
    'played',
    [
      row('hat-closed', { leanMs: -6.2, spreadMs: 3.4, swing: { division: '1/16', percent: 57, n: 20, sd: 2 } }),
      row('snare', { leanMs: 11.2, spreadMs: 4 }),
      row('kick', { ...flat, spreadMs: 1.1 }),
    ],
    'Snare sits 11 ms late, closed hat pushes 6 ms, sixteenths swing 57 %. Tight: hits vary by up to 4 ms around their rows. Kick has one velocity throughout.',
  ],
  [
    'late as a whole, loosely',
    [row('kick', { leanMs: 48, spreadMs: 23 }), row('snare', { leanMs: 49.5, spreadMs: 18 })],
    'Everything sits 49 ms late. Loose: hits vary by up to 23 ms around their rows.',
  ],
  ['sixteenths are no swung eighths', [row('kick', { swing: { division: '1/8', percent: 75, n: 9, sd: 0 } })], 'Every hit is on the grid.'],
  [
    'straight and dotted together are no swing',
    [row('kick', { swing: { division: '1/8', percent: 62.5, n: 9, sd: 12 } })],
    'Every hit is on the grid.',
  ],
  ['bars that swing unlike each other', [row('hat-closed', { isOffStraight: true })], 'Every hit is on the swung grid.'],
  ['nothing', [], 'No hits yet.'],
])('%s', (_, rows, words) => {
  expect(told(...rows)).toBe(words);
});

test('leans are said with their side', () => {
  expect([leanWords(0), leanWords(6.14), leanWords(-0.3)]).toEqual(['on the grid', '6.1 late', '0.3 early']);
});
