import fc from 'fast-check';
import { compareNames } from './natural-order';

test('numbers in names go by their value, case and accents do not part them', () => {
  expect(['pad 10', 'Pad 9', 'öre', 'pad 9', 'ore 2', 'pad'].sort(compareNames)).toEqual([
    'öre',
    'ore 2',
    'pad',
    'pad 9',
    'Pad 9',
    'pad 10',
  ]);
});

test('it is an order, the one of a comparison by itself', () => {
  fc.assert(
    fc.property(fc.string(), fc.string(), (a, b) => {
      expect(Math.sign(compareNames(a, b))).toBe(Math.sign(a.localeCompare(b, 'en', { numeric: true })));
      expect(Math.sign(compareNames(a, b))).toBe(-Math.sign(compareNames(b, a)) + 0);
    }),
  );
});
