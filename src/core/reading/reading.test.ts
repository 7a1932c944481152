import fc from 'fast-check';
import { MeterMap } from '../time/meter-map';
import { GRIDS, stepOf } from '../time/grid';
import { ticks, TICKS_PER_QUARTER } from '../units';
import type { Part } from '../model/part';
import { smallPart } from '@tests/support/arbitraries';
import { playTake, SLOPPINESS, STYLES, type Sloppiness, type Take } from '@tests/support/takes';
import { align, posteriorsOfAlign } from './alignment';
import { cellsOfBar } from './cells';
import { exactHomes } from './exact';
import { mainStrokes } from './flams';
import { readHomes } from './read';
import { linesOfBase } from './states';

const Q = TICKS_PER_QUARTER;
const source = (ppq: number): Part['source'] => ({ fileName: 'x.mid', ppq, lanes: [] });

test('bars are read by quarters and by groups of three eighths; shorter groups are joined up to a quarter', () => {
  const cells = (numerator: number, denominator: number) => {
    const map = new MeterMap([{ tick: ticks(0), numerator, denominator }]);
    return cellsOfBar(map, map.barOf(0)).map((c) => c.length / Q);
  };
  expect(cells(4, 4)).toEqual([1, 1, 1, 1]);
  expect(cells(2, 2)).toEqual([1, 1, 1, 1]);
  expect(cells(7, 8)).toEqual([1, 1, 1.5]);
  expect(cells(6, 8)).toEqual([1.5, 1.5]);
  // Sixteenths one by one: four to a quarter, two are left.
  expect(cells(6, 16)).toEqual([1, 0.5]);
});

test('two strokes and three lines by hand: all orders that go forward, and the rare one that shares a line', () => {
  const lines = { places: [0, 0.5, 1], homes: [0, 0.5, 1], priors: [0.5, 0.3, 0.2] };
  // First stroke: 2, 1, 0; second: 0, 1, 3 by line.
  const log = align(
    2,
    { priors: Float64Array.from(lines.priors), placeOf: Int32Array.of(0, 1, 2) },
    Float64Array.of(2, 1, 0, 0, 1, 3),
    0,
    3,
    true,
  );
  const posterior = posteriorsOfAlign();
  // (0,1): 1 x 0.3; (0,2): 1 x 0.6; (1,1): 0.3 x 0.3 x 0.03; (1,2): 0.3 x 0.6.
  const sum = 0.3 + 0.6 + 0.0027 + 0.18;
  expect(Math.exp(log)).toBeCloseTo(sum, 12);
  expect(posterior[0]).toBeCloseTo(0.9 / sum, 12);
  expect(posterior[4]).toBeCloseTo(0.3027 / sum, 12);
});

test('swung lines: the second of a pair of sixteenths at 60 %; eighths bend the sixteenths between half as far', () => {
  expect(linesOfBase({ kind: 'swung-sixteenths', ratio: 0.6 }, 1, true)?.places).toEqual([0, 0.3, 0.5, 0.8, 1]);
  const eighths = linesOfBase({ kind: 'swung-eighths', ratio: 0.6 }, 1, true)!;
  [0, 0.3, 0.6, 0.8, 1].forEach((place, i) => expect(eighths.places[i]).toBeCloseTo(place, 12));
  expect(eighths.homes).toEqual([0, 0.25, 0.5, 0.75, 1]);
  expect(linesOfBase({ kind: 'swung-eighths', ratio: 0.6 }, 1.5, true)).toBeNull();
});

test('flams: soft strokes close to a loud one take its home; equals that are not quite together do not', () => {
  const main = (list: [ms: number, velocity: number][]) => [
    ...mainStrokes(
      { ticks: list.map(([ms]) => Math.round((ms / 500) * Q)), velocities: list.map(([, v]) => v), seconds: list.map(([ms]) => ms / 1000) },
      () => true,
      Q,
    ),
  ];
  expect(
    main([
      [0, 40],
      [25, 100],
    ]),
  ).toEqual([1, 1]);
  expect(
    main([
      [0, 95],
      [25, 100],
    ]),
  ).toEqual([0, 1]);
  expect(
    main([
      [0, 95],
      [14, 100],
    ]),
  ).toEqual([1, 1]);
  expect(
    main([
      [0, 40],
      [46, 100],
    ]),
  ).toEqual([0, 1]);
});

test('strokes on exact lines keep them, on every grid, resolution and tempo', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...GRIDS),
      fc.constantFrom(96, 480, 960, 80640),
      fc.integer({ min: 40, max: 240 }),
      fc.uniqueArray(fc.nat(63), { minLength: 24, maxLength: 40 }),
      (grid, ppq, bpm, lines) => {
        const step = stepOf(grid);
        const raster = Q / ppq;
        fc.pre(step >= 4 * raster && step % raster === 0);
        const part = smallPart(
          lines.map((n) => ['snare', (n * step) / Q, 90] as const),
          { bars: 16 },
        );
        const tempo = [{ tick: ticks(0), microsecondsPerQuarter: Math.round(60e6 / bpm) }];
        const { homes, sure } = readHomes({ ...part, tempo, source: source(ppq) });
        part.hits.forEach((h, i) => expect([homes[i], sure[i]]).toEqual([h.tick, 1]));
      },
    ),
    { numRuns: 60 },
  );
});

test('a few played strokes that fall on sixteenths by accident are not taken for exact', () => {
  const map = new MeterMap([]);
  const [cell] = cellsOfBar(map, map.barOf(0));
  expect([...exactHomes([0, Q / 4], [cell!, cell!], Q / 480)]).toEqual([Number.NaN, Number.NaN]);
  // At the full resolution one stroke on a sixteenth is no accident.
  expect([...exactHomes([0, Q / 4], [cell!, cell!], 1)]).toEqual([0, Q / 4]);
});

const take = (style: number, sloppiness: Sloppiness, seed: number, bars = 8): Take => playTake(STYLES[style]!, sloppiness, seed, bars);

test('decided homes stay, and are sure', () => {
  const { part } = take(2, 'sloppy', 11);
  const hits = part.hits.map((h, i) => (i % 9 === 4 ? { ...h, home: ticks(Math.round(h.tick / (Q / 2)) * (Q / 2)), decided: true } : h));
  const { homes, sure } = readHomes({ ...part, hits });
  hits.forEach((h, i) => {
    if (h.decided) expect([homes[i], sure[i]]).toEqual([h.home, 1]);
  });
});

test('a part that comes whole bars later is read the same', () => {
  for (const style of [1, 4, 6]) {
    const { part } = take(style, 'usual', 23);
    const { numerator, denominator } = part.meter[0]!;
    const shift = 3 * ((numerator * 4 * Q) / denominator);
    const later = readHomes({ ...part, hits: part.hits.map((h) => ({ ...h, tick: ticks(h.tick + shift) })) });
    const now = readHomes(part);
    now.homes.forEach((home, i) => expect(later.homes[i]! - shift).toBe(home));
  }
});

test('homes do not depend on tempo, but for grace strokes', () => {
  const { part } = take(4, 'tight', 5);
  const hits = part.hits.filter((h) => h.velocity !== 40);
  const at = (bpm: number) =>
    readHomes({ ...part, hits, tempo: [{ tick: ticks(0), microsecondsPerQuarter: Math.round(60e6 / bpm) }] }).homes;
  expect([...at(70)]).toEqual([...at(180)]);
});

/** The bars that the reading is held to, with two standard errors for the smaller number here. */
test('takes by people: wrong homes, needless doubts, swing that is found, missed or made up', () => {
  let [n, wrong, listedRight, straight, falseSwing, swung, missed] = [0, 0, 0, 0, 0, 0, 0];
  const errors: number[] = [];
  (Object.keys(SLOPPINESS) as Sloppiness[]).forEach((sloppiness, l) =>
    STYLES.forEach((_, style) => {
      for (let seed = 0; seed < 2; seed++) {
        const { part, truth, swing } = take(style, sloppiness, 50_000 + 97 * seed + 13 * style + 1009 * l);
        const { homes, sure, swings } = readHomes(part);
        truth.forEach((home, i) => {
          n++;
          const isWrong = Math.abs((homes[i] as number) - home) > 1;
          if (isWrong) wrong++;
          else if ((sure[i] as number) < 0.9) listedRight++;
        });
        if (!swing) {
          straight++;
          if (swings) falseSwing++;
        } else if (swing.percent > 55) {
          swung++;
          if (swings) errors.push(Math.abs(swings.whole.percent - swing.percent));
          else missed++;
        }
      }
    }),
  );
  expect(wrong / n).toBeLessThan(0.011 + 2 * Math.sqrt(0.011 / n));
  expect(listedRight / n).toBeLessThan(0.015 + 2 * Math.sqrt(0.015 / n));
  expect(falseSwing).toBeLessThanOrEqual(Math.ceil(straight / 100));
  expect(missed).toBeLessThanOrEqual(swung / 4);
  expect(errors.reduce((a, b) => a + b, 0) / errors.length).toBeLessThan(1.5);
});
