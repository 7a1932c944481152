import { chanceOf, verdictOf, verdictWords } from './blind';

test('how likely a split is by chance: by hand from the binomial', () => {
  // 2 (10 + 1) / 1024; 2 (1 + 10 + 45 + 120) / 1024; all of five.
  expect(chanceOf(10, 9)).toBeCloseTo(22 / 1024, 9);
  expect(chanceOf(10, 3)).toBeCloseTo(352 / 1024, 9);
  expect([chanceOf(5, 5), chanceOf(4, 2), chanceOf(0, 0)]).toEqual([0.0625, 1, 1]);
});

test('the verdict in words', () => {
  const nine = verdictOf(
    Array.from({ length: 10 }, (_, i) => ({ first: i % 2 === 0 ? 'now' : 'other', preferred: i === 4 ? 'other' : 'now' }) as const),
  );
  expect(nine).toMatchObject({ now: 9, other: 1 });
  expect(verdictWords(nine, 'as imported')).toBe(
    'You preferred it as it is now in 9 of 10 rounds: hardly chance (chance alone gives a split this uneven in 2.1 % of such tests).',
  );
  expect(
    verdictWords(
      verdictOf([
        { first: 'now', preferred: 'now' },
        { first: 'now', preferred: 'other' },
      ]),
      'x',
    ),
  ).toContain('no difference');
});
