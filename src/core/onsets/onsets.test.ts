import { breakOf, randomBeat, scored, strokeAlone } from '@tests/support/breaks';
import { randomStream } from '../random';
import { KIT_NAMES, type KitName } from '../model/sound';
import { TICKS_PER_QUARTER } from '../units';
import { attackNear, findOnsets, findPeaks, onsetsOf } from './onsets';
import { performPart } from '../perform/perform';
import { learnGroove } from '../learn/learn';
import { guessStrokes, placesOf } from './classify';
import { listenTo } from './listen';
import { countedBy, partOfStrokes, readingFor, soundsOf } from './part-of-strokes';
import { readingsOf } from './readings';
import { SOUND_KINDS } from './stroke-net';

const RATE = 44_100;
/** What is struck where a sound begins. */
const guessed = (sound: Float32Array) => guessStrokes(sound, RATE, placesOf([0], sound.length / RATE))[0]!;

test('clicks are found to the sample', () => {
  const mono = new Float32Array(RATE);
  for (const at of [5000, 12_345, 30_001]) for (let i = 0; i < 400; i++) mono[at + i] = 0.6 * Math.exp(-i / 60) * Math.sin(i * 0.7 + 1);
  expect(findOnsets(mono, RATE).map((o) => Math.round(o.seconds * RATE))).toEqual([5000, 12_345, 30_001]);
  expect(Math.round(attackNear(mono, RATE, 12_400 / RATE) * RATE)).toBe(12_345);
});

describe('twenty loops of all kits', () => {
  const loops = Array.from({ length: 20 }, (_, i) => breakOf(randomBeat(i + 1, KIT_NAMES[i % KIT_NAMES.length]!), RATE));
  const found = loops.map(({ mono }) => findOnsets(mono, RATE));
  const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;

  test('onsets are found: F at 25 ms at least 0.99, half of them within 0.7 ms', () => {
    const scores = loops.map(({ times }, i) =>
      scored(
        found[i]!.map((o) => o.seconds),
        times,
      ),
    );
    expect(mean(scores.map((s) => s.f))).toBeGreaterThanOrEqual(0.99);
    expect(mean(scores.map((s) => s.medianError))).toBeLessThan(0.0007);
  });

  test('18 dB softer they are the same', () => {
    for (const { mono } of loops.slice(0, 4)) {
      const soft = mono.map((x) => x * 0.125);
      expect(findOnsets(soft, RATE)).toEqual(
        findOnsets(mono, RATE).map((o) => ({
          seconds: expect.closeTo(o.seconds, 4) as number,
          strength: expect.closeTo(o.strength, 3) as number,
        })),
      );
    }
  });

  test('in noise of -40 dB nearly all are found', () => {
    const scores = loops.map(({ mono, times }) => {
      const random = randomStream(7);
      // Even noise: its root mean square is its limit over the root of three.
      return scored(
        findOnsets(
          mono.map((x) => x + 0.01 * Math.sqrt(3) * (random() * 2 - 1)),
          RATE,
        ).map((o) => o.seconds),
        times,
      );
    });
    expect(mean(scores.map((s) => s.f))).toBeGreaterThanOrEqual(0.99);
  });

  test.each([22_050, 96_000])('at %d Hz they are found as well', (rate) => {
    const scores = [1, 2, 3, 4, 6, 7].map((seed) => {
      const { mono, times } = breakOf(randomBeat(seed, KIT_NAMES[seed % KIT_NAMES.length]!), rate);
      return scored(
        findOnsets(mono, rate).map((o) => o.seconds),
        times,
      );
    });
    expect(mean(scores.map((s) => s.f))).toBeGreaterThanOrEqual(0.99);
    expect(mean(scores.map((s) => s.medianError))).toBeLessThan(0.0007);
  });

  test('the groove learnt from the sound is that of the part: of 100 of its steps 82 within 2.5 ms, and 87 within 10 % of their level', () => {
    const errors = loops.flatMap(({ mono, part, bpm }) => {
      const heard = listenTo(mono, RATE);
      const reading = readingFor(heard.readings, heard.seconds, { bars: part.bars, meter: [4, 4], firstDownbeat: 0 });
      const sound = learnGroove(partOfStrokes(soundsOf(heard.onsets), countedBy(reading), 'loop')).steps;
      const truth = learnGroove(part, {}, performPart(part)).steps;
      return sound.flatMap((s, k) => {
        const t = truth[k]!;
        return s.n && t.n ? [{ ms: (Math.abs(s.offset - t.offset) * 15_000) / bpm, level: Math.abs(s.level / t.level - 1) }] : [];
      });
    });
    const share = (isNear: (e: { ms: number; level: number }) => boolean): number => errors.filter(isNear).length / errors.length;
    expect(errors.length).toBeGreaterThan(200);
    expect(share((e) => e.ms <= 2.5)).toBeGreaterThanOrEqual(0.82);
    expect(share((e) => e.level <= 0.1)).toBeGreaterThanOrEqual(0.87);
  });

  test('nine of ten strokes are heard as what they are, also those that fall together', () => {
    const kindOf = (voice: string) => (voice === 'kick' || voice === 'snare' ? voice : voice.startsWith('hat') ? 'hat' : 'other');
    let [right, said, played] = [0, 0, 0];
    for (const { mono, part, bpm } of loops) {
      const strokes = listenTo(mono, RATE).onsets.flatMap(({ seconds: at, struck }) =>
        struck.map((s) => ({ at: at + s.late, kind: SOUND_KINDS[s.sound] as string })),
      );
      const { ticks: at } = performPart(part);
      const left = new Set(strokes);
      part.hits.forEach((hit, i) => {
        const moment = (at[i]! * 60) / (bpm * TICKS_PER_QUARTER);
        const own = [...left].find((s) => s.kind === kindOf(hit.voice) && Math.abs(s.at - moment) < 0.025);
        if (own && left.delete(own)) right++;
      });
      said += strokes.length;
      played += part.hits.length;
    }
    expect((2 * right) / (said + played)).toBeGreaterThanOrEqual(0.9);
  });

  test('a reading says how many bars there are, how fast, and where they begin', () => {
    const right = loops.filter((loop, i) =>
      readingsOf(found[i]!, loop.mono.length / RATE).some(
        (r) => Math.abs(r.bpm / loop.bpm - 1) < 0.01 && r.bars === loop.part.bars && Math.abs(r.firstDownbeat) < 0.03,
      ),
    );
    expect(right.length).toBeGreaterThanOrEqual(19);
  });
});

test('sensitivity goes from the strongest to nearly all', () => {
  const peaks = findPeaks(breakOf(randomBeat(3, 'Wheelhouse'), RATE).mono, RATE);
  const counts = [0, 0.25, 0.5, 0.75, 1].map((s) => onsetsOf(peaks, s).length);
  expect(counts).toEqual([...counts].sort((a, b) => a - b));
  expect(counts[0]).toBeLessThan(counts[4]!);
});

test('of single strokes nine of ten are taken for what they are', () => {
  const kinds = {
    kick: 'kick',
    snare: 'snare',
    'hat-closed': 'hat',
    'hat-open': 'hat',
    'tom-high': 'other',
    'tom-floor': 'other',
    clap: 'other',
    cowbell: 'other',
  } as const;
  const asked = KIT_NAMES.flatMap((kit) =>
    Object.entries(kinds).flatMap(([voice, kind]) =>
      [40, 108].map((v) => ({ kind, voiced: voice, ...guessed(strokeAlone(voice, v, kit)) })),
    ),
  );
  // An open hat all by itself may as well be a cymbal.
  const right = asked.filter((a) => a.voice === a.kind || (a.voiced === 'hat-open' && a.struck[0].sound === 'bright'));
  expect(right.length / asked.length).toBeGreaterThanOrEqual(0.9);
  expect(asked.every((a) => a.sure >= 0.25 && a.sure <= 1)).toBe(true);
});

test('a kick with a hat, and a snare with a kick, are told from those alone', () => {
  const mix = (kit: KitName, ...strokes: [string, number][]): Float32Array => {
    const sounds = strokes.map(([voice, v]) => strokeAlone(voice, v, kit));
    return Float32Array.from({ length: RATE }, (_, i) => sounds.reduce((sum, s) => sum + (s[i] ?? 0), 0));
  };
  const together = (sound: Float32Array) => guessed(sound.slice(0, RATE / 5)).also;
  for (const kit of KIT_NAMES) {
    expect([
      kit,
      ...[mix(kit, ['kick', 112]), mix(kit, ['kick', 60]), mix(kit, ['snare', 112]), mix(kit, ['hat-closed', 88])].map(together),
    ]).toEqual([kit, undefined, undefined, undefined, undefined]);
    expect([kit, together(mix(kit, ['kick', 112], ['hat-closed', 80])), together(mix(kit, ['snare', 112], ['kick', 100]))]).toEqual([
      kit,
      'hat',
      'kick',
    ]);
  }
});

test('what has no strokes has no onsets, and no reading', () => {
  expect([findOnsets(new Float32Array(RATE), RATE), findOnsets(new Float32Array(0), RATE), readingsOf([], 2)]).toEqual([[], [], []]);
  const random = randomStream(1);
  const noise = Float32Array.from({ length: 4 * RATE }, () => random() * 2 - 1);
  // It begins, and then little stands out.
  expect(findOnsets(noise, RATE).length).toBeLessThanOrEqual(12);
  expect(listenTo(noise, RATE).readings).toEqual([]);
});
