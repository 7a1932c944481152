import { BENCH_FEATURES } from '../features/all';
import { keysOfFeatures } from '../shared/feature-keys';
import { KEYS } from './keys';
import { MORE } from './more';
import { rank } from './rank';

jest.mock('@/ui/notify', () => ({ say: () => {} }));

/** Words that people of the trade look for things by. */
const WORDS =
  `accent, accents, add row, aftertouch, analysis, arrange, articulation, as imported, audition, audio, backbeat, backing track, backup, bar length, bars, batch, beat, bend, blind test, bounce, BPM, break, brightness, brush,
build-up, buzz roll, chance, channel, choke, choke group, chorus, clap, click, clip, clipboard, clipped, clone, commit, compare, compress, consolidate, copy, copy part, count-in, cowbell, crash, crescendo, crosstalk, cut, cycle, cymbal,
decay, delay, delete, deviation, distortion, double tempo, double time, downbeat, drag, drum fill, drum map, duplicate, duplicate bars, duplicate part, dynamics, early, echo, equal loudness, erase, export, extract groove, factory kit, fade,
feel, fill, filter, find, flam, folder, freeze, general midi, ghost, ghost notes, grid, groove, groove template, half time, halve tempo, hands, hat, hi-hat, hi-hat pedal, histogram, humanize, humanise, idea, import, input, insert bar, instrument,
intro, key map, keyboard, kick, kit, late, latency, lay back, layer, lead hand, left-handed, left handed, legato, length, level, library, limiter, lock, loop, loop length, loudness, MIDI, MIDI in, MIDI out, master, measure, merge, meter, metronome,
mix, monitor, move, mute, notes, nudge, off-beat, on-beat, order, ornament, output, output map, overdub, pad, pads, paint, pan, paste, pattern, pattern book, pedal, pickup, pitch, play, playback, polymeter, preset, probability, punch in, push, quantize,
quintuplet, random, randomize, record, redo, rename, rehearse, repeat, reverb, reverse, revert, ride, rimshot, roll, room, round-robin, row, ruff, running order, sample, save, scale, seamless loop, search, section, seed, select, send, shaker, shortcut, shuffle,
sidestick, slice, slices, snap, snare, solo, song, sound, split, spread, stem, stems, step entry, step record, stick, sticking, stop, straighten, stretch, swing, sync, take, tambourine, tap tempo, template, tempo, tempo change, thin out, tighten, time signature,
timing, tom, transpose, triplet, tuning, undo, unquantize, upbeat, variation, velocity, velocity curve, verse, version, volume, WAV, warp, zoom`.split(
    /,\s+/,
  );

const ALL = [...KEYS, ...keysOfFeatures(BENCH_FEATURES), ...MORE].filter((s) => s.run && s.shown !== null);
const found = (word: string): string[] => ALL.filter((s) => rank(s.text, word, [...(s.also ?? [])]) > 0).map((s) => s.text);

test('every feature is found by the words of the trade', () => {
  expect(WORDS.length).toBeGreaterThan(150);
  expect(WORDS.filter((word) => found(word).length === 0)).toEqual([]);
});

test('a word finds all that it is about', () => {
  expect(found('tempo')).toEqual(expect.arrayContaining([expect.stringContaining('Change the tempo from bar')]));
  expect(found('distortion').join()).toContain('no distortion');
});
