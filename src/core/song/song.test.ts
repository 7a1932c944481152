import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { tracksOf } from '@tests/support/read-midi';
import { parseMidi } from 'midi-file';
import { deleteBars, doublePart, insertBars, moveBars, repeatBars, setLength } from '../commands/bars';
import { addSection, copySection, emptySection, lengthenSection, removeSection } from '../commands/sections';
import { restoreVersion } from '../commands/settings';
import { EMPTY_FEEL, type HumanizeMove } from '../model/feel';
import type { Hit, Part } from '../model/part';
import type { OrderEntry, Section } from '../model/song';
import { tempoMapOf } from '../part/part-time';
import { performPart } from '../perform/perform';
import { exportPart } from '../smf/export-part';
import { milliseconds, ticks, TICKS_PER_QUARTER, velocity } from '../units';
import { playedPart } from './played';
import { soundingPart, soundsIn } from './sounding';
import { IN_ROUND, placeOfId, roundsOfBars, roundsOfOrder, unroll } from './unroll';

const Q = TICKS_PER_QUARTER;
const verse: Section = { id: 'v', name: 'Verse', from: 1, bars: 1 };
const chorus: Section = { id: 'c', name: 'Chorus', from: 2, bars: 1 };
const humanize: HumanizeMove = { kind: 'humanize', timingMs: 8, velocityPercent: 10, memory: 0.4, anchor: 0.5, span: 4 };

/** Two bars of 4/4 at 120: kick on 1 in the verse, kick and snare in the chorus. */
const two = (change: Partial<Part> = {}): Part => ({
  ...smallPart([
    ['kick', 0, 100],
    ['hat-closed', 2, 80],
    ['kick', 4, 100],
    ['snare', 5, 110],
  ]),
  bars: 2,
  sections: [verse, chorus],
  ...change,
});
const at = (part: Part, entries: readonly OrderEntry[]): [string, number, number][] => {
  const played = playedPart({ ...part, order: entries }, { order: true });
  return played.part.hits.map((h, i) => [h.voice, (played.performance.ticks[i] as number) / Q, played.performance.velocities[i] as number]);
};

test('a running order is its sections one after another, with rests and levels', () => {
  expect(
    at(two(), [
      { section: 'v', times: 2 },
      { section: 'c', level: 50, rests: ['kick'] },
      { section: 'v', level: 120 },
    ]),
  ).toEqual([
    ['kick', 0, 100],
    ['hat-closed', 2, 80],
    ['kick', 4, 100],
    ['hat-closed', 6, 80],
    ['snare', 9, 55],
    ['kick', 12, 120],
    ['hat-closed', 14, 96],
  ]);
  expect(
    roundsOfOrder({ sections: [verse, chorus], order: [{ section: 'v', times: 2 }, { section: 'c' }, { section: 'v' }] }).map((r) => [
      r.name,
      r.pass,
    ]),
  ).toEqual([
    ['Verse', 1],
    ['Verse', 2],
    ['Chorus', 1],
    ['Verse', 3],
  ]);
});

test('the order from first to last bar, once each, is what the part performs', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const sections = Array.from({ length: part.bars }, (_, b): Section => ({ id: `s${b}`, name: `${b}`, from: b + 1, bars: 1 }));
      const plain = performPart(part);
      const { part: unrolled, performance } = playedPart(
        { ...part, sections, order: sections.map((s) => ({ section: s.id })) },
        { order: true },
      );
      const times = new Map(part.hits.map((h, i) => [h.id, i]));
      const tempo = [tempoMapOf(part), tempoMapOf(unrolled)] as const;
      const zero = tempo[0].toSeconds(part.origin);
      unrolled.hits.forEach((hit, i) => {
        const before = times.get(placeOfId(hit.id).id) as number;
        expect(
          Math.abs(
            tempo[1].toSeconds(ticks(performance.ticks[i] as number)) - (tempo[0].toSeconds(ticks(plain.ticks[before] as number)) - zero),
          ),
        ).toBeLessThan(1e-6);
        expect(performance.velocities[i]).toBe(plain.velocities[before]);
      });
    }),
    { numRuns: 40 },
  );
});

test('an early first hit sounds at the end of the round before, a late one goes on; sections may have other tempos and meters', () => {
  const nudged = two({
    hits: two().hits.map((h): Hit =>
      h.tick === 4 * Q && h.voice === 'kick' ? { ...h, nudge: { ms: milliseconds(-50), velocity: 0 } } : h,
    ),
  });
  // 50 ms at 120 BPM is a tenth of a quarter.
  expect(at(nudged, [{ section: 'v' }, { section: 'c' }]).map(([, t]) => Math.round(t * 1000) / 1000)).toEqual([0, 2, 3.9, 5]);
  const slower = {
    ...nudged,
    tempo: [
      { tick: ticks(0), microsecondsPerQuarter: 500_000 },
      { tick: ticks(4 * Q), microsecondsPerQuarter: 1_000_000 },
    ],
  };
  const { part, performance, marks } = playedPart(
    { ...slower, order: [{ section: 'c' }, { section: 'v' }, { section: 'c' }] },
    { order: true },
  );
  expect(part.tempo.map((t) => [t.tick / Q, t.microsecondsPerQuarter])).toEqual([
    [0, 1_000_000],
    [4, 500_000],
    [8, 1_000_000],
  ]);
  expect(marks.map((m) => m.seconds)).toEqual([0, 4, 6]);
  // The chorus's kick comes 50 ms before its line: in the verse's tempo a tenth of a quarter.
  expect(Math.round(((performance.ticks[part.hits.findIndex((h) => h.id.includes(`${IN_ROUND}2.`))] as number) / Q) * 1000) / 1000).toBe(
    7.9,
  );
  const seven = {
    ...two(),
    meter: [
      { tick: ticks(0), numerator: 4, denominator: 4 },
      { tick: ticks(4 * Q), numerator: 7, denominator: 8 },
    ],
  };
  const odd = playedPart({ ...seven, order: [{ section: 'c', times: 2 }, { section: 'v' }] }, { order: true });
  expect(odd.part.meter.map((m) => [m.tick / Q, `${m.numerator}/${m.denominator}`])).toEqual([
    [0, '7/8'],
    [7, '4/4'],
  ]);
  expect(odd.part.bars).toBe(3);
});

test('hits in some passes alone, and hits with a chance', () => {
  expect([1, 2, 3, 4, 5, 6].filter((p) => soundsIn({ every: 4, at: [2] }, p))).toEqual([2, 6]);
  const second = two({ hits: two().hits.map((h): Hit => (h.voice === 'hat-closed' ? { ...h, passes: { every: 2, at: [2] } } : h)) });
  expect(at(second, [{ section: 'v', times: 3 }]).map(([v, t]) => `${v} ${t}`)).toEqual(['kick 0', 'kick 4', 'hat-closed 6', 'kick 8']);
  expect(playedPart(second).part.hits.some((h) => h.voice === 'hat-closed')).toBe(false);
  // 64 passes of 16 hits at 30 %: 307 expected, deviation 14.7.
  const many = smallPart(Array.from({ length: 16 }, (_, i): [string, number, number] => ['rim', i / 4, 90]));
  const chances: Part = { ...many, hits: many.hits.map((h) => ({ ...h, chance: 30 })) };
  const sounding = unroll(chances, roundsOfBars(0, 1, 64));
  expect(Math.abs(sounding.part.hits.length - 307.2)).toBeLessThan(4 * 14.7);
  expect(unroll(chances, roundsOfBars(0, 1, 64)).part.hits.map((h) => h.id)).toEqual(sounding.part.hits.map((h) => h.id));
  const byPass = Array.from({ length: 64 }, (_, n) =>
    sounding.part.hits
      .filter((h) => h.id.includes(`${IN_ROUND}${n}.`))
      .map((h) => placeOfId(h.id).id)
      .join(),
  );
  expect(new Set(byPass).size).toBeGreaterThan(60);
  expect(
    soundingPart(chances)
      .hits.map((h) => h.id)
      .join(),
  ).toBe(byPass[0]);
});

test('a row comes round over a length of its own, to the end of its section; what lies behind its first round is silent', () => {
  const notes = smallPart([
    ['rim', 0, 90],
    ['rim', 0.5, 60],
    ['rim', 2, 100],
    ['kick', 0, 100],
    ['kick', 7, 90],
  ]);
  const row = (part: Part): string =>
    soundingPart(part)
      .hits.filter((h) => h.voice === 'rim')
      .map((h) => `${h.tick / Q}:${h.velocity}`)
      .join(' ');
  // Three eighths over two bars of 4/4: the hit on 2 lies behind the first round.
  const cycled: Part = {
    ...notes,
    bars: 2,
    rows: notes.rows.map((r) => (r.voice === 'rim' ? { ...r, cycle: { grid: '1/8', steps: 3 } } : r)),
  };
  expect(row(cycled)).toBe('0:90 0.5:60 1.5:90 2:60 3:90 3.5:60 4.5:90 5:60 6:90 6.5:60 7.5:90');
  // Anew in each section; bars of none stay as written.
  expect(row({ ...cycled, sections: [verse, chorus] })).toBe('0:90 0.5:60 1.5:90 2:60 3:90 3.5:60');
  expect(row({ ...cycled, sections: [chorus] })).toBe('0:90 0.5:60 2:100');
  // Longer than the part: nothing comes round.
  expect(row({ ...cycled, rows: cycled.rows.map((r) => (r.cycle ? { ...r, cycle: { grid: '1/4', steps: 8 } } : r)) })).toBe(
    '0:90 0.5:60 2:100',
  );
});

test('pass 1 is what it was; later passes are drawn anew, the slow curve going on', () => {
  const part = {
    ...smallPart(Array.from({ length: 16 }, (_, i): [string, number, number] => ['hat-closed', i / 4, 90])),
    feel: { ...EMPTY_FEEL, moves: [humanize] },
  };
  const once = performPart(part);
  const { performance } = unroll(part, roundsOfBars(0, 1, 3));
  const pass = (n: number): number[] => [...performance.ticks.slice(n * 16, (n + 1) * 16)].map((t) => t - n * 4 * Q);
  expect(pass(0)).toEqual([...once.ticks]);
  for (const n of [1, 2]) expect(pass(n)).not.toEqual(pass(0));
  // A long part of the same bars has the same slow curve there.
  const slow = { ...part, feel: { ...EMPTY_FEEL, moves: [{ ...humanize, memory: 1, anchor: 0 }] } };
  const long = performPart({
    ...slow,
    bars: 3,
    hits: [0, 1, 2].flatMap((b) => slow.hits.map((h) => ({ ...h, id: `${h.id} ${b}`, tick: ticks(h.tick + b * 4 * Q) }))),
  });
  unroll(slow, roundsOfBars(0, 1, 3)).performance.ticks.forEach((t, i) =>
    expect(Math.abs(t - (long.ticks[i] as number))).toBeLessThan(1e-3),
  );
});

test('an entry’s sway multiplies the feel’s, its level comes after nudges and within 1 to 127', () => {
  const part = two({
    feel: { ...EMPTY_FEEL, sway: 0.8, moves: [{ kind: 'lay', ms: 100 }] },
    hits: two().hits.map((h): Hit => ({ ...h, nudge: { ms: milliseconds(0), velocity: 10 }, velocity: velocity(100) })),
  });
  expect(at(part, [{ section: 'v', sway: 50, level: 60 }]).map(([, t, v]) => [Math.round(t * 1000) / 1000, v])).toEqual([
    [0.08, 66],
    [2.08, 66],
  ]);
  expect(at(part, [{ section: 'v', sway: 0, level: 150 }]).map(([, t, v]) => [t, v])).toEqual([
    [0, 127],
    [2, 127],
  ]);
});

test('exported, sections are markers at the start of each entry; without an order where they stand', () => {
  const bytes = exportPart({ ...two(), order: [{ section: 'c' }, { section: 'v', times: 2 }] }, { order: true, ppq: 960 }).bytes;
  let now = 0;
  const events = parseMidi(bytes).tracks[0]!.map((e) => ((now += e.deltaTime), { ...e, at: now }));
  expect(events.flatMap((e) => (e.type === 'marker' ? [[e.at, e.text]] : []))).toEqual([
    [0, 'Chorus'],
    [3840, 'Verse'],
    [7680, 'Verse'],
  ]);
  expect(events.flatMap((e) => (e.type === 'noteOn' ? [[e.at, e.noteNumber]] : []))).toEqual([
    [0, 36],
    [960, 38],
    [3840, 36],
    [5760, 42],
    [7680, 36],
    [9600, 42],
  ]);
  // Without an order sections are marked where they stand.
  const plain = tracksOf(exportPart(two(), { order: true, ppq: 960 }).bytes)[0]!;
  expect(plain.flatMap((e) => (e.type === 'marker' ? [[e.at, e.text]] : []))).toEqual([
    [0, 'Verse'],
    [3840, 'Chorus'],
  ]);
  expect(plain.filter((e) => e.type !== 'marker').map(({ deltaTime: _, ...e }) => e)).toEqual(
    tracksOf(exportPart({ ...two(), sections: [], order: [] }, { ppq: 960 }).bytes)[0]!.map(({ deltaTime: _, ...e }) => e),
  );
});

test('what would be far too long is refused', () => {
  const huge = { ...two(), order: Array.from({ length: 1000 }, () => ({ section: 'v', times: 64 })) };
  expect(() => playedPart({ ...huge, sections: [{ ...verse, bars: 2 }] }, { order: true })).toThrow(/bars/);
});

describe('sections go with their bars', () => {
  const four: Part = {
    ...smallPart(Array.from({ length: 16 }, (_, i): [string, number, number] => ['rim', i, 90])),
    bars: 4,
    sections: [
      { ...verse, bars: 2 },
      { ...chorus, from: 3, bars: 2 },
    ],
    order: [{ section: 'v' }, { section: 'c' }],
  };
  let n = 0;
  const newId = (): string => `n${n++}`;
  const told = ({ sections = [], order = [] }: Part): string =>
    `${sections.map((s) => `${s.name} ${s.from}-${s.from + s.bars - 1}`).join(', ')} | ${order.map((e) => e.section).join('')}`;
  test.each<[string, (p: Part) => Part, string]>([
    ['inserted within', (p) => insertBars(p, 1, 1, newId), 'Verse 1-3, Chorus 4-5 | vc'],
    ['inserted between', (p) => insertBars(p, 2, 2, newId), 'Verse 1-2, Chorus 5-6 | vc'],
    ['deleted in part', (p) => deleteBars(p, 1, 3, newId), 'Verse 1-1, Chorus 2-2 | vc'],
    ['deleted whole', (p) => deleteBars(p, 0, 2, newId), 'Chorus 1-2 | c'],
    ['moved', (p) => moveBars(p, 0, 2, 2, newId), 'Chorus 1-2, Verse 3-4 | vc'],
    ['repeated within', (p) => repeatBars(p, 0, 1, newId), 'Verse 1-3, Chorus 4-5 | vc'],
    ['doubled', (p) => doublePart(p, newId), 'Verse 1-2, Chorus 3-4 | vc'],
    ['shortened', (p) => setLength(p, 3), 'Verse 1-2, Chorus 3-3 | vc'],
    ['cut away', (p) => setLength(p, 2), 'Verse 1-2 | v'],
    ['covered by a new one', (p) => addSection(p, 'x', 1, 3, 'Break'), 'Verse 1-1, Break 2-3, Chorus 4-4 | vc'],
    ['copied', (p) => copySection(p, 'v', { id: 'y', newId }), 'Verse 1-2, Chorus 3-4, Verse 2 5-6 | vc'],
    ['longer at its end', (p) => lengthenSection(p, 'v', 2, newId), 'Verse 1-4, Chorus 5-6 | vc'],
    ['shorter at its end', (p) => lengthenSection(p, 'v', -1, newId), 'Verse 1-1, Chorus 2-3 | vc'],
    ['never without a bar', (p) => lengthenSection(p, 'c', -9, newId), 'Verse 1-2, Chorus 3-3 | vc'],
    ['emptied', (p) => emptySection(p, 'v'), 'Verse 1-2, Chorus 3-4 | vc'],
    ['named no more', (p) => removeSection(p, 'c'), 'Verse 1-2 | v'],
  ])('%s', (_name, command, expected) => {
    expect(told(command(four))).toBe(expected);
  });

  test('an emptied one has no hits, one made longer has empty bars at its end, and what follows moves', () => {
    expect(emptySection(four, 'v').hits.map((h) => h.tick / 80_640)).toEqual([8, 9, 10, 11, 12, 13, 14, 15]);
    expect(lengthenSection(four, 'v', 1, newId).hits.map((h) => h.tick / 80_640)).toEqual(
      Array.from({ length: 16 }, (_, i) => (i < 8 ? i : i + 4)),
    );
  });

  test('going back to a version leaves nothing of what came since', () => {
    const { sections: _sections, order: _order, ...plain } = four;
    expect(told(restoreVersion(four, plain))).toBe(' | ');
  });
});

test('pinned homes go along with each round: a hit keeps the line that it was given, not the nearest one', () => {
  // A late hit of the second bar's third sixteenth, nearer to the fourth; and one before the first downbeat.
  const plain = two({ hits: two().hits.filter((h) => h.voice !== 'hat-closed') });
  const late = { ...plain.hits[1]!, id: 'late', tick: ticks(4.7 * Q), home: ticks(4.5 * Q), decided: true as const };
  const early = { ...plain.hits[0]!, id: 'early', voice: 'hat-open', tick: ticks(3.9 * Q), home: ticks(4 * Q) };
  const part = { ...plain, hits: [...plain.hits, late, early].sort((x, y) => x.tick - y.tick) };
  const played = playedPart({ ...part, order: [{ section: 'v' }, { section: 'c', times: 2 }] }, { order: true });
  const of = (id: string) =>
    played.part.hits.flatMap((h, i) =>
      placeOfId(h.id).id === id ? [[h.tick / Q, h.home / Q, played.performance.homes.ticks[i]! / Q]] : [],
    );
  expect(of('late')).toEqual([
    [4.7, 4.5, 4.5],
    [8.7, 8.5, 8.5],
  ]);
  // Its home is the chorus's downbeat: it sounds ahead of each chorus, and not in the verse.
  expect(of('early')).toEqual([
    [3.9, 4, 4],
    [7.9, 8, 8],
  ]);
});
