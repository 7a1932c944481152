import { parseGroove } from '@/formats/groove-format';
import { bpm } from '../units';
import { compareGrooves } from './compare';
import { GROOVE_FAMILIES, HOUSE_GROOVES } from './house-grooves';

const named = (name: string) => HOUSE_GROOVES.find((g) => g.name === name)!;

test('at least twelve, in the families that are promised, each a valid groove with a name of its own', () => {
  expect(HOUSE_GROOVES.length).toBeGreaterThanOrEqual(12);
  expect(new Set(HOUSE_GROOVES.map((g) => g.name)).size).toBe(HOUSE_GROOVES.length);
  for (const groove of HOUSE_GROOVES) expect(parseGroove(JSON.parse(JSON.stringify(groove)))).toEqual(groove);
  expect(GROOVE_FAMILIES.map((f) => f.name)).toEqual([
    'Straight, the backbeat late',
    'Pushed',
    'Swung eighths',
    'Swung sixteenths',
    'Leaning towards triplets',
    'Street parade',
    'Six eighths',
    'Seven eighths',
    'Waltz',
    'Brushed',
    'Uneven hands',
  ]);
});

test('any two of one length are at least 4 ms rms apart at 100 BPM, or 10 % in level', () => {
  const alike = HOUSE_GROOVES.flatMap((a, i) =>
    HOUSE_GROOVES.slice(i + 1).flatMap((b) => {
      if (a.beats !== b.beats) return [];
      const { rmsMs, rmsLevel } = compareGrooves(a, b, bpm(100));
      return rmsMs < 4 && rmsLevel < 0.1 ? [`${a.name} ${b.name} ${rmsMs.toFixed(1)} ${rmsLevel.toFixed(2)}`] : [];
    }),
  );
  expect(alike).toEqual([]);
});

test('swung ones stand at whole-number ratios', () => {
  // The second of a pair comes at 4/7, 3/5, 2/3 and 5/8 of it: 1/7, 1/5, 1/3 and 1/4 of a step behind the middle.
  expect(named('Gangplank').steps[1]!.offset).toBeCloseTo(1 / 7, 12);
  expect(named('Rope Ladder').steps[3]!.offset).toBeCloseTo(1 / 5, 12);
  expect(named('Harbour Bell').steps[1]!.offset).toBeCloseTo(1 / 3, 12);
  expect(named('Lamp Oil').steps[1]!.offset).toBeCloseTo(1 / 4, 12);
  expect([
    named('Foghorn').steps.length,
    named('Galley').steps.length,
    named('Low Swell').steps.length,
    named('Brass Rail').steps.length,
  ]).toEqual([14, 12, 6, 32]);
});
