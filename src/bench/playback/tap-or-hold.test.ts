import fc from 'fast-check';
import { TAP_MS, tapOrHold } from './tap-or-hold';

const told = (presses: readonly (readonly [down: boolean, at: number])[]): boolean[] => {
  const list: boolean[] = [];
  const key = tapOrHold((on) => list.push(on));
  for (const [down, at] of presses) key(down, at);
  return list;
};

test('held it lasts as long as it is held; tapped it stays until the next press is over', () => {
  expect(
    told([
      [true, 0],
      [false, 400],
    ]),
  ).toEqual([true, false]);
  expect(
    told([
      [true, 0],
      [false, 100],
    ]),
  ).toEqual([true]);
  expect(
    told([
      [true, 0],
      [false, 100],
      [true, 1000],
      [false, 1050],
    ]),
  ).toEqual([true, false]);
  // A long press takes it away as well.
  expect(
    told([
      [true, 0],
      [false, 100],
      [true, 1000],
      [false, 2000],
      [true, 3000],
      [false, 3900],
    ]),
  ).toEqual([true, false, true, false]);
});

test('it is told each change once, and after each even press it is off', () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ gap: fc.integer({ min: 1, max: 2000 }), length: fc.integer({ min: 1, max: 800 }) }), { maxLength: 20 }),
      (presses) => {
        let at = 0;
        let stays = false;
        const list: boolean[] = [];
        const key = tapOrHold((on) => list.push(on));
        for (const { gap, length } of presses) {
          key(true, (at += gap));
          expect(list.at(-1)).toBe(true);
          key(false, (at += length));
          stays = !stays && length < TAP_MS;
          expect(list.at(-1)).toBe(stays);
        }
        list.forEach((on, i) => expect(on).toBe(i % 2 === 0));
      },
    ),
  );
});
