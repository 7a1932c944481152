import fc from 'fast-check';
import { conflictsOf, HAND_LIMITS, MOMENT_MS, type TimedStroke } from './limits';

const at = (...list: [number, string][]): TimedStroke[] => list.map(([ms, voice]) => ({ ms, voice }));
const kinds = (strokes: readonly TimedStroke[]): string[] => conflictsOf(strokes).map((c) => `${c.kind} ${c.stroke.voice} ${c.stroke.ms}`);

test.each<[string, TimedStroke[], string[]]>([
  ['two hands and two feet at once', at([0, 'snare'], [0, 'crash'], [0, 'kick'], [0, 'hat-pedal']), []],
  ['three hand strokes at once', at([0, 'snare'], [0, 'tom-floor'], [0, 'crash']), ['hands crash 0']],
  ['three hand strokes, one of them keeping time', at([0, 'snare'], [0, 'crash'], [0, 'ride']), ['busy ride 0']],
  ['a hat while both hands are on the toms', at([0, 'tom-high'], [0, 'tom-mid'], [60, 'hat-closed']), ['busy hat-closed 60']],
  ['a double stroke each: 90 ms is playable', at([0, 'snare'], [45, 'snare'], [90, 'snare'], [135, 'snare']), []],
  ['and 89 is not', at([0, 'snare'], [44, 'snare'], [89, 'snare'], [133, 'snare']), ['too-fast snare 89']],
  ['three kicks at once', at([0, 'kick'], [5, 'kick'], [10, 'kick']), ['feet kick 10']],
  ['kicks in a roll of two feet', at([0, 'kick'], [55, 'kick'], [110, 'kick'], [165, 'kick']), []],
  ['kicks that no foot is back for', at([0, 'kick'], [50, 'kick'], [100, 'kick']), ['too-fast kick 100']],
  ['an open hat with a stroke of its pedal', at([0, 'hat-open'], [0, 'hat-pedal']), ['open-hat hat-open 0']],
  ['an open hat over two kicks at once', at([0, 'hat-open'], [0, 'kick'], [4, 'kick']), ['open-hat hat-open 0']],
  ['strokes of one moment lie within 12 ms', at([0, 'snare'], [12, 'tom-high'], [13, 'tom-low']), ['too-fast tom-low 13']],
])('%s', (_name, strokes, expected) => {
  expect(kinds(strokes)).toEqual(expected);
});

test('whether a row of hand strokes can be played is as trying every way of sharing them says', () => {
  /** Tries both hands for each stroke. */
  const playable = (times: readonly number[], hands: readonly [number, number] = [-1e9, -1e9]): boolean => {
    const [now, ...rest] = times;
    if (now === undefined) return true;
    return ([0, 1] as const).some((h) => now - hands[h] >= HAND_LIMITS.hand && playable(rest, h === 0 ? [now, hands[1]] : [hands[0], now]));
  };
  fc.assert(
    fc.property(fc.array(fc.integer({ min: MOMENT_MS + 1, max: 120 }), { minLength: 1, maxLength: 12 }), (gaps) => {
      let ms = 0;
      const times = [0, ...gaps.map((g) => (ms += g))];
      expect(conflictsOf(times.map((t) => ({ ms: t, voice: 'snare' }))).length === 0).toBe(playable(times));
    }),
    { numRuns: 500 },
  );
});
