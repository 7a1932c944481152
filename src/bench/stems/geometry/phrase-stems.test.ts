import { performPart } from '@/core/perform/perform';
import { milliseconds } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { phraseStems } from './phrase-stems';

test('hits of the strip: bar and place in it, rows from top to bottom, leans in ms', () => {
  const base = smallPart(
    [
      ['hat-closed', 0, 127],
      ['snare', 1, 64],
      ['kick', 6, 127],
    ],
    { bars: 2 },
  );
  const part = {
    ...base,
    rows: [{ voice: 'hat-closed' }, { voice: 'crash' }, { voice: 'snare' }, { voice: 'kick' }],
    hits: base.hits.map((h) => (h.voice === 'snare' ? { ...h, nudge: { ms: milliseconds(12), velocity: 0 } } : h)),
  };
  const stems = phraseStems(part, performPart(part));
  // A row without hits takes no room.
  expect(stems.map((s) => [s.bar, s.place, s.row])).toEqual([
    [0, 0, 0],
    [0, 0.25, 0.5],
    [1, 0.5, 1],
  ]);
  expect(stems.map((s) => Number(s.lean.toFixed(3)))).toEqual([0, 12, 0]);
  expect(stems[0]?.height).toBe(1);
});
