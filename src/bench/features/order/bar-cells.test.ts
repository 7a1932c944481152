import { barCells } from './BarCells';

jest.mock('../../store/context', () => ({}));
jest.mock('../../actions/arrange', () => ({}));

const section = (from: number, bars: number) => ({ id: `${from}`, name: `From ${from}`, from, bars });
const ends = (cells: ReturnType<typeof barCells>) => cells.map((c) => c.to);

test('bars come in cells as long as sections are, the last one cut', () => {
  expect(ends(barCells({ bars: 3 }))).toEqual([1, 2, 3]);
  expect(ends(barCells({ bars: 7 }))).toEqual([2, 4, 6, 7]);
  expect(ends(barCells({ bars: 32 }))).toEqual([4, 8, 12, 16, 20, 24, 28, 32]);
  for (const bars of [90, 1000, 100_000]) expect(barCells({ bars }).length).toBeLessThanOrEqual(24);
});

test('a cell that a section has any bar of is that section’s', () => {
  expect(barCells({ bars: 8, sections: [section(2, 3)] }).map((c) => c.section)).toEqual(['From 2', 'From 2', null, null]);
  expect(barCells({ bars: 8, sections: [section(1, 2), section(7, 2)] }).map((c) => c.section)).toEqual(['From 1', null, null, 'From 7']);
});
