import { countWords, megabytes } from './words';

test('counts are said as people count', () => {
  expect(
    countWords([
      ['part', 24],
      ['groove', 1],
      ['feel', 0],
    ]),
  ).toBe('24 parts and 1 groove');
  expect(
    countWords([
      ['part', 1],
      ['key map', 2],
      ['setting', 1],
    ]),
  ).toBe('1 part, 2 drum maps and the settings');
  expect(countWords([['part', 0]])).toBe('nothing');
});

test('sizes are said in what they fill', () => {
  expect([12, 340_000, 12_345_678, 3_210_000_000].map(megabytes)).toEqual(['1 kB', '340 kB', '12.3 MB', '3.2 GB']);
});
