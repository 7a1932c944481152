import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentOf, tracksOf } from '@tests/support/read-midi';
import { smallPart } from '@tests/support/arbitraries';
import { formRequest } from '@tests/support/multipart';
import { perform } from '@/api/perform';
import { isNamedError } from '@/core/errors';
import type { Part } from '@/core/model/part';
import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import { TICKS_PER_QUARTER } from '@/core/units';
import { exportPart, type PartExportOptions } from '@/core/smf/export-part';
import { readFeelFile } from './feel-format';
import { readGrooveFile } from './groove-format';
import { editsInNewest, replayed } from './older-edits';
import { withHomesOf2 } from './part-2';
import { readPartFile } from './part-file';
import { readPatternFile } from './pattern-format';

/** Files of older formats, made by the code of their time: what they hold must open, and sound as it did, for good. */

const FIXTURES = 'tests/fixtures';
interface PartFixture {
  early: PartExportOptions['early'];
  file: object;
  midi: string;
}

test.each(readdirSync(join(FIXTURES, 'part-1')))(
  'part@1 %s: opens with its versions, and exports the same events, dice included',
  (name) => {
    const { early, file, midi } = JSON.parse(readFileSync(join(FIXTURES, 'part-1', name), 'utf8')) as PartFixture;
    const { part, versions } = readPartFile(JSON.stringify(file));
    expect([part.format, part.feel.format, versions!.map((v) => v.part.format)]).toEqual([
      'nod-sway/part@6',
      'nod-sway/feel@3',
      ['nod-sway/part@6'],
    ]);
    // Only where tracks end has changed since: on a bar line, and no note behind it.
    const { bytes, left } = exportPart(part, { early });
    const [now, then] = [contentOf(bytes), contentOf(Buffer.from(midi, 'base64'), tracksOf(bytes)[0]!.at(-1)!.at)];
    // And the length of the louder of two notes of one key at one tick.
    const withoutEnds = (tracks: typeof now) => tracks.map((track) => track.filter((e) => (e as { type: string }).type !== 'noteOff'));
    if (left.merged > 0) expect(withoutEnds(now)).toEqual(withoutEnds(then));
    else expect(now).toEqual(then);
  },
);

test.each([3, 4, 5])('a part and a journal of part@%i open as they are: the same state, the same edits, the same bytes', (version) => {
  const { body, edits, midi } = JSON.parse(readFileSync(join(FIXTURES, `journal-${version}.json`), 'utf8')) as Omit<Journal, 'seq'>;
  const kept = edits.map((e, i) => ({ ...e, seq: i + 1 }));
  const bytes = (part: Part): string => Buffer.from(exportPart(part).bytes).toString('base64');
  const { part } = readPartFile(JSON.stringify(body));
  expect(part).toEqual({ ...body, format: 'nod-sway/part@6' });
  expect(bytes(part)).toBe(midi[0]);
  expect(bytes(replayed(body, kept))).toBe(midi[1]);
  expect(editsInNewest(body, 0, kept)).toEqual(kept);
  const [hit, ...others] = body.hits;
  const [member, value] = version < 5 ? ['openness', 5] : ['variation', 'h1'];
  const newer = { ...body, hits: [{ ...hit, [member]: value }, ...others] };
  expect(() => readPartFile(JSON.stringify(newer))).toThrow(`hits[0].${member} is no member of part@${version}`);
  if (version === 3)
    expect(() => readPartFile(JSON.stringify({ ...body, playerTempo: body.tempo }))).toThrow('playerTempo is no member of part@3');
});

test('feel@1: the same numbers under their new names', () => {
  const feel = readFeelFile(readFileSync(join(FIXTURES, 'feel-1.nodfeel.json'), 'utf8'));
  expect(feel.moves.map((m) => m.kind)).toEqual(['quantize', 'swing', 'groove', 'lay', 'humanize', 'humanize', 'apart', 'accents']);
  expect(feel.moves[0]).toEqual({
    kind: 'quantize',
    grid: '1/8',
    strength: 0.7,
    outer: 0.8,
    innerMs: 3,
    swingPercent: 50,
    scope: { voices: ['hat-closed:*', 'snare:*'] },
  });
  expect(feel.moves[4]).toEqual({ kind: 'humanize', timingMs: 6, velocityPercent: 9, memory: 0.35, anchor: 0.5, span: 4, limit: 'clip' });
  expect(readGrooveFile(readFileSync(join(FIXTURES, 'groove-1.nodgroove.json'), 'utf8')).steps.length).toBeGreaterThan(3);
});

test('feel@1 starts its moves as it did, feel@2 as it does', () => {
  const first = (version: number, kind: string) =>
    readFeelFile(JSON.stringify({ format: `nod-sway/feel@${version}`, moves: [{ kind }] })).moves[0];
  expect(first(1, 'tighten')).toMatchObject({ strength: 0.65, outer: 0.6 });
  expect(first(2, 'quantize')).toMatchObject({ strength: 0.75, outer: 1, innerMs: 0 });
  expect(first(1, 'drift')).toMatchObject({ timingMs: 5, velocityPercent: 5, memory: 0.7, span: 4 });
  expect(first(2, 'humanize')).toMatchObject({ timingMs: 4, velocityPercent: 8, memory: 0.4, anchor: 0.5, span: 4 });
});

test.each([
  ['a member of feel@2 in feel@1', { format: 'nod-sway/feel@1', moves: [{ kind: 'tighten', outer: 1 }] }, 'bad-feel'],
  ['a member of feel@3 in feel@2', { format: 'nod-sway/feel@2', moves: [{ kind: 'swing', lines: 'all' }] }, 'bad-feel'],
  ['a kind of feel@1 in feel@2', { format: 'nod-sway/feel@2', moves: [{ kind: 'tighten' }] }, 'bad-feel'],
  ['a broken member, by the name that it has there', { format: 'nod-sway/feel@1', moves: [{ kind: 'drift', color: 3 }] }, 'bad-feel'],
  ['a newer format', { format: 'nod-sway/feel@4', moves: [] }, 'newer-format'],
])('%s is refused by name', (_what, data, code) => {
  try {
    readFeelFile(JSON.stringify(data));
    throw new Error('accepted');
  } catch (e) {
    if (!isNamedError(e)) throw e;
    expect(e.code).toBe(code);
    if (JSON.stringify(data).includes('color')) expect(JSON.stringify(e.details)).toContain('moves[0].color');
  }
});

interface Journal {
  /** A state of part@2, the number of the last edit in it, all edits, and what each state from the first on was exported to. */
  body: Part;
  seq: number;
  edits: { label: string; diff: PartDiff; format: string; step?: 'undo' }[];
  midi: string[];
}

describe('a journal of part@2', () => {
  const { body, seq, edits, midi } = JSON.parse(readFileSync(join(FIXTURES, 'journal-2.json'), 'utf8')) as Journal;
  const kept = edits.map((e, i) => ({ ...e, seq: i + 1 }));
  const bytes = (part: Part): string => Buffer.from(exportPart(part).bytes).toString('base64');

  test('edits replay in their own format, and the state that they lead to exports what it did', () => {
    for (let last = seq; last <= edits.length; last++) expect(bytes(replayed(body, kept.slice(seq, last)))).toBe(midi[last]);
  });

  test('going back step by step, past the body too, gives every state as it was; then forward again', () => {
    const told = editsInNewest(body, seq, kept);
    expect(told.map((e) => e.format)).toEqual(told.map(() => 'nod-sway/part@6'));
    let part = replayed(body, kept.slice(seq));
    for (let i = told.length; i > 0; i--) {
      expect(bytes(part)).toBe(midi[i]);
      part = applyDiff(part, invertDiff(told[i - 1]!.diff));
    }
    expect(bytes(part)).toBe(midi[0]);
    for (const [i, { diff }] of told.entries()) {
      part = applyDiff(part, diff);
      expect(bytes(part)).toBe(midi[i + 1]);
    }
  });

  test('edits in the newest format go on from there', () => {
    const state = replayed(body, kept.slice(seq));
    const after = { ...state, hits: state.hits.slice(3) };
    const diff = diffParts(state, after)!;
    const newest = { seq: kept.length + 1, label: 'Delete', diff, format: 'nod-sway/part@6' };
    expect(replayed(body, [...kept.slice(seq), newest]).hits).toEqual(after.hits);
    expect(editsInNewest(body, seq, [...kept, newest]).at(-1)).toBe(newest);
  });

  test('what was chosen is decided, rolls keep their distances, moves do what they did', () => {
    const { hits, feel } = replayed(body, kept.slice(seq));
    const was = new Map(kept.flatMap((e) => e.diff.added).map((h) => [h.id, h.home]));
    for (const hit of hits) if (was.has(hit.id)) expect(hit.decided === true).toBe(was.get(hit.id) !== undefined);
    expect(hits.flatMap((h) => (h.ornament && h.ornament.kind !== 'flam' ? [h.ornament.followsSwing] : []))).toEqual([false, false]);
    expect(
      feel.moves.flatMap((m) => (m.kind === 'swing' ? [m.lines] : m.kind === 'groove' ? [m.at] : m.kind === 'humanize' ? [m.limit] : [])),
    ).toEqual(expect.arrayContaining(['all', 'written', 'clip']));
  });
});

test('pattern@1 is read in its own meter', () => {
  const { format, hits } = readPatternFile(readFileSync(join(FIXTURES, 'pattern-1.nodpattern.json'), 'utf8'));
  expect(format).toBe('nod-sway/pattern@2');
  expect(hits.length).toBeGreaterThan(5);
  for (const hit of hits) expect(Math.abs(hit.home - hit.tick)).toBeLessThanOrEqual(TICKS_PER_QUARTER / 2);
  // A triplet has its own line, as it was fitted.
  expect(hits.map((h) => h.home % (TICKS_PER_QUARTER / 12))).toEqual(hits.map(() => 0));
});

test('a hit that was doubtful in part@2 is so with both lines', () => {
  // 36 and 20 % of a sixteenth: over 30 % it was.
  const { hits } = withHomesOf2(
    smallPart([
      ['kick', 0.25 * 0.36, 100],
      ['kick', 1 + 0.25 * 0.2, 100],
    ]),
  );
  expect(hits.map((h) => [h.home, h.sure, h.other])).toEqual([
    [0, 0.5, TICKS_PER_QUARTER / 4],
    [TICKS_PER_QUARTER, undefined, undefined],
  ]);
});

interface Calls {
  feels: Record<string, string>;
  calls: { style: string; feel: string; midi: string; answer: string }[];
}
const { feels, calls } = JSON.parse(readFileSync(join(FIXTURES, 'calls-2.json'), 'utf8')) as Calls;

test.each(calls.map((c) => [c.style, c.feel, c] as const))(
  '%s through /api/perform with a feel of its time (%s): the same bytes',
  async (_style, _feel, call) => {
    const answer = await perform(formRequest({ midi: new Uint8Array(Buffer.from(call.midi, 'base64')), feel: feels[call.feel]! }));
    expect(Buffer.from(await answer.arrayBuffer()).toString('base64')).toBe(call.answer);
  },
);
