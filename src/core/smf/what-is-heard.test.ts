import { parseMidi } from 'midi-file';
import { smallPart } from '@tests/support/arbitraries';
import type { Part } from '../model/part';
import { addHits } from '../commands/hits';
import { setOrnament } from '../commands/ornaments';
import { addRow } from '../commands/rows';
import { addOwnRow } from '../commands/split-rows';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { exportPart, type ExportResult } from './export-part';

const Q = TICKS_PER_QUARTER;

/** Notes of an export in quarters: [start, key, velocity, length]. */
function notesOf({ bytes }: ExportResult): [number, number, number, number][] {
  const { header, tracks } = parseMidi(bytes);
  const open = new Map<number, [number, number]>();
  const found: [number, number, number, number][] = [];
  let now = 0;
  for (const e of tracks[0] ?? []) {
    now += e.deltaTime / header.ticksPerBeat!;
    if (e.type === 'noteOn') open.set(e.noteNumber, [now, e.velocity]);
    else if (e.type === 'noteOff') {
      const [start, velocity] = open.get(e.noteNumber)!;
      found.push([start, e.noteNumber, velocity, now - start]);
    }
  }
  return found.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
}
const keysOf = (result: ExportResult): number[] => [...new Set(notesOf(result).map(([, key]) => key))].sort();
const marked = (part: Part, voice: string, mark: object): Part => ({
  ...part,
  rows: part.rows.map((r) => (r.voice === voice ? { ...r, ...mark } : r)),
});

const beat = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['hat-closed', 0.5, 70],
]);

test('muted rows, and rows that a solo silences, are not written, and named; they are where they are asked for', () => {
  const muted = exportPart(marked(beat, 'snare', { muted: true }));
  expect([keysOf(muted), muted.left.silent]).toEqual([[36, 42], ['snare']]);
  const solo = exportPart(marked(beat, 'snare', { soloed: true }));
  expect([keysOf(solo), [...solo.left.silent].sort()]).toEqual([[38], ['hat-closed', 'kick']]);
  const all = exportPart(marked(beat, 'snare', { muted: true }), { withMuted: true });
  expect([keysOf(all), all.left.silent]).toEqual([[36, 38, 42], []]);
});

test('keys outside of General MIDI are named; wished so, each row gets the key of what is nearest, and doubles are one', () => {
  const rows = addRow(
    addOwnRow(
      smallPart([
        ['hat-half', 0.5, 90],
        ['hat-open', 0.5, 60],
        ['kick', 0, 100],
        ['key-20', 0, 50],
      ]),
      'lid',
      'Tin lid',
      'cowbell',
    ).part,
    'snare:2',
  );
  const half = { ...rows, hits: rows.hits.map((h) => (h.voice === 'hat-half' ? { ...h, key: 26 } : h)) };
  const part = addHits(half, [
    { id: 'a', voice: 'own:lid', tick: ticks(0), velocity: 80 },
    { id: 'b', voice: 'snare:2', tick: ticks(Q), velocity: 70 },
  ]);
  expect(part.hits.filter((h) => h.id === 'a' || h.id === 'b').map((h) => h.key)).toEqual([22, 40]);
  const asItIs = exportPart(part);
  expect([notesOf(asItIs).map(([, key]) => key), asItIs.left.beyond, asItIs.left.folded]).toEqual([
    [20, 22, 36, 26, 46, 40],
    ['key-20', 'own:lid', 'hat-half'],
    [],
  ]);
  const folded = exportPart(part, { generalMidi: true });
  // The half-open hat falls on the softer open one; a key that nothing is like stays and is named.
  expect(notesOf(folded).map(([, key, v]) => [key, v])).toEqual([
    [20, 50],
    [36, 100],
    [56, 80],
    [46, 90],
    [40, 70],
  ]);
  expect([folded.left.folded, folded.left.beyond, folded.left.merged]).toEqual([['own:lid', 'hat-half'], ['key-20'], 1]);
});

test('two notes of one key at one tick are one, the louder; how many is told', () => {
  const result = exportPart(
    smallPart([
      ['kick', 0, 60],
      ['kick', 0, 100],
      ['kick', 1, 80],
    ]),
  );
  expect([notesOf(result).map(([t, k, v]) => [t, k, v]), result.left.merged, result.notes]).toEqual([
    [
      [0, 36, 100],
      [1, 36, 80],
    ],
    1,
    2,
  ]);
  // The louder keeps its own length, whichever of both comes first; only the next note cuts it.
  for (const velocities of [
    [100, 60],
    [60, 100],
  ] as const) {
    const doubled = smallPart([
      ['kick', 0, velocities[0]],
      ['kick', 0, velocities[1]],
      ['kick', 2, 80],
      ['kick', 2, 50],
    ]);
    const long = exportPart({
      ...doubled,
      hits: doubled.hits.map((h) => ({ ...h, length: ticks(h.velocity === 100 || h.velocity === 80 ? 3 * Q : Q / 4) })),
    });
    expect(notesOf(long)).toEqual([
      [0, 36, 100, 2],
      [2, 36, 80, 2],
    ]);
  }
  // An echo that lands on a hit.
  const echoed = exportPart(
    setOrnament(
      smallPart(
        [
          ['snare', 0, 100],
          ['snare', 1, 110],
        ],
        { bars: 1 },
      ),
      new Set(['h0']),
      { kind: 'echo', steps: 4, grid: '1/16', repeats: 1, decay: 0.5 },
    ),
  );
  expect(notesOf(echoed).map(([t, , v]) => [t, v])).toEqual([
    [0, 100],
    [1, 110],
  ]);
});

test('a choke ends the note of its row that rings', () => {
  const part = smallPart([
    ['crash', 0, 100],
    ['crash', 2, 100],
  ]);
  const ringing: Part = {
    ...part,
    hits: part.hits.map((h, i) => ({ ...h, length: ticks(3 * Q), ...(i === 1 ? { choke: true as const } : {}) })),
  };
  const result = exportPart(ringing);
  expect([notesOf(result), result.left.choked]).toEqual([[[0, 49, 100, 2]], 1]);
});

test('strokes behind the part’s end are left out and told; a nudged hit is not', () => {
  const rolled = setOrnament(smallPart([['snare', 3.5, 100]], { bars: 1 }), new Set(['h0']), {
    kind: 'roll',
    strokes: 4,
    length: ticks(Q),
    speed: 0,
    to: 1,
    bend: 0,
  });
  const result = exportPart(rolled);
  expect([notesOf(result).map(([t]) => t), result.left.spilled]).toEqual([[3.5, 3.75], 2]);
  const late = smallPart([['snare', 3.99, 100]], { bars: 1 });
  expect(exportPart({ ...late, hits: late.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(30), velocity: 0 } })) }).notes).toBe(1);
});

test('all tempo changes within the part are written; those behind it are counted', () => {
  const tempo = Array.from({ length: 65 }, (_, i) => ({ tick: ticks((i * Q) / 16), microsecondsPerQuarter: 500_000 + i * 1000 }));
  const result = exportPart({ ...beat, bars: 1, tempo: [...tempo, { tick: ticks(40 * Q), microsecondsPerQuarter: 300_000 }] });
  expect(
    parseMidi(result.bytes)
      .tracks[0]!.filter((e) => e.type === 'setTempo')
      .map((e) => e.microsecondsPerBeat),
  ).toEqual(tempo.slice(0, 64).map((t) => t.microsecondsPerQuarter));
  expect(result.changesBehind).toBe(2);
});

test('a hit with an ornament has its pedal and pressure once, before the hit itself', () => {
  const [hat] = smallPart([['hat-open', 1, 90]]).hits;
  const part = smallPart([['hat-open', 1, 90]]);
  const pressed = { ...hat!, companions: [{ kind: 'pedal' as const, value: 60, aheadMs: milliseconds(10) }] };
  const flammed = setOrnament({ ...part, hits: [pressed] }, new Set([hat!.id]), {
    kind: 'flam',
    strokes: 3,
    spacingMs: 20,
    level: 0.5,
    slope: 0,
  });
  const { bytes, ppq } = exportPart(flammed, {});
  const events: [string, number][] = [];
  let now = 0;
  for (const e of parseMidi(bytes).tracks[0] ?? []) {
    now += e.deltaTime;
    if (e.type === 'controller' || e.type === 'noteOn') events.push([e.type, now]);
  }
  // Three strokes before the beat at 120 BPM, where 20 ms are 0.04 quarters; the pedal 10 ms before the hit itself.
  expect(events.filter(([type]) => type === 'noteOn')).toHaveLength(4);
  expect(events.filter(([type]) => type === 'controller')).toEqual([['controller', Math.round(0.98 * ppq)]]);
});
