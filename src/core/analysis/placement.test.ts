import { smallPart } from '@tests/support/arbitraries';
import { HOUSE_GROOVES } from '../groove/house-grooves';
import type { Part } from '../model/part';
import { performPart } from '../perform/perform';
import { bpm, milliseconds } from '../units';
import { nearestGrooves } from './near-grooves';
import { isFlat, looseness, placementOf } from './placement';
import { reportPart } from './report';
import { foundSwings } from '../homes/swings';

const sixteenths = (voice = 'hat-closed', bars = 2) => Array.from({ length: 16 * bars }, (_, i) => [voice, i / 4, 90] as const);

test('rows: lean, spread and velocity by hand', () => {
  const part = smallPart([
    ...[0, 1, 2, 3].map((b) => ['snare', b, 80 + 10 * b] as const),
    ...[0, 1, 2, 3].map((b) => ['kick', b, 100] as const),
  ]);
  const nudged: Part = {
    ...part,
    hits: part.hits.map((h) => (h.voice === 'snare' ? { ...h, nudge: { ms: milliseconds(h.velocity < 95 ? 8 : 12), velocity: 0 } } : h)),
  };
  const snare = placementOf(nudged).rows.find((r) => r.voice === 'snare')!;
  expect(snare).toMatchObject({ n: 4, leanMs: expect.closeTo(10, 3) as number, spreadMs: expect.closeTo(2, 3) as number });
  expect(snare.velocity).toMatchObject({ min: 80, mean: 95, max: 110, sd: expect.closeTo(11.1803, 3) as number });
  expect(placementOf(nudged, 'written').rows.find((r) => r.voice === 'snare')!.leanMs).toBe(0);
  expect(
    placementOf(nudged)
      .rows.filter(isFlat)
      .map((r) => r.voice),
  ).toEqual(['kick']);
  expect([0.5, 4, 10, 20].map(looseness)).toEqual(['exact', 'tight', 'human', 'loose']);
});

test('as written it is what the report says', () => {
  const part = smallPart([...sixteenths(), ['snare', 1.02, 100], ['snare', 3.01, 90], ['kick', 0, 80]]);
  const report = reportPart(part);
  for (const row of placementOf(part, 'written').rows) {
    const same = report.voices.find((v) => v.voice === row.voice)!;
    expect([row.n, row.leanMs, row.spreadMs, row.velocity]).toEqual([same.n, same.meanLeanMs, same.sdLeanMs, same.velocity]);
  }
});

test.each([
  ['1/16', 54],
  ['1/16', 57.5],
  ['1/16', 66.7],
  ['1/8', 58],
  ['1/8', 66.7],
] as const)('a swing of %s by %d %% is found within half a percent, humanized too', (division, percent) => {
  const steps = division === '1/8' ? Array.from({ length: 16 }, (_, i) => ['hat-closed', i / 2, 90] as const) : sixteenths();
  const part = smallPart(steps);
  const felt: Part = {
    ...part,
    feel: {
      ...part.feel,
      moves: [
        { kind: 'swing', division, percent },
        { kind: 'humanize', timingMs: 1, velocityPercent: 0, memory: 0, anchor: 1, span: 1 },
      ],
    },
  };
  const found = foundSwings(felt, performPart(felt).ticks);
  expect(found?.division).toBe(division);
  expect(Math.abs(found!.whole.percent - percent)).toBeLessThan(0.5);
  expect(foundSwings(felt)).toBeNull();
});

test('straight and swung rows together are told apart by row', () => {
  const part = smallPart([...sixteenths('hat-closed'), ...sixteenths('shaker')]);
  const felt: Part = {
    ...part,
    feel: { ...part.feel, moves: [{ kind: 'swing', division: '1/16', percent: 60, scope: { voices: ['shaker'] } }] },
  };
  const swing = Object.fromEntries(placementOf(felt).rows.map((r) => [r.voice, r.swing?.percent]));
  expect([swing['hat-closed'], swing.shaker]).toEqual([undefined, expect.closeTo(60, 1)]);
});

test('its own groove is that of what is measured: as performed, or as written', () => {
  const groove = HOUSE_GROOVES.find((g) => g.beats === 4 && g.stepsPerBeat === 4)!;
  const part = smallPart(sixteenths('hat-closed', 4), { bars: 4 });
  const felt: Part = { ...part, feel: { ...part.feel, moves: [{ kind: 'groove', groove, lean: 1, level: 1 }] } };
  const [nearest] = nearestGrooves(placementOf(felt).groove!, bpm(120), HOUSE_GROOVES);
  expect(nearest!.groove.name).toBe(groove.name);
  expect(nearest!.ms).toBeLessThan(1.5);
  expect(placementOf(felt, 'written').groove!.steps.every((s) => s.offset === 0)).toBe(true);
});

test('of few hits, and of chokes alone, no groove is told', () => {
  expect(placementOf(smallPart([['snare', 0, 90]])).groove).toBeNull();
  const part = smallPart(sixteenths('crash'));
  expect(placementOf({ ...part, hits: part.hits.map((h) => ({ ...h, choke: true as const })) }).groove).toBeNull();
});
