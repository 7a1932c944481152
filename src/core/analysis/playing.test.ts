import { patternHits, type StepPattern } from '@/demo/pattern';
import { EMPTY_FEEL } from '../model/feel';
import type { Part } from '../model/part';
import { GENERAL_MIDI_KIT } from '../key-map';
import type { GridName } from '../time/grid';
import { microsecondsOf } from '../time/tempo-map';
import { bpm, ticks } from '../units';
import { conflictsInPart, conflictWords, stickingOfPart } from './playing';

function partOf(
  pattern: StepPattern,
  tempo: number,
  {
    grid = '1/16' as GridName,
    meter = [4, 4] as readonly [number, number],
    ornaments = {} as Readonly<Record<string, Part['hits'][number]['ornament']>>,
  } = {},
): Part {
  const hits = patternHits(pattern, grid, ticks(0)).map((h) =>
    ornaments[h.voice] && h.velocity > 90 ? { ...h, ornament: ornaments[h.voice]! } : h,
  );
  return {
    format: 'nod-sway/part@6',
    name: 'x',
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(tempo)) }],
    meter: [{ tick: ticks(0), numerator: meter[0], denominator: meter[1] }],
    origin: ticks(0),
    bars: 1,
    kitMap: GENERAL_MIDI_KIT,
    rows: Object.keys(pattern).map((voice) => ({ voice })),
    hits,
    feel: EMPTY_FEEL,
  };
}

/** What drummers play. */
const PLAYED: readonly [name: string, part: Part][] = [
  ['rock', partOf({ 'hat-closed': 'x.x.x.x.x.x.x.x.', snare: '....X.......X...', kick: 'X.....x.X.......' }, 120)],
  ['funk with ghosts', partOf({ 'hat-closed': 'x.x.x.x.x.x.x.x.', snare: '.g..X..g.g..X..g', kick: 'X..x..x...x..x..' }, 104)],
  ['shuffle', partOf({ 'hat-closed': 'x.xx.xx.xx.x', snare: '...X.g...X.g', kick: 'X....xX.....' }, 130, { grid: '1/8T' })],
  [
    'jazz ride with feathered kick',
    partOf({ ride: 'x..x.xx..x.x', 'hat-pedal': '...x.....x..', kick: 'g..g..g..g..', snare: '.....g......' }, 180, { grid: '1/8T' }),
  ],
  [
    'samba-like',
    partOf({ ride: 'x.xxx.xxx.xxx.xx', kick: 'X..xX..xX..xX..x', 'hat-pedal': '..x...x...x...x.', snare: 'g..g.g..g..g.g..' }, 108),
  ],
  [
    'half-time',
    partOf({ 'hat-closed': 'x.x.x.x.x.x.x.x.', snare: '........X.......', kick: 'X..x......x..x..', crash: 'X...............' }, 140),
  ],
  ['blast-like at the limit', partOf({ snare: 'XXXXXXXXXXXXXXXX', ride: 'x.x.x.x.x.x.x.x.', kick: 'X.X.X.X.X.X.X.X.' }, 82)],
  ['waltz with brushes', partOf({ snare: 'o.g.x.g.x.g.', 'hat-pedal': '....x...x...', kick: 'x...........' }, 92, { meter: [3, 4] })],
  ['seven eighths', partOf({ 'hat-closed': 'x.x.x.x.x.x.x.', snare: '....X.......X.', kick: 'X.....X.X.....' }, 150, { meter: [7, 8] })],
  ['sixteenths hand to hand', partOf({ 'hat-closed': 'xxxx.xxxxxxx.xxx', snare: '....X.......X...', kick: 'X.......X.X.....' }, 116)],
  [
    'flams and drags',
    partOf({ snare: 'X...X...X...X...', kick: 'X.......X.......' }, 100, {
      ornaments: { snare: { kind: 'flam', strokes: 2, spacingMs: 26, level: 0.5, slope: 0 } },
    }),
  ],
  ['double-stroke roll', partOf({ snare: 'xxxxxxxxxxxxxxxx', kick: 'X.......X.......' }, 150)],
  [
    'fill down the toms',
    partOf(
      { snare: 'xxxx............', 'tom-high': '....xxxx........', 'tom-mid': '........xxxx....', 'tom-floor': '............xxxx' },
      130,
    ),
  ],
  [
    'linear fill',
    partOf({ snare: 'X..x..X..x......', 'tom-floor': '.x..x..x..x.....', kick: '..x..x..x..x..X.', crash: '..............X.' }, 132),
  ],
  ['fill in triplets', partOf({ snare: 'xx.xx.xx.xx.', kick: '..x..x..x..x' }, 120, { grid: '1/8T' })],
  ['fill with both feet', partOf({ snare: 'X...X...X.X.X.X.', crash: '............X...', kick: 'xxxxxxxxxxxxxxxx' }, 128)],
];

test.each(PLAYED)('%s: nothing is out of reach, and every stroke has its limb', (_, part) => {
  expect(conflictsInPart(part).map((c) => conflictWords(part, c))).toEqual([]);
  const { strokes, limbs } = stickingOfPart(part);
  expect(strokes.every((s) => limbs.has(s))).toBe(true);
});

/** Bars with one moment that nobody can play: its kind, and the tempo. */
const IMPOSSIBLE: readonly [kind: string, tempo: number, pattern: StepPattern][] = [
  ['hands', 100, { snare: 'X...', 'tom-high': 'X...', crash: 'X...' }],
  ['hands', 100, { snare: '....X...', 'tom-floor': '....X...', 'crash:2': '....X...', kick: 'X.......' }],
  ['hands', 140, { 'tom-high': 'X...', 'tom-mid': 'X...', 'tom-floor': 'X...' }],
  ['hands', 90, { clap: 'X...', snare: 'X...', cowbell: 'X...' }],
  ['busy', 100, { snare: 'X...', crash: 'X...', 'hat-closed': 'X...' }],
  ['busy', 100, { snare: 'X...', 'tom-floor': 'X...', ride: 'X...' }],
  ['busy', 180, { 'tom-high': 'X...', 'tom-mid': 'X...', 'hat-closed': '.x..' }],
  ['busy', 170, { snare: '....X...', 'tom-high': '....X...', ride: '.....x..' }],
  ['feet', 100, { kick: 'X...', 'kick:2': 'X...', 'hat-pedal': 'X...' }],
  ['feet', 120, { kick: '....X...', 'kick:2': '....X...', 'hat-pedal': '....X...' }],
  ['feet', 90, { 'hat-pedal': 'X...', 'hat-pedal:2': 'X...' }],
  ['feet', 90, { kick: 'X...', 'kick:2': 'X...', 'kick:3': 'X...' }],
  ['too-fast', 200, { snare: 'XXXXXX..', 'tom-floor': 'X.......' }],
  ['too-fast', 170, { snare: 'X...', 'tom-high': 'X...', 'tom-floor': '.X..' }],
  ['too-fast', 150, { 'hat-pedal': 'XX......' }],
  ['too-fast', 280, { kick: 'XXX.....' }],
  ['open-hat', 100, { 'hat-open': 'X...', 'hat-pedal': 'X...' }],
  ['open-hat', 100, { 'hat-open': '....X...', kick: '....X...', 'kick:2': '....X...' }],
  ['open-hat', 120, { 'hat-half': 'X...', 'hat-pedal': 'X...', snare: 'X...' }],
  ['open-hat', 80, { 'hat-open': '..X.', 'hat-pedal': '..X.' }],
];

test.each(IMPOSSIBLE)('%s at %d BPM is found, and nothing else', (kind, tempo, pattern) => {
  const part = partOf(pattern, tempo);
  expect(conflictsInPart(part).map((c) => c.kind)).toEqual([kind]);
  expect(conflictWords(part, conflictsInPart(part)[0]!)).not.toBe('');
});

test('what a machine plays needs no hands', () => {
  const part = partOf({ snare: 'X...', 'tom-high': 'X...', shaker: 'X...' }, 100);
  expect(conflictsInPart(part)).toHaveLength(1);
  expect(conflictsInPart({ ...part, rows: part.rows.map((r) => (r.voice === 'shaker' ? { ...r, machine: true } : r)) })).toEqual([]);
});
