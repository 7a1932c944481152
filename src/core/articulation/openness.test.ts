import { hatOf, isHat, opennessOfPedal, pedalOfOpenness } from './openness';

test('a pressed pedal is a closed hat, either way round; both ways lead back', () => {
  expect([opennessOfPedal(127), opennessOfPedal(0), opennessOfPedal(30), opennessOfPedal(30, true)]).toEqual([0, 127, 97, 30]);
  for (let value = 0; value <= 127; value++) expect(pedalOfOpenness(opennessOfPedal(value))).toBe(value);
});

test('a hat is as open as its pedal says: closed from 90, half open from 40; other rows and hats without a pedal stay', () => {
  expect([90, 89, 40, 39].map((pedal) => hatOf('hat-closed', 127 - pedal))).toEqual(['hat-closed', 'hat-half', 'hat-half', 'hat-open']);
  expect(hatOf('hat-open', 127)).toBe('hat-open');
  expect(hatOf('hat-closed:44', 0)).toBe('hat-closed:44');
  expect([hatOf('snare', 127), hatOf('hat-closed', undefined)]).toEqual(['snare', 'hat-closed']);
  expect(['hat-closed', 'hat-open:46', 'hat-shoulder', 'hat-pedal', 'hat-splash', 'snare'].map(isHat)).toEqual([
    true,
    true,
    true,
    false,
    false,
    false,
  ]);
});
