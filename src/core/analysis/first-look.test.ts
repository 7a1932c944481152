import { smallPart } from '@tests/support/arbitraries';
import { ticks } from '../units';
import { firstLook } from './first-look';

const flat = smallPart([
  ['hat-closed', 0, 100],
  ['hat-closed', 0.5, 100],
  ['snare', 1, 100],
  ['kick', 0, 100],
]);

test('a flat import stands on its lines at one velocity, with hats and without ghosts', () => {
  expect(firstLook(flat)).toEqual({
    onGrid: true,
    flat: true,
    sloppy: false,
    scatterMs: 0,
    lateMs: 0,
    velocities: [100, 100],
    hasHats: true,
    noGhosts: true,
  });
});

test('a played part is neither; one that is far off is sloppy', () => {
  // At 120 BPM a quarter of 80640 ticks lasts 500 ms: 16 ms are 2580 ticks, once late, once early.
  const played = smallPart([0, 1, 2, 3].map((q) => ['hat-closed', q, 70 + 12 * q]));
  const hits = played.hits.map((h, i) => ({ ...h, tick: ticks(h.tick + (i % 2 ? -2580 : i === 0 ? 2580 : 2580)) }));
  const look = firstLook({ ...played, hits });
  expect([look?.onGrid, look?.flat, look?.sloppy]).toEqual([false, false, true]);
  expect(look?.scatterMs).toBeCloseTo(16, 0);
  expect(look?.velocities).toEqual([70, 106]);
});

test('a part that is late as a whole says by how much, hit by hit', () => {
  // 12 ms at 120 BPM are 1935 ticks: two hats late by that, one kick on its line.
  const base = smallPart([
    ['hat-closed', 0, 90],
    ['hat-closed', 1, 90],
    ['kick', 2, 90],
  ]);
  const late = { ...base, hits: base.hits.map((h) => (h.voice === 'kick' ? h : { ...h, tick: ticks(h.tick + 1935) })) };
  expect(firstLook(late)?.lateMs).toBeCloseTo(8, 1);
});

test('a part without hits has nothing to look at', () => {
  expect(firstLook(smallPart([]))).toBeNull();
});
