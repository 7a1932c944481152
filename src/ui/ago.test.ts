import { agoText, inDays } from './ago';

const DAY = 86_400_000;

test('moments are told by how far they lie from now', () => {
  expect([agoText(0, 2 * 3_600_000), agoText(5 * DAY, 4 * DAY)]).toEqual(['2 hours ago', 'tomorrow']);
});

test('what is counted in days is told in days', () => {
  expect([inDays(30 * DAY, 0), inDays(DAY, 0), inDays(0, 0)]).toEqual(['in 30 days', 'tomorrow', 'today']);
});
