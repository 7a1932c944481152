import { byPlace } from './curve';

test('dots are gathered by place: means and deviations by hand, in the order of the bar', () => {
  const dots = [
    { x: 2, y: 4, hit: 5 },
    { x: 0, y: -3, hit: 0 },
    { x: 2, y: 8, hit: 1 },
    { x: 0.5, y: 1, hit: 2 },
    { x: 2, y: 6, hit: 3 },
  ];
  expect(byPlace(dots)).toEqual([
    { x: 0, hits: [0], mean: -3, deviation: 0 },
    { x: 0.5, hits: [2], mean: 1, deviation: 0 },
    { x: 2, hits: [5, 1, 3], mean: 6, deviation: expect.closeTo(Math.sqrt(8 / 3), 9) as number },
  ]);
  expect(byPlace([])).toEqual([]);
});
