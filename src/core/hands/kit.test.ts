import { VOICES } from '../voices';
import { isByHand, placeOf, REACH, spotOf, SPOTS, strikerOf, STRIKERS, usualStriker, within } from './kit';

test('every voice has its spot within reach, and somebody who strikes it', () => {
  for (const name of VOICES) {
    expect(SPOTS).toContain(spotOf(name));
    expect(within(placeOf(name))).toEqual(placeOf(name));
    expect(STRIKERS).toContain(usualStriker(name));
  }
  expect(new Set(SPOTS.map((s) => s.name)).size).toBe(SPOTS.length);
});

test('rows of one voice stand together; what is not named stands with all others', () => {
  expect(placeOf('snare:2')).toEqual({ x: 0, y: 0 });
  expect([spotOf('rim'), spotOf('hat-pedal'), spotOf('splash'), spotOf('shaker'), spotOf('pad-12')].map((s) => s.name)).toEqual([
    'snare',
    'hat',
    'china',
    'rest',
    'rest',
  ]);
});

test('both feet may kick, one works the hat, hands do the rest; a kit of one’s own says otherwise', () => {
  expect(['kick', 'kick:2', 'hat-pedal', 'snare', 'shaker'].map(usualStriker)).toEqual(['feet', 'feet', 'hat-foot', 'hands', 'hands']);
  const kit = { strikers: { kick: 'kick-foot', cowbell: 'hat-foot' }, places: { snare: { x: 0.1, y: -0.1 } } } as const;
  expect(['kick:2', 'cowbell', 'snare'].map((v) => strikerOf(v, kit))).toEqual(['kick-foot', 'hat-foot', 'hands']);
  expect([placeOf('clap', kit), placeOf('ride', kit)]).toEqual([{ x: 0.1, y: -0.1 }, placeOf('ride')]);
  expect(STRIKERS.filter(isByHand)).toEqual(['hands', 'lead-hand', 'other-hand']);
});

test('nothing stands out of reach', () => {
  expect(within({ x: -9, y: 9 })).toEqual({ x: -REACH.side, y: REACH.far });
  expect(within({ x: 9, y: -9 })).toEqual({ x: REACH.side, y: REACH.near });
});
