import { lookWords } from './FirstSteps';

jest.mock('@/ui/notify', () => ({ say: () => {}, showError: () => {} }));
jest.mock('@/sound/engine', () => ({ soundEngine: () => ({}) }));

const look = { onGrid: false, flat: false, sloppy: false, scatterMs: 8.4, lateMs: 0, velocities: [54, 127] as [number, number], hasHats: true, noGhosts: true };

test('a fresh part in a sentence: flat, on the grid, played, loose, late as a whole', () => {
  expect(lookWords({ ...look, onGrid: true, flat: true, velocities: [100, 100] })).toBe('A flat part: every hit stands on its line, all at velocity 100.');
  expect(lookWords({ ...look, onGrid: true })).toBe('A part on the grid: every hit stands on its line, velocities from 54 to 127.');
  expect(lookWords(look)).toBe('A played part: hits vary by 8 ms around their rows’ own places, velocities from 54 to 127.');
  expect(lookWords({ ...look, sloppy: true, scatterMs: 23, lateMs: 59.2 })).toBe('A loose take: hits vary by 23 ms around their rows’ own places, about 59 ms late as a whole, velocities from 54 to 127.');
});
