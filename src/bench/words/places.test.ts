import { smallPart } from '@tests/support/arbitraries';
import { handsOfPart } from '@/core/analysis/hands-of-part';
import { TICKS_PER_QUARTER } from '@/core/units';
import { groupConflicts } from './group-conflicts';
import { placesText } from './places';

const Q = TICKS_PER_QUARTER;
const part = smallPart([['kick', 0, 100]], { bars: 8 });
const text = (...quarters: number[]): string =>
  placesText(
    part,
    quarters.map((q) => q * Q),
  );

test('places are named by beat and bars, or counted where they are many or not in every bar', () => {
  expect(text(5.5)).toBe('bar 2 · 2 &');
  expect(text(1, 3)).toBe('bar 1 · 2 and 4');
  expect(text(1, 3, 5, 7, 9, 11)).toBe('beats 2 and 4 of 3 bars');
  expect(text(1, 5, 9)).toBe('beat 2 of 3 bars');
  expect(text(1, 3, 5)).toBe('3 places on beats 2 and 4 of 2 bars');
  expect(text(0, 0.5, 1, 1.5, 2)).toBe('5 places in bar 1');
  expect(text(0, 0.5, 1, 1.5, 6)).toBe('5 places in 2 bars');
});

test('equal conflicts are one group with its fixes; another problem is another group', () => {
  const busy = smallPart(
    [0, 1, 2, 3].flatMap((beat): [string, number, number][] => [
      ['hat-closed', beat, 80],
      ['snare', beat, 100],
      [beat === 2 ? 'tom-high' : 'crash', beat, 90],
    ]),
  );
  const groups = groupConflicts(handsOfPart(busy).conflicts);
  const all = handsOfPart(busy).conflicts;
  expect(groups.reduce((n, g) => n + g.conflicts.length, 0)).toBe(all.length);
  expect(all.length).toBe(4);
  for (const group of groups) expect(new Set(group.conflicts.map((c) => `${c.text} ${c.voice}`)).size).toBe(1);
  expect(groups.length).toBe(new Set(all.map((c) => `${c.text} ${c.voice}`)).size);
  expect(groups.length).toBeLessThan(4);
  expect(groups[0]!.fixes.map((f) => f.kind)).toContain('leave-out');
});
