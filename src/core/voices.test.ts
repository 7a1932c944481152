import fc from 'fast-check';
import { freeKey, GENERAL_MIDI_KIT, isGeneralMidi, keyOfVoice, NOD_SWAY_KIT, voiceOfKey } from './key-map';
import {
  allRowsOf,
  fallbackOf,
  familyOfVoice,
  namesRow,
  nextRow,
  numberOfRow,
  ownRow,
  standIns,
  voiceOfAll,
  voiceOfRow,
} from './row-names';
import { compareVoices, generalMidiKeys, hasGhosts, labelOfVoice, limbOf, usualKeys, VOICES } from './voices';

test('a row is named by its voice and its number among them', () => {
  expect(['snare', 'snare:2', 'own:2', 'key-20:3'].map((row) => [voiceOfRow(row), numberOfRow(row)])).toEqual([
    ['snare', 1],
    ['snare', 2],
    ['own:2', 1],
    ['key-20', 3],
  ]);
  expect(nextRow(new Set(['kick']), 'snare')).toBe('snare');
  expect(nextRow(new Set(['snare', 'snare:2', 'snare:4']), 'snare')).toBe('snare:3');
  expect(['snare:2', 'hat-half', 'key-20', 'key-20:2', allRowsOf('snare:3')].map(labelOfVoice)).toEqual([
    'Snare 2',
    'Half-open hat',
    'Key 20',
    'Key 20, row 2',
    'all snares',
  ]);
  expect([ownRow('x'), 'snare:10', 'kick', 'snare:2', 'snare', 'crash'].sort(compareVoices)).toEqual([
    'own:x',
    'crash',
    'snare',
    'snare:2',
    'snare:10',
    'kick',
  ]);
});

test('a name with a star means all rows of its voice', () => {
  expect(voiceOfAll('snare:*')).toBe('snare');
  expect(voiceOfAll('snare:2')).toBeNull();
  const names = new Set(['snare:*', 'kick']);
  expect(['snare', 'snare:2', 'kick', 'kick:2', 'snare-edge'].map((row) => namesRow(names, row))).toEqual([true, true, true, false, false]);
});

test('strokes that General MIDI lacks have keys of ours, a limb, and what stands for them', () => {
  expect(
    ['hat-shoulder', 'hat-half', 'hat-splash', 'snare-edge', 'snare-rimshot', 'snare-sweep', 'ride-edge', 'tom-rim'].map(
      (v) => usualKeys(v)[0],
    ),
  ).toEqual([22, 26, 29, 23, 34, 24, 27, 25]);
  expect(VOICES.filter((v) => generalMidiKeys(v).length === 0).every((v) => fallbackOf(v) !== undefined)).toBe(true);
  expect(standIns('hat-half:2')).toEqual(['hat-half', 'hat-open']);
  expect([limbOf('hat-splash'), limbOf('kick:2'), limbOf('snare-edge')]).toEqual(['hat-foot', 'kick-foot', 'hand']);
  expect([familyOfVoice('snare-edge'), familyOfVoice('hat-half:2'), familyOfVoice('clap:2')]).toEqual(['snare', 'hat', undefined]);
  expect(['snare:2', 'tom-rim', 'clap'].map(hasGhosts)).toEqual([true, false, false]);
});

test('our key map has a key for every voice; General MIDI leaves ours without a name', () => {
  expect(VOICES.map((v) => voiceOfKey(NOD_SWAY_KIT, keyOfVoice(NOD_SWAY_KIT, v)))).toEqual(VOICES);
  expect([22, 26, 34].map((key) => voiceOfKey(GENERAL_MIDI_KIT, key))).toEqual(['key-22', 'key-26', 'key-34']);
  expect(isGeneralMidi({ name: 'Another name', voices: { ...GENERAL_MIDI_KIT.voices } })).toBe(true);
  expect(isGeneralMidi(NOD_SWAY_KIT)).toBe(false);
  // What a map does not know is played by what stands for it.
  expect([
    keyOfVoice(GENERAL_MIDI_KIT, 'hat-half'),
    keyOfVoice(GENERAL_MIDI_KIT, 'snare:2'),
    keyOfVoice(GENERAL_MIDI_KIT, 'key-20:2'),
  ]).toEqual([46, 38, 20]);
});

test('a new row takes its voice’s other key, else the first free one beside General MIDI’s', () => {
  expect(freeKey('snare:2', (key) => key === 38)).toBe(40);
  expect(freeKey('snare:2', (key) => key === 38 || key === 40)).toBe(22);
  expect(freeKey('clap:2', (key) => key === 39 || (key >= 22 && key <= 34))).toBe(83);
  expect(freeKey('own:x', (key) => key >= 22 && key <= 127)).toBe(0);
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 127 }), { maxLength: 78 }), (taken) => {
      const key = freeKey('own:x', (k) => taken.includes(k));
      expect(taken).not.toContain(key);
      expect(key < 35 || key > 82).toBe(true);
    }),
  );
});
