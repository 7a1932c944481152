import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import { homesOf } from '../homes/homes';
import { GALLEY_KIT, GENERAL_MIDI_KIT } from '../key-map';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { withoutLocked } from '../part/locks';
import type { Part } from '../model/part';
import { setApart, voicesTogether } from './apart';
import { addHit, mirrorNudges } from './hits';
import { decideHomes, setChoke, setLocked } from './marks';
import {
  addRow,
  mergeRows,
  moveRow,
  playOnKit,
  readByKit,
  removeRow,
  renameRow,
  rowsWithout,
  setKeyVoice,
  setRowKey,
  setRowVoice,
} from './rows';
import { labelOfRow } from '../part/rows';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['hat-closed', 0, 80],
  ['hat-closed', 1, 70],
]);
const all = new Set(part.hits.map((h) => h.id));
const voices = (p: Part): string[] => p.rows.map((r) => r.voice);

test('rows are named, moved, added and removed', () => {
  expect(labelOfRow(renameRow(part, 'snare', ' Tin lid '), 'snare')).toBe('Tin lid');
  expect(renameRow(renameRow(part, 'snare', 'Tin lid'), 'snare', '').rows).toEqual(part.rows);
  expect(voices(moveRow(part, 'kick', 0))).toEqual(['kick', 'hat-closed', 'snare']);
  expect(voices(addRow(part, 'clap'))).toEqual(['hat-closed', 'snare', 'clap', 'kick']);
  expect(removeRow(part, 'snare')).toMatchObject({ rows: [{ voice: 'hat-closed' }, { voice: 'kick' }] });
  expect(removeRow(part, 'snare').hits).toHaveLength(3);
});

test('a new key goes into the drum map; a wrong name is put right and keys stay', () => {
  const rekeyed = setRowKey(part, 'snare', 40);
  expect(rekeyed.hits.filter((h) => h.voice === 'snare').map((h) => h.key)).toEqual([40]);
  expect(rekeyed.kitMap.voices[40]).toBe('snare');
  const right = setRowVoice(
    { ...part, feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/8', percent: 60, scope: { voices: ['snare'] } }] } },
    'snare',
    'clap',
  );
  expect(right.hits.filter((h) => h.voice === 'clap').map((h) => h.key)).toEqual([38]);
  expect(right.kitMap.voices[38]).toBe('clap');
  expect(voices(right)).toEqual(['hat-closed', 'clap', 'kick']);
  expect(right.feel.moves[0]?.scope?.voices).toEqual(['clap']);
});

test('the key of an empty row lasts: the next hit is written with it', () => {
  const row = setRowKey(addRow(part, 'cowbell'), 'cowbell', 61);
  expect(addHit(row, { id: 'new', voice: 'cowbell', tick: ticks(0), velocity: 90 }).hits.find((h) => h.id === 'new')!.key).toBe(61);
});

test('a key map gains and loses keys whether or not a hit uses them', () => {
  const gained = setKeyVoice(part, 99, 'cowbell');
  expect([gained.kitMap.voices[99], gained.hits]).toEqual(['cowbell', part.hits]);
  expect(setKeyVoice(gained, 99, null).kitMap.voices).toEqual(part.kitMap.voices);
  const cowbells = setKeyVoice(part, 36, 'cowbell');
  expect(cowbells.hits.map((h) => h.voice)).toContain('cowbell');
  expect(cowbells.rows.map((r) => r.voice)).not.toContain('kick');
});

test('another kit says which rows it has no key for; new kicks are written on 36', () => {
  const odd = smallPart([
    ['vibraslap', 0, 90],
    ['kick', 1, 90],
  ]);
  expect(rowsWithout(odd, GALLEY_KIT)).toEqual(['vibraslap']);
  expect(addHit(smallPart([]), { id: 'new', voice: 'kick', tick: ticks(0), velocity: 90 }).hits[0]!.key).toBe(36);
});

test('merged rows share the key of the one that stays', () => {
  const merged = mergeRows(part, 'hat-closed', 'snare');
  expect(voices(merged)).toEqual(['snare', 'kick']);
  expect(merged.hits.filter((h) => h.voice === 'snare').map((h) => h.key)).toEqual([38, 38, 38]);
});

const reversed = { name: 'Hold', voices: { 60: 'kick', 61: 'snare', 38: 'hat-closed' } };

test('another kit: voices stay and keys change; a right reading: keys stay and voices change', () => {
  const played = playOnKit(part, reversed);
  expect(played.hits.map((h) => [h.voice, h.key])).toEqual([
    ['hat-closed', 38],
    ['kick', 60],
    ['hat-closed', 38],
    ['snare', 61],
  ]);
  const read = readByKit(part, reversed);
  expect(read.hits.map((h) => [h.voice, h.key])).toEqual([
    ['key-36', 36],
    ['key-42', 42],
    ['hat-closed', 38],
    ['key-42', 42],
  ]);
  expect(voices(read)).toEqual(['key-36', 'key-42', 'hat-closed']);
  fc.assert(
    fc.property(partArbitrary, (p) => {
      expect(readByKit(readByKit(p, reversed), GENERAL_MIDI_KIT).hits).toEqual(p.hits);
      expect(
        playOnKit(p, reversed)
          .hits.map((h) => h.velocity)
          .sort(),
      ).toEqual(p.hits.map((h) => h.velocity).sort());
    }),
  );
});

test('locked hits, and hits of locked rows, are left out and counted', () => {
  const locked = setLocked(part, new Set(['h1']), true);
  expect(withoutLocked(locked, all)).toEqual({ ids: new Set(['h0', 'h2', 'h3']), locked: 1 });
  const row = { ...locked, rows: locked.rows.map((r) => (r.voice === 'hat-closed' ? { ...r, locked: true } : r)) };
  expect(withoutLocked(row, all)).toEqual({ ids: new Set(['h0']), locked: 3 });
  expect(withoutLocked(part, all).ids).toBe(all);
});

test('what falls together is set apart around its middle, the leader first', () => {
  const apart = setApart(part, all, 6, 'kick');
  const nudge = (voice: string) => apart.hits.filter((h) => h.voice === voice).map((h) => h.nudge?.ms ?? 0);
  expect(nudge('kick')).toEqual([-3]);
  expect(nudge('hat-closed')).toEqual([3, -3]);
  expect(nudge('snare')).toEqual([3]);
  expect(voicesTogether(part, all)).toEqual(['hat-closed', 'snare', 'kick']);
  expect(voicesTogether(part, new Set(['h0']))).toEqual([]);
  expect(mirrorNudges(apart, all).hits.map((h) => h.nudge?.ms)).toEqual(apart.hits.map((h) => -(h.nudge?.ms ?? 0)));
});

test('an uncertain hit is sent to the line before or after; then it is decided', () => {
  const between = smallPart([
    ['snare', 1.08, 90],
    ['snare', 1.25, 80],
    ['snare', 1.5, 80],
    ['snare', 1.75, 80],
  ]);
  expect(homesOf(between).doubtful[0]).toBe(1);
  const home = (p: Part, i = 0): number => (homesOf(p).ticks[i] as number) / TICKS_PER_QUARTER;
  const later = decideHomes(between, new Set(['h0']), 'later');
  expect(home(later)).toBe(1.25);
  expect(homesOf(later).doubtful[0]).toBe(0);
  expect(home(decideHomes(between, new Set(['h0']), 'earlier'))).toBe(1);
  // The line that it had stays the one that it may go back to.
  expect(home(decideHomes(later, new Set(['h0']), 'earlier'))).toBe(1);
  const onLine = smallPart([
    ['snare', 1, 90],
    ['kick', 0, 90],
  ]);
  // On a beat the coarsest grid that holds the line is that of quarters.
  expect(home(decideHomes(onLine, new Set(['h0']), 'earlier'), 1)).toBe(0);
  expect(home(decideHomes(onLine, new Set(['h1']), 'earlier'))).toBe(-1);
});

test('marks that are off are not kept', () => {
  const choked = setChoke(part, new Set(['h0']), true);
  expect(choked.hits.find((h) => h.id === 'h0')).toMatchObject({ choke: true });
  expect(setChoke(choked, all, false).hits).toEqual(part.hits);
});
