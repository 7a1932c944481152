import { setOrnament } from '@/core/commands/ornaments';
import type { Part } from '@/core/model/part';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { unzipSync } from 'fflate';
import { smallPart } from '@tests/support/arbitraries';
import { tracksOf } from '@tests/support/read-midi';
import { rowsBeyond, silenceWords, silentRows } from './account';
import { EXPORTERS, firstChosen, offeredOf, optionsOf } from './all';
import type { Exported, ExportSource } from './exporter';
import { midiName, plainName, soundName } from './file-name';
import { midiPart } from './midi-part';
import { SELECTION, type FileOptions } from './midi-options';

const BAR = 4 * TICKS_PER_QUARTER;
const part: Part = {
  ...smallPart(
    [
      ['kick', 0, 100],
      ['snare', 1, 90],
      ['kick', 4, 80],
      ['hat-closed', 6, 70],
    ],
    { bars: 2 },
  ),
  name: 'Tin Shed',
};
const source = (of: Part = part, rest: Partial<ExportSource> = {}): ExportSource => ({
  id: 'x',
  part: of,
  hasSong: false,
  selection: new Set(),
  ...rest,
});
const exported = (from: ExportSource, chosen: Partial<FileOptions> = {}): Promise<Exported> =>
  midiPart.run(from, { ...midiPart.initial(from), ...chosen }, { signal: new AbortController().signal, onProgress: () => {} });
/** Bars at which notes stand, and their keys. */
const notes = (data: Exported['data'], ppq = 960) =>
  tracksOf(data as Uint8Array)
    .flat()
    .flatMap((e) => (e.type === 'noteOn' ? [[e.at / ppq / 4, e.noteNumber]] : []))
    .sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]!);
const muted = (of: Part, voice: string, mark: object): Part => ({
  ...of,
  rows: of.rows.map((r) => (r.voice === voice ? { ...r, ...mark } : r)),
});

test('the dialog opens with what works: the last choice, or the part where the song no longer fits', () => {
  const choose = (of: ExportSource, chosen: string | null) =>
    firstChosen(offeredOf(EXPORTERS, of), of, { chosen, options: optionsOf(EXPORTERS, of) });
  expect(choose(source(part, { hasSong: true }), null)).toBe('song');
  expect(choose(source(part, { hasSong: true }), 'part')).toBe('part');
  const followed = source({ ...part, playerTempo: part.tempo }, { hasSong: true });
  expect([choose(followed, null), choose(followed, 'song')]).toEqual(['part', 'part']);
  expect(offeredOf(EXPORTERS, followed).map((e) => e.id)).toContain('song');
});

test('what is offered fits what is taken out, with the first that fits in front', () => {
  expect(offeredOf(EXPORTERS, source()).map((e) => e.id)).not.toContain('song');
  expect(offeredOf(EXPORTERS, source(part, { hasSong: true }))[0]!.id).toBe('song');
  expect(offeredOf(EXPORTERS, source({ ...part, hits: [] })).map((e) => e.id)).not.toContain('audio');
  expect(offeredOf(EXPORTERS, source()).map((e) => e.id)).not.toContain('pieces');
  expect(optionsOf(EXPORTERS, source())).toMatchObject({ fromBar: 1, toBar: 2, passes: 1 });
});

test('the whole part, named by its tempo and length', async () => {
  const { data, fileName, type, empty } = await exported(source());
  expect([fileName, type, empty]).toEqual(['Tin Shed 120bpm 2bars.mid', 'audio/midi', undefined]);
  expect(notes(data)).toEqual([
    [0, 36],
    [0.25, 38],
    [1, 36],
    [1.5, 42],
  ]);
});

test('some bars, several times over', async () => {
  const second = await exported(source(), { fromBar: 2, toBar: 2, passes: 2 });
  expect(second.fileName).toBe('Tin Shed 120bpm 2bars.mid');
  expect(notes(second.data)).toEqual([
    [0, 36],
    [0.5, 42],
    [1, 36],
    [1.5, 42],
  ]);
  // A remembered choice may be of a longer part.
  expect(notes((await exported(source(), { fromBar: 1, toBar: 9 })).data)).toHaveLength(4);
});

test('a row alone, or the selected hits, under a name that says so', async () => {
  const kick = await exported(source(), { only: 'kick' });
  expect([kick.fileName, notes(kick.data).map(([, key]) => key)]).toEqual(['Tin Shed Kick 120bpm 2bars.mid', [36, 36]]);
  const chosen = await exported(source(part, { selection: new Set([part.hits[1]!.id]) }), { only: SELECTION });
  expect([chosen.fileName, notes(chosen.data)]).toEqual(['Tin Shed selection 120bpm 2bars.mid', [[0.25, 38]]]);
  // Nothing is selected any more: all of it is written.
  expect(notes((await exported(source(), { only: SELECTION })).data)).toHaveLength(4);
});

test('an export that would be empty says why', async () => {
  expect((await exported(source({ ...part, hits: [] }))).empty).toBe('The part has no hits yet.');
  const silent = { ...part, rows: part.rows.map((r) => ({ ...r, muted: true })) };
  expect((await exported(source(silent))).empty).toMatch(/^Muted, so not exported: /);
  const outside = await exported(source(part, { selection: new Set([part.hits[0]!.id]) }), { only: SELECTION, fromBar: 2, toBar: 2 });
  expect(outside.empty).toContain('selected hits have no notes');
});

test('sections are files in a zip, two of one name told apart', async () => {
  const two: Part = {
    ...part,
    sections: [
      { id: 'a', name: 'Verse', from: 1, bars: 1 },
      { id: 'b', name: 'Verse', from: 2, bars: 1 },
    ],
  };
  const { data, fileName, type } = await exported(source(two), { stretch: 'sections' });
  const files = unzipSync(data as Uint8Array);
  expect([fileName, type, Object.keys(files)]).toEqual([
    'tin-shed-sections.zip',
    'application/zip',
    ['Verse 120bpm 1bar.mid', 'Verse 120bpm 1bar-2.mid'],
  ]);
  expect(Object.values(files).map((bytes) => notes(bytes))).toEqual([
    [
      [0, 36],
      [0.25, 38],
    ],
    [
      [0, 36],
      [0.5, 42],
    ],
  ]);
});

test('the running order is written round by round, and said', async () => {
  const ordered: Part = {
    ...part,
    sections: [{ id: 'b', name: 'Verse', from: 2, bars: 1 }],
    order: [{ section: 'b', times: 2 }],
  };
  const { data, said } = await exported(source(ordered));
  expect(notes(data)).toHaveLength(4);
  expect(said[0]).toBe('Unrolled the running order: 2 entries, marked by their sections.');
});

test('what MIDI cannot carry is in the account, with its number', async () => {
  const rich = setOrnament(
    {
      ...part,
      hits: part.hits.map((h, i) => ({
        ...h,
        ...(i === 0 ? { pan: -20 } : {}),
        ...(i === 1 ? { ghost: true } : {}),
        ...(i === 2 ? { chance: 0.5 } : {}),
        ...(i === 3 ? { passes: { every: 2, at: [1] } } : {}),
      })),
    },
    new Set([part.hits[0]!.id]),
    { kind: 'flam', strokes: 1, spacingMs: 20, level: 0.5, slope: 0 },
  );
  const said = (await exported(source(rich))).said.join('\n');
  for (const words of [
    'one was written as its strokes',
    'the pan of 1',
    '1 are plain soft notes',
    '1 hit has a probability',
    '1 hit sounds in some passes alone',
  ])
    expect(said).toContain(words);
  expect(said).not.toContain('nudges');
});

test('hits before the start: moved there, given a bar in front, or put at the end of the loop', async () => {
  const early = { ...part, hits: [{ ...part.hits[0]!, tick: ticks(-BAR / 16), home: ticks(0) }, ...part.hits.slice(1)] };
  const first = async (rule: FileOptions['early']) => {
    const { data, said } = await exported(source(early), { early: rule });
    return [notes(data).find(([, key]) => key === 36)?.[0], said.find((line) => line.includes('before the start'))];
  };
  expect(await first('zero')).toEqual([0, '1 hit was performed before the start: moved to 0.']);
  expect(await first('lead-in')).toEqual([0.9375, '1 hit was performed before the start: one bar was put in front.']);
  expect(await first('wrap')).toEqual([1, '1 hit was performed before the start: placed at the end of the loop.']);
});

test('what is silent is named: muted rows, or all but the soloed', () => {
  expect([silentRows(part), silenceWords(part)]).toEqual([[], null]);
  expect(silenceWords(muted(part, 'snare', { muted: true }))).toBe('Muted, so not exported: snare.');
  expect(silenceWords(muted(part, 'snare', { soloed: true }))).toMatch(/^Solo is on: only snare is exported, without /);
  // A row without hits is missed by nobody.
  expect(silentRows(muted({ ...part, hits: part.hits.filter((h) => h.voice !== 'snare') }, 'snare', { muted: true }))).toEqual([]);
});

test('rows that General MIDI has no key for are named, chokes are none', () => {
  const odd = { ...part, hits: [...part.hits, { ...part.hits[0]!, id: 'z', voice: 'hat-half', key: 20 }] };
  expect(rowsBeyond(part)).toEqual([]);
  expect(rowsBeyond(odd)).toEqual(['hat-half']);
  expect(rowsBeyond({ ...odd, hits: odd.hits.map((h) => ({ ...h, choke: true as const })) })).toEqual([]);
});

test('file names that any system takes', () => {
  expect([plainName('Intro: A/B'), plainName(' ..  '), plainName('a\tb  c')]).toEqual(['Intro- A-B', 'part', 'a-b c']);
  expect(soundName('Tin/Shed', { bpm: 96.125, bars: 1, kit: 'Beacon' })).toBe('Tin-Shed 96.13bpm 1bar Beacon');
  expect(midiName('Tin Shed', { bpm: 120, bars: 8 })).toBe('Tin Shed 120bpm 8bars.mid');
});
