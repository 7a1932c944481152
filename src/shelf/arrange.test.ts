import type { PartRow } from '@/storage/database';
import { arranged, EVERY_TEMPO, isWhole, metersOf, tagsOf, WHOLE_SHELF } from './arrange';

const row = (name: string, tempo: number, meter: [number, number], updatedAt: number, more: Partial<PartRow> = {}): PartRow => ({
  id: name,
  name,
  createdAt: 0,
  updatedAt,
  head: 1,
  summary: { tempo, meter, bars: 2, hits: 9, rows: 3, stems: [] },
  ...more,
});
const rows = [
  row('Reel 10', 90, [4, 4], 1, { tags: ['verse', 'late'] }),
  row('Reel 9', 90, [6, 8], 3, { tags: ['verse'] }),
  row('Jig', 120.5, [6, 8], 2, { about: 'A sloppy take' }),
];
const names = (change: Partial<typeof WHOLE_SHELF>) => arranged(rows, { ...WHOLE_SHELF, ...change }).map((r) => r.name);

test('last changed first, by name as people count, slowest first and then by name', () => {
  expect(names({})).toEqual(['Reel 9', 'Jig', 'Reel 10']);
  expect(names({ order: 'name' })).toEqual(['Jig', 'Reel 9', 'Reel 10']);
  expect(names({ order: 'tempo' })).toEqual(['Reel 9', 'Reel 10', 'Jig']);
  // What to apply stays as it was.
  expect(rows.map((r) => r.name)).toEqual(['Reel 10', 'Reel 9', 'Jig']);
});

test('meter, tempo and tags narrow, each by itself and together', () => {
  expect(names({ meter: '6/8' })).toEqual(['Reel 9', 'Jig']);
  expect(names({ tempo: { from: 90, to: 90 } })).toEqual(['Reel 9', 'Reel 10']);
  expect(names({ tempo: { from: 120, to: 121 } })).toEqual(['Jig']);
  expect(names({ tags: ['verse', 'late'] })).toEqual(['Reel 10']);
  expect(names({ tags: ['verse'], meter: '6/8' })).toEqual(['Reel 9']);
});

test('every word of a search has to be found: in name, meter, tempo, tags or what a demo is', () => {
  expect([
    names({ search: 'reel' }),
    names({ search: 'REEL  late' }),
    names({ search: '6/8 sloppy' }),
    names({ search: '120.5 bpm' }),
    names({ search: 'reel jig' }),
  ]).toEqual([['Reel 9', 'Reel 10'], ['Reel 10'], ['Jig'], ['Jig'], []]);
});

test('meters and tags are each told once, in their order', () => {
  expect([metersOf(rows), tagsOf(rows)]).toEqual([
    ['4/4', '6/8'],
    ['late', 'verse'],
  ]);
  expect([
    isWhole(WHOLE_SHELF),
    isWhole({ ...WHOLE_SHELF, order: 'name' }),
    isWhole({ ...WHOLE_SHELF, search: ' ' }),
    isWhole({ ...WHOLE_SHELF, tempo: { ...EVERY_TEMPO, to: 299 } }),
  ]).toEqual([true, true, true, false]);
});
