import { performPart, writtenPerformance } from '@/core/perform/perform';
import type { Hit, Part } from '@/core/model/part';
import { lockTest } from '@/core/part/locks';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { EMPTY_FEEL } from '@/core/model/feel';
import { smallPart } from '@tests/support/arbitraries';
import { drawnOn, of, PALETTE } from '@tests/support/canvas';
import { LEFT_MARGIN, type Axis } from '../geometry/axis';
import { RULER_HEIGHT, type RowBox } from '../geometry/rows';
import type { BenchScene } from '../geometry/scene';
import { layoutStems, type Stem } from '../geometry/stems';
import { drawGrid } from './draw-grid';
import { drawBehind, drawCaret, drawProposed, drawPulls } from './draw-marks';
import { drawPhrase } from './draw-phrase';
import { drawRounds } from './draw-rounds';
import { drawStems, HEAD_RADIUS } from './draw-stems';

const WIDTH = 800;
const Q = TICKS_PER_QUARTER;
/** A quarter is 100 pixels; it is scrolled by the margin, so that the first bar line stands at 0. */
const AXIS: Axis = { scroll: ticks((LEFT_MARGIN / 100) * Q), pixelsPerTick: 100 / Q };
const ROW = { voice: 'snare', top: 100, height: 100, baseline: 180, tallest: 70 } as unknown as RowBox;

const change = (part: Part, by: (hit: Hit, i: number) => Partial<Hit>): Part => ({
  ...part,
  hits: part.hits.map((h, i) => ({ ...h, ...by(h, i) })),
});
const snares = smallPart(
  [
    ['snare', 0, 127],
    ['snare', 1, 1],
    ['snare', 2, 64],
  ],
  { bars: 1 },
);

function stemsOf(part: Part): readonly Stem[] {
  return layoutStems({ part, performance: performPart(part), axis: AXIS, reach: 20, written: writtenPerformance(part) }, ROW, WIDTH);
}

function drawn(part: Part, look: Partial<Parameters<typeof drawStems>[4]> = {}) {
  const performance = performPart(part);
  return drawnOn((g) =>
    drawStems(g, PALETTE, stemsOf(part), ROW, {
      part,
      performance,
      selection: new Set(),
      detail: 'full',
      axis: AXIS,
      silent: false,
      strays: null,
      doubtful: new Uint8Array(part.hits.length),
      isLocked: lockTest(part),
      unheard: new Set(),
      timbre: false,
      ...look,
    }),
  );
}
const heads = (list: ReturnType<typeof drawn>) => of(list, 'dot').filter((d) => d.at[2] === HEAD_RADIUS.full);

test('a head stands as high as its velocity, on its line, in ink', () => {
  expect(heads(drawn(snares)).map((d) => [d.colour, ...d.at])).toEqual([
    ['ink', 0, 110, 5.5],
    ['ink', 100, 170, 5.5],
    ['ink', 200, 140, 5.5],
  ]);
});

test('early and late heads lean to their side, in their colour, with a notch on that side', () => {
  const leaning = change(snares, (_, i) => (i === 0 ? {} : { nudge: { ms: milliseconds(i === 1 ? -10 : 10), velocity: 0 } }));
  const list = drawn(leaning);
  const [, early, late] = heads(list);
  expect([early!.colour, late!.colour]).toEqual(['early', 'late']);
  expect([early!.at[0]! < 100, late!.at[0]! > 200]).toEqual([true, true]);
  // A reach of 20 ms is 0.45 of a step of 25 pixels: 10 ms are 5.63.
  expect(early!.at[0]).toBeCloseTo(94.375, 1);
  expect(late!.at[0]).toBeCloseTo(205.625, 1);
  const notches = of(list, 'rect').filter((d) => d.at[2] === 3 && d.at[3] === 1.8);
  expect(notches.map((d) => d.colour)).toEqual(['early', 'late']);
  expect([notches[0]!.at[0]! < early!.at[0]! - 4, notches[1]!.at[0]! > late!.at[0]! + 4]).toEqual([true, true]);
});

test('a lean beyond the reach is broken and says its number; small ones are not', () => {
  const far = change(snares, (_, i) => (i === 1 ? { nudge: { ms: milliseconds(40), velocity: 0 } } : {}));
  const texts = of(drawn(far), 'text');
  expect(texts.map((d) => d.text)).toEqual(['40']);
  expect(of(drawn(snares), 'text')).toEqual([]);
});

test('selected heads wear a ring in the accent colour; ghosts are hollow', () => {
  const ids = snares.hits.map((h) => h.id);
  const list = drawn(
    change(snares, (_, i) => (i === 2 ? { ghost: true } : {})),
    { selection: new Set([ids[0]!]) },
  );
  expect(of(list, 'dot', 'accent').map((d) => d.at)).toEqual([[0, 110, 8.5]]);
  const hollow = of(list, 'dot', 'ground').filter((d) => d.at[0] === 200);
  expect(hollow.map((d) => d.at[2])).toEqual([4.7]);
  expect(of(list, 'ring').map((d) => [d.colour, d.at[0]])).toEqual([['ink', 200]]);
});

test('locked hits stand on a square, uncertain ones on three dashes, hits with a probability on a gap', () => {
  const [a, , c] = snares.hits.map((h) => h.id);
  const marked = change(snares, (h) => (h.id === a ? { locked: true } : h.id === c ? { chance: 0.5 } : {}) as Partial<Hit>);
  const list = drawn(marked, { doubtful: Uint8Array.of(0, 1, 0) });
  const rects = of(list, 'rect').map((d) => d.at);
  expect(rects).toContainEqual([-3.5, 176.5, 7, 7]);
  expect(rects.filter(([x, , w]) => w === 3 && x! > 90 && x! < 110)).toHaveLength(3);
  expect(rects.filter(([, , w, h]) => w === 4 && h === 1.6).map(([x]) => x)).toEqual([193.5, 202.5]);
});

test('a choke is a bar on a bare foot, without a head', () => {
  const list = drawn(change(snares, (_, i) => (i === 1 ? { choke: true } : {})));
  expect(heads(list)).toHaveLength(2);
  expect(of(list, 'rect', 'ink').map((d) => d.at)).toContainEqual([93, 169.5, 14, 3]);
});

test('hits that do not sound are faint: in a silent row all, in a pass those that it leaves out', () => {
  expect(heads(drawn(snares, { silent: true })).map((d) => d.alpha)).toEqual([0.35, 0.35, 0.35]);
  expect(heads(drawn(snares, { unheard: new Set([snares.hits[1]!.id]) })).map((d) => d.alpha)).toEqual([1, 0.35, 1]);
});

test('passes are ticks under the foot: tall where it sounds', () => {
  const list = drawn(change(snares, (_, i) => (i === 1 ? { passes: { every: 4, at: [1, 3] } } : {})));
  const under = of(list, 'rect').filter((d) => d.at[2] === 1.2);
  expect(under.map((d) => [d.at[0], d.at[3]])).toEqual([
    [95, 5],
    [98, 2],
    [101, 5],
    [104, 2],
  ]);
});

test('what swing moved has its written head pale behind it', () => {
  const swung: Part = {
    ...smallPart([['snare', 0.25, 100]], { bars: 1 }),
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent: 60 }] },
  };
  const list = drawn(swung);
  const [pale] = of(list, 'dot', 'pale');
  const [head] = heads(list);
  // The second sixteenth at 60 % of its pair of 50 pixels.
  expect([pale!.at[0], head!.at[0]]).toEqual([25, 30]);
});

describe('the grid', () => {
  const lines = (part: Part, grid: '1/16' | '1/8T', focusIndex = -1) =>
    drawnOn((g) =>
      drawGrid(g, PALETTE, {
        part,
        lined: part,
        axis: AXIS,
        width: WIDTH,
        height: 300,
        grid,
        rows: [ROW],
        focusIndex,
        firstBar: 0,
      }),
    );
  const two = { ...snares, bars: 2 };

  test('bars wear flags, the last line is thick and has none', () => {
    const list = lines({ ...snares, bars: 1 }, '1/16');
    expect(of(list, 'text', 'ground').map((d) => [d.text, d.at[0]])).toEqual([['bar 1', 5]]);
    const thick = of(list, 'rect', 'strong').filter((d) => d.at[2] === 3);
    expect(thick).toHaveLength(1);
    expect(thick[0]!.at[0]! + 1.5).toBeCloseTo(400, -1);
  });

  test('counts: sixteenths as e & a, eighth triplets in threes', () => {
    const counts = (grid: '1/16' | '1/8T') =>
      of(lines(two, grid), 'text')
        .filter((d) => d.at[1] === RULER_HEIGHT - 9 && d.at[0]! < 200)
        .map((d) => [d.text, d.at[0]]);
    expect(counts('1/16')).toEqual([
      ['1', 0],
      ['e', 25],
      ['&', 50],
      ['a', 75],
      ['2', 100],
      ['e', 125],
      ['&', 150],
      ['a', 175],
    ]);
    expect(counts('1/8T').map(([text]) => text)).toEqual(['1', '&', 'a', '2', '&', 'a']);
  });

  test('lines stand where the placing grid has them, as the part swings', () => {
    const swung: Part = { ...two, feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent: 60 }] } };
    const steps = (part: Part) =>
      of(lines(part, '1/16'), 'rect', 'step')
        .filter((d) => d.at[2] === 1 && d.at[0]! < 100)
        .map((d) => d.at[0]);
    expect(steps(two)).toEqual([25, 50, 75]);
    expect(steps(swung)).toEqual([30, 50, 80]);
  });

  test('the open row has level lines at 32, 64, 96 and 127', () => {
    const list = lines(two, '1/16', 0);
    expect(
      of(list, 'text')
        .filter((d) => d.at[0] === 3)
        .map((d) => [d.text, d.at[1]]),
    ).toEqual([
      ['32', 153],
      ['64', 138],
      ['96', 123],
      ['127', 108],
    ]);
  });
});

describe('marks', () => {
  const scene = (part: Partial<BenchScene>): BenchScene =>
    ({ rows: [ROW], stems: [], behind: [], proposed: [], pulls: [], caret: null, ...part }) as unknown as BenchScene;

  test('a compared version is drawn where it differs alone', () => {
    const same = { headX: 100, headY: 150 };
    const list = drawnOn((g) =>
      drawBehind(
        g,
        PALETTE,
        scene({
          stems: [[same as Stem]],
          behind: [{ ...same, footX: 100, baseline: 180 } as never, { headX: 200, headY: 140, footX: 200, baseline: 180 } as never],
        }),
      ),
    );
    expect(of(list, 'dot').map((d) => d.at)).toEqual([[200, 140, 7]]);
    expect(of(list, 'line').map((d) => d.at)).toEqual([[200, 180, 200, 140]]);
  });

  test('suggested hits are pale with a ring; the one that is looked at has a bar under it', () => {
    const list = drawnOn((g) =>
      drawProposed(
        g,
        PALETTE,
        scene({
          proposed: [
            { row: 0, x: 50, velocity: 127, looked: false },
            { row: 0, x: 90, velocity: 1, looked: true },
          ] as never,
        }),
      ),
    );
    expect(of(list, 'ring', 'accent').map((d) => d.at)).toEqual([
      [50, 110, 5.5],
      [90, 170, 8],
    ]);
    expect(of(list, 'rect', 'accent').map((d) => d.at)).toEqual([[83, 183, 14, 2.5]]);
  });

  test('pulls point where quantizing takes a head', () => {
    const list = drawnOn((g) => drawPulls(g, PALETTE, scene({ pulls: [{ from: 110, to: 100, y: 90 }] as never })));
    expect(of(list, 'line').map((d) => d.at)).toEqual([
      [110, 90, 100, 90, 103, 87.5],
      [100, 90, 103, 92.5],
    ]);
  });

  test('the step cursor is a bracket around its line and a mark on the ruler; out of sight it is not drawn', () => {
    const list = drawnOn((g) => drawCaret(g, PALETTE, scene({ caret: { x: 100, row: 0, half: 12 } as never }), WIDTH));
    expect(of(list, 'line').map((d) => [d.at[0], d.at[2]])).toEqual([
      [93, 88],
      [107, 112],
    ]);
    expect(of(list, 'rect', 'accent').map((d) => d.at)).toEqual([[88, RULER_HEIGHT - 4, 24, 3]]);
    expect(drawnOn((g) => drawCaret(g, PALETTE, scene({ caret: { x: -40, row: 0, half: 12 } as never }), WIDTH))).toEqual([]);
  });

  test('a row with its own loop length: its repeats are pale, with a repeat sign where the first round ends', () => {
    const part: Part = {
      ...smallPart([['snare', 0, 127]], { bars: 2 }),
      rows: [{ voice: 'snare', cycle: { steps: 12, grid: '1/16' } }] as never,
    };
    const list = drawnOn((g) => drawRounds(g, PALETTE, ROW, part, AXIS, WIDTH));
    // Three quarters a round: at 3 and 6 of 8 quarters.
    expect(of(list, 'dot', 'pale').map((d) => d.at)).toEqual([
      [300, 110, 3.4],
      [600, 110, 3.4],
    ]);
    expect(of(list, 'rect', 'strong').map((d) => d.at[0])).toEqual([298, 295.4]);
  });
});

test('the strip of the whole part: letters where the shape changes, the loop, the window, a question mark where hits are uncertain', () => {
  const bar = (shape: number, more: object = {}) => ({ shape, hits: 4, lean: 0, doubtful: 0, ...more });
  const list = drawnOn((g) =>
    drawPhrase(g, PALETTE, {
      bars: [bar(0), bar(0), bar(1, { doubtful: 2 }), bar(0, { lean: 20 })],
      stems: [],
      width: 400,
      height: 60,
      loop: [1, 3],
      window: [0, 2],
    }),
  );
  // No cell is wider than 92 pixels.
  expect(
    of(list, 'text')
      .filter((d) => d.colour === 'faint')
      .map((d) => [d.text, d.at[0]]),
  ).toEqual([
    ['A', 3],
    ['B', 187],
    ['A', 279],
  ]);
  expect(of(list, 'text', 'accent').map((d) => [d.text, d.at[0]])).toEqual([['?', 274]]);
  expect(of(list, 'rect', 'sunk').map((d) => [d.at[0], d.at[2]])).toEqual([[0, 184]]);
  expect(of(list, 'line', 'accent').map((d) => [d.at[0], d.at[4]])).toEqual([
    [93, 275],
    [93, 275],
  ]);
  const drift = of(list, 'rect', 'ink').map((d) => d.at[0]);
  expect(drift.map((x, i) => Math.round(x! - i * 92))).toEqual([45, 45, 45, 76]);
});

test('on the open row pan, pitch and brightness are marked on the head', () => {
  const part = change(snares, (_, i) => [{ pan: -30 }, { pan: 60, brightness: 40 }, { pitch: 2, brightness: -10 }][i] as Partial<Hit>);
  expect(of(drawn(part), 'rect').filter((d) => d.at[3] === 1.6)).toEqual([]);
  const list = drawn(part, { timbre: true });
  const ticks = of(list, 'rect').filter((d) => d.at[2] === 5 && d.at[3] === 1.6);
  // To the left of the first head, to the right of the second; the third is dull: a bar in its middle.
  expect(ticks.map((d) => [d.at[0], d.colour])).toEqual([
    [-8.5, 'ink'],
    [103.5, 'ink'],
    [197.5, 'ground'],
  ]);
  expect(
    of(list, 'dot')
      .filter((d) => d.at[2] === 2)
      .map((d) => [d.at[0], d.colour]),
  ).toEqual([[100, 'ground']]);
});
