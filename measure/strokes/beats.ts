import { humanBeat } from '@tests/support/breaks';
import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/key-map';
import type { Hit, Part } from '@/core/model/part';
import { KIT_NAMES, type KitName } from '@/core/model/sound';
import { randomStream } from '@/core/random';
import { bpm, clampVelocity, ticks, TICKS_PER_QUARTER } from '@/core/units';

/** Beats to learn strokes from: wider than those of the tests, in instruments, loudness and tempo. */

const TIMES = ['hat-closed', 'hat-closed', 'hat-closed', 'hat-shoulder', 'ride', 'hat-pedal'] as const;
const EXTRAS = [
  'tom-floor',
  'tom-floor',
  'tom-low',
  'tom-mid',
  'tom-high',
  'clap',
  'cowbell',
  'crash',
  'tambourine',
  'rim',
  'conga-high',
  'splash',
] as const;
const ALONE = [
  'kick',
  'snare',
  'hat-closed',
  'hat-open',
  'tom-floor',
  'tom-mid',
  'tom-high',
  'clap',
  'cowbell',
  'ride',
  'crash',
  'tambourine',
  'snare-rimshot',
  'hat-pedal',
  'bongo-high',
  'conga-low',
  'block-high',
  'shaker',
] as const;
const GHOSTS = [18, 25, 36, 50, 80] as const;
/** So many of all are single strokes a beat apart. */
const SPARSE = 0.15;

export const kitOf = (seed: number): KitName => KIT_NAMES[seed % KIT_NAMES.length] as KitName;

/** @param seed decides everything */
export function beatOf(seed: number, bars = 2): Part {
  const random = randomStream(seed * 7919 + 13);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const between = (low: number, high: number): number => low + random() * (high - low);
  const tempo = bpm(between(70, 160));
  const hits: Hit[] = [];
  const add = (voice: string, sixteenth: number, loud: number) => {
    const tick = ticks((sixteenth * TICKS_PER_QUARTER) / 4);
    if (!hits.some((h) => h.tick === tick && h.voice === voice))
      hits.push({
        id: `h${hits.length}`,
        voice,
        key: keyOfVoice(GENERAL_MIDI_KIT, voice),
        tick,
        home: tick,
        length: ticks(TICKS_PER_QUARTER / 8),
        velocity: clampVelocity(Math.round(loud)),
      });
  };
  if (random() < SPARSE) {
    for (let s = 0; s < 16 * bars; s += 4) {
      add(pick(ALONE), s, between(25, 125));
      if (random() < 0.3) add(pick(['kick', 'hat-closed', 'snare']), s, between(40, 120));
    }
  } else {
    const time = pick(TIMES);
    const every = time === 'ride' ? pick([2, 4]) : pick([1, 2, 2, 4]);
    const [kick, snare, hat, open] = [between(95, 122), between(95, 122), between(60, 110), between(60, 110)];
    const [kicks, ghosts, opens, extras, rests, uneven] = [
      between(0, 0.3),
      between(0, 0.3),
      pick([0, 0.1, 0.25]),
      pick([0, 0.06, 0.15]),
      pick([0, 0.2, 0.5, 0.9]),
      between(0, 12),
    ];
    const extra = pick(EXTRAS);
    const around = (loud: number): number => loud + between(-uneven, uneven);
    for (let s = 0; s < 16 * bars; s++) {
      const place = s % 16;
      const backbeat = place === 4 || place === 12;
      if (random() < (place === 0 ? 0.9 : place === 8 ? 0.6 : kicks)) add('kick', s, around(kick) - (random() < 0.3 ? 30 : 0));
      if (random() < (backbeat ? 0.92 : ghosts)) add('snare', s, around(backbeat ? snare : pick(GHOSTS)));
      // Where the hat rests, drums are learnt as they are without it.
      if (s % every === 0 && random() >= rests) {
        const isOpen = time.startsWith('hat') && random() < opens;
        add(isOpen ? 'hat-open' : time, s, around(isOpen ? open : s % 4 === 0 ? hat : hat * 0.75));
      }
      if (random() < extras) add(extra, s, between(60, 120));
    }
  }
  return humanBeat({ seed, tempo, kit: kitOf(seed), bars, hits });
}
