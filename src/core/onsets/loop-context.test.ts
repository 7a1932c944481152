import { alikeInLoop, farApart, printOf, secondSize, type FirstSaid } from './alike';
import { BANDS } from './look';
import { CONTEXT_SIZE, contextOf, standingOut } from './loop-context';

/** New power of so many dB in each band. */
const fresh = (db: number): { fresh: Float64Array } => ({ fresh: new Float64Array(BANDS).fill(db) });
const SUM_DB = 10 * Math.log10(BANDS);

test('a stroke stands out against the loudest of its loop and against the usual one', () => {
  // Of -60, -40, -30, -20 and -10 dB, 95 in 100 are at most -10, half of them at most -30.
  const context = contextOf([-20, -60, -10, -40, -30].map(fresh));
  expect([context.loudest[0], context.usual[0]]).toEqual([-10, -30]);
  expect(context.loudest[BANDS]).toBeCloseTo(-10 + SUM_DB, 9);
  const values = standingOut(fresh(-20), context);
  expect(values).toHaveLength(CONTEXT_SIZE);
  // 10 dB under the loudest, 10 dB over the usual, each over 20.
  for (const i of [0, BANDS - 1, BANDS]) expect(values[i]).toBeCloseTo(-0.5, 9);
  for (const i of [BANDS + 1, CONTEXT_SIZE - 1]) expect(values[i]).toBeCloseTo(0.5, 9);
  // Beyond -50 and 30 dB nothing more is said.
  expect([standingOut(fresh(-120), context)[0], standingOut(fresh(20), context)[BANDS + 1]]).toEqual([-2.5, 1.5]);
});

test('a print is the same however loud a stroke is, and says nothing 40 dB under it', () => {
  const loud = { fresh: Float64Array.from({ length: BANDS }, (_, b) => (b < 2 ? -10 : -90)) };
  const soft = { fresh: loud.fresh.map((x) => x - 17) };
  const print = printOf(loud);
  printOf(soft).forEach((x, b) => expect(x).toBeCloseTo(print[b]!, 9));
  // Two bands share all the power: each is 3 dB under it.
  expect(print[0]).toBeCloseTo(-3.01 / 20, 3);
  expect(print[5]).toBe(-2);
  expect(farApart(print, print)).toBe(0);
  expect(farApart(new Float64Array(BANDS), new Float64Array(BANDS).fill(0.2))).toBeCloseTo(0.04, 9);
});

test('strokes that sound alike speak for each other; what may be no stroke speaks for none', () => {
  const said = (db: number, logits: number[], plain = true): FirstSaid => ({
    print: printOf({ fresh: Float64Array.from({ length: BANDS }, (_, b) => (b % 2 === 0 ? -10 : -10 + db)) }),
    logits: Float64Array.from(logits),
    loud: new Float64Array(5),
    stands: [0.25, -0.5],
    plain,
  });
  const KICK = [8, -8, -8, -8, -8];
  const HAT = [-8, -8, 8, -8, -8];
  const [first] = alikeInLoop([said(-30, [0, 0, 0, 0, 0]), said(-30, KICK), said(0, HAT)]);
  expect(first).toHaveLength(secondSize(5));
  // Its own logits are 0; those of the one like it are 8, kept over 4: with its own they make a mean of 1.
  expect([...first!.slice(0, 5)]).toEqual([0, 0, 0, 0, 0]);
  expect(first![5]).toBeCloseTo(1, 3);
  expect(first![7]).toBeLessThan(-0.9);
  // log(1 + 1) / 2 for one just like it.
  expect(first![10]).toBeCloseTo(Math.log(2) / 2, 2);
  expect([...first!.slice(-2)]).toEqual([0.25, -0.5]);
  const [alone] = alikeInLoop([said(-30, [0, 0, 0, 0, 0]), said(-30, KICK, false), said(0, HAT)]);
  expect(alone![5]).toBeLessThan(0.1);
});
