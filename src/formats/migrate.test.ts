import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentOf, tracksOf } from '@tests/support/read-midi';
import { isNamedError } from '@/core/errors';
import { exportPart, type PartExportOptions } from '@/core/smf/export-part';
import { readFeelFile } from './feel-format';
import { readGrooveFile } from './groove-format';
import { readPartFile } from './part-file';

/** Files of older formats, made by the code of their time: what they hold must open, and sound as it did, for good. */

const FIXTURES = 'tests/fixtures';
interface PartFixture {
  early: PartExportOptions['early'];
  file: object;
  midi: string;
}

test.each(readdirSync(join(FIXTURES, 'part-1')))('part@1 %s: opens with its versions, and exports the same events, dice included', (name) => {
  const { early, file, midi } = JSON.parse(readFileSync(join(FIXTURES, 'part-1', name), 'utf8')) as PartFixture;
  const { part, versions } = readPartFile(JSON.stringify(file));
  expect([part.format, part.feel.format, versions!.map((v) => v.part.format)]).toEqual(['nod-sway/part@2', 'nod-sway/feel@2', ['nod-sway/part@2']]);
  // Only where tracks end has changed since: on a bar line, and no note behind it.
  const { bytes, left } = exportPart(part, { early });
  const [now, then] = [contentOf(bytes), contentOf(Buffer.from(midi, 'base64'), tracksOf(bytes)[0]!.at(-1)!.at)];
  // And the length of the louder of two notes of one key at one tick.
  const withoutEnds = (tracks: typeof now) => tracks.map((track) => track.filter((e) => (e as { type: string }).type !== 'noteOff'));
  if (left.merged > 0) expect(withoutEnds(now)).toEqual(withoutEnds(then));
  else expect(now).toEqual(then);
});

test('feel@1: the same numbers under their new names', () => {
  const feel = readFeelFile(readFileSync(join(FIXTURES, 'feel-1.nodfeel.json'), 'utf8'));
  expect(feel.moves.map((m) => m.kind)).toEqual(['quantize', 'swing', 'groove', 'lay', 'humanize', 'humanize', 'apart', 'accents']);
  expect(feel.moves[0]).toEqual({ kind: 'quantize', grid: '1/8', strength: 0.7, outer: 0.8, innerMs: 3, swingPercent: 50, scope: { voices: ['hat-closed:*', 'snare:*'] } });
  expect(feel.moves[4]).toEqual({ kind: 'humanize', timingMs: 6, velocityPercent: 9, memory: 0.35, anchor: 0.5, span: 4 });
  expect(readGrooveFile(readFileSync(join(FIXTURES, 'groove-1.nodgroove.json'), 'utf8')).steps.length).toBeGreaterThan(3);
});

test('feel@1 starts its moves as it did, feel@2 as it does', () => {
  const first = (version: number, kind: string) => readFeelFile(JSON.stringify({ format: `nod-sway/feel@${version}`, moves: [{ kind }] })).moves[0];
  expect(first(1, 'tighten')).toMatchObject({ strength: 0.65, outer: 0.6 });
  expect(first(2, 'quantize')).toMatchObject({ strength: 0.75, outer: 1, innerMs: 0 });
  expect(first(1, 'drift')).toMatchObject({ timingMs: 5, velocityPercent: 5, memory: 0.7, span: 4 });
  expect(first(2, 'humanize')).toMatchObject({ timingMs: 4, velocityPercent: 8, memory: 0.4, anchor: 0.5, span: 4 });
});

test.each([
  ['a member of feel@2 in feel@1', { format: 'nod-sway/feel@1', moves: [{ kind: 'tighten', outer: 1 }] }, 'bad-feel'],
  ['a kind of feel@1 in feel@2', { format: 'nod-sway/feel@2', moves: [{ kind: 'tighten' }] }, 'bad-feel'],
  ['a broken member, by the name that it has there', { format: 'nod-sway/feel@1', moves: [{ kind: 'drift', color: 3 }] }, 'bad-feel'],
  ['a newer format', { format: 'nod-sway/feel@3', moves: [] }, 'newer-format'],
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
