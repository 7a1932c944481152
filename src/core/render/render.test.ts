import { smallPart } from '@tests/support/arbitraries';
import { drum, wavFile } from '@tests/support/sound-files';
import { bandPower, spectrumOf } from '@tests/support/spectrum';
import { writeWav } from '../audio/wav';
import { strokeLevel } from '../loudness/k-weighting';
import { EMPTY_FEEL } from '../model/feel';
import { ownSoundsOf, type OwnLayer, type OwnSound } from '../model/own-sound';
import type { RowPlays } from '../model/sound';
import type { Part } from '../model/part';
import { performPart } from '../perform/perform';
import { emptyLayers } from '../playback/kit-sounds';
import { Mixer, oneTake, PLAIN, responseOf } from '../playback/mixer';
import { Player } from '../playback/player';
import { makeProgram } from '../playback/program';
import { RoomReverb } from '../playback/room';
import { layersOfSource, sourceOfRow } from '../playback/sources';
import { PLAIN_MIX_OF_PART, type RowMix } from '../playback/row-mix';
import { randomStream } from '../random';
import { amplitudeOf, velocityOf } from '../synth/classes';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { planRender, renderPart, renderPlan, strokeSource } from './render-part';

const RATE = 44_100;
const strokes = strokeSource(RATE);
const dry = { rate: RATE, ending: 'ring', volume: 0.8, strokes } as const;
const beat = smallPart(
  [
    ['kick', 0, 110],
    ['snare', 1, 100],
    ['kick', 2, 104],
    ['snare', 3, 96],
    ...Array.from({ length: 8 }, (_, i): [string, number, number] => ['hat-closed', i / 2, i % 2 ? 60 : 84]),
  ],
  { mix: { room: 20 } },
);

const energy = (s: Float32Array): number => s.reduce((sum, x) => sum + x * x, 0);
const peakOf = (s: Float32Array): number => s.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
const dB = (ratio: number): number => 20 * Math.log10(ratio);
/** How far b is from a, in dB under a's peak. */
const apart = (a: Float32Array, b: Float32Array): number =>
  dB(a.reduce((m, x, i) => Math.max(m, Math.abs(x - (b[i] ?? 0))), 0) / peakOf(a) + 1e-12);

test('strokes start within a sample of their performed time', () => {
  const swung: Part = {
    ...smallPart(Array.from({ length: 16 }, (_, i): [string, number, number] => ['rim', i / 4, 127])),
    mix: { room: 0 },
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent: 62 }] },
  };
  const { left } = renderPart(swung, { ...dry, volume: 0.2 });
  const performed = [...performPart(swung).ticks].map((t) => (t / TICKS_PER_QUARTER) * 0.5 * RATE);
  // A stroke's first sample is silent, the one after it is not.
  for (const at of performed) expect(Math.max(...left.slice(Math.round(at), Math.round(at) + 3).map(Math.abs))).toBeGreaterThan(0);
  expect(peakOf(left.slice(0, 1))).toBe(0);
});

test('what the player plays and what is rendered are the same samples', () => {
  const range = { start: ticks(0), end: ticks(4 * TICKS_PER_QUARTER), loop: true };
  const index = (row: string): number => beat.rows.findIndex((r) => r.voice === row);
  const player = new Player(RATE, planRender(beat, dry).sounds);
  const program = makeProgram(beat, performPart(beat), range, (hit) => Number(hit.id.slice(1)), index);
  player.setPrograms({ performed: program, written: program });
  player.play(ticks(0));
  const lead = 0.1 * RATE;
  const live = new Float32Array(lead + 2 * RATE);
  for (let frame = 0; frame < live.length; frame += 128) {
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    player.render(left, right, frame);
    live.set(left.subarray(0, Math.min(128, live.length - frame)), frame);
  }
  const { left } = renderPart(beat, { ...dry, passes: 1 });
  expect(live.slice(lead)).toEqual(left.slice(0, 2 * RATE));
});

test('hits before the first bar line start with it, whatever is repeated; one that is late beyond the end still sounds', () => {
  const felt = (ms: number, voice: string): Part => ({
    ...smallPart(
      [
        ['rim', 0, 120],
        ['snare', 3.75, 110],
      ],
      { mix: { room: 0 } },
    ),
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'lay', ms, scope: { voices: [voice] } }] },
  });
  const early = renderPart(felt(-40, 'rim'), { ...dry, passes: 2 });
  expect(early.account.early).toBe(1);
  const loud = (s: Float32Array, at: number): number => energy(s.subarray(Math.round(at * RATE), Math.round(at * RATE) + 400));
  expect(loud(early.left, 0)).toBeGreaterThan(1e-3);
  // In the second round it has its own time, 40 ms before the bar line.
  expect(loud(early.left, 1.96)).toBeGreaterThan(1e-3);
  const late = renderPart(
    {
      ...felt(80, 'snare'),
      hits: felt(80, 'snare').hits.map((h) => (h.voice === 'snare' ? { ...h, nudge: { ms: milliseconds(80), velocity: 0 } } : h)),
    },
    dry,
  );
  expect(loud(late.left, 1.875 + 0.16)).toBeGreaterThan(1e-3);
});

test('a loop with its tail over the start joins itself; its length is exact', () => {
  const { left } = renderPart(beat, { ...dry, ending: 'fold' });
  expect(left.length).toBe(2 * RATE);
  // The step from the end to the start is no larger than steps within.
  const steps = left.map((x, i) => Math.abs(x - (i > 0 ? left[i - 1]! : left.at(-1)!)));
  expect(steps[0]!).toBeLessThan(0.05 * peakOf(steps));
  const odd = smallPart([['kick', 0, 100]], { tempo: [{ tick: ticks(0), microsecondsPerQuarter: 461_237 }] });
  expect(renderPart(odd, { ...dry, ending: 'fold', passes: 3 }).left.length).toBe(
    Math.round(4 * 4 * 0.461237 * RATE) - Math.round(4 * 0.461237 * RATE),
  );
});

test('rows and the room add up to the unlimited mix', () => {
  const plan = planRender(beat, { ...dry, limited: false });
  const mix = renderPlan(plan);
  const parts = [...plan.rows.map(({ index }) => renderPlan(plan, { sound: index })), renderPlan(plan, 'room')];
  const sum = mix.left.map((_, i) => parts.reduce((s, p) => s + (p.left[i] ?? 0), 0));
  expect(apart(mix.left, sum)).toBeLessThan(-90);
  expect(plan.rows.map((r) => r.row)).toEqual(['hat-closed', 'snare', 'kick']);
  expect(energy(parts.at(-1)!.left)).toBeGreaterThan(0);
});

test('eight voices at once leave no sample over full scale, and the limiter bends no wave', () => {
  const all = smallPart(
    ['crash', 'ride', 'hat-open', 'tom-high', 'tom-floor', 'snare', 'clap', 'kick'].map((voice) => [voice, 0, 127]),
    { mix: { room: 0, level: 3 } },
  );
  const limited = renderPart(all, { ...dry, volume: 1 });
  expect(peakOf(limited.left)).toBeLessThanOrEqual(1);
  const plain = renderPart(all, { ...dry, volume: 1, limited: false });
  expect(peakOf(plain.left)).toBeGreaterThan(1);
  // The best straight gain ramp of each 64 samples.
  let [rest, whole] = [0, 0];
  for (let at = 0; at + 64 <= RATE; at += 64) {
    const [x, y] = [plain.left.subarray(at, at + 64), limited.left.subarray(at, at + 64)];
    let [a, b, c, d, e] = [0, 0, 0, 0, 0];
    x.forEach((v, i) => {
      const t = i / 64;
      a += v * v;
      b += t * v * v;
      c += t * t * v * v;
      d += v * y[i]!;
      e += t * v * y[i]!;
    });
    const det = a * c - b * b;
    const [g, h] = det > 1e-12 ? [(d * c - e * b) / det, (a * e - b * d) / det] : [1, 0];
    x.forEach((v, i) => (rest += (y[i]! - v * (g + (h * i) / 64)) ** 2));
    whole += energy(y);
  }
  expect(10 * Math.log10(rest / whole)).toBeLessThan(-46);
});

test('level, pan, tune, ring and response do what they say', () => {
  const one = (sound: object): { left: Float32Array; right: Float32Array } => {
    const part = smallPart(
      [
        ['tom-low', 0, 100],
        ['tom-low', 2, 40],
      ],
      { mix: { room: 0 } },
    );
    return renderPart({ ...part, rows: part.rows.map((r) => ({ ...r, sound })) }, { ...dry, limited: false, volume: 1 });
  };
  const plain = one({});
  expect(dB(Math.sqrt(energy(one({ level: -6 }).left) / energy(plain.left)))).toBeCloseTo(-6, 2);
  const panned = one({ pan: -100 });
  expect([energy(panned.right) < 1e-9, energy(panned.left) > energy(plain.left)]).toEqual([true, true]);
  const low = (s: Float32Array): number =>
    bandPower(spectrumOf(s, RATE, { to: 0.6 }), 90, 120) / bandPower(spectrumOf(s, RATE, { to: 0.6 }), 190, 230);
  expect(low(plain.left)).toBeGreaterThan(10 * low(one({ tune: 12 }).left));
  const tail = (s: Float32Array): number => energy(s.subarray(0.25 * RATE, 0.9 * RATE)) / energy(s.subarray(0, 0.25 * RATE));
  expect(tail(one({ ring: 30 }).left)).toBeLessThan(tail(plain.left) / 4);
  expect(tail(one({ ring: 180 }).left)).toBeGreaterThan(tail(plain.left) * 1.5);
  const range = (s: Float32Array): number => dB(Math.sqrt(energy(s.subarray(0, 0.9 * RATE)) / energy(s.subarray(RATE, 1.9 * RATE))));
  expect(range(plain.left)).toBeCloseTo(dB(amplitudeOf(100) / amplitudeOf(40)), 0);
  expect(range(one({ loudness: 0 }).left)).toBeCloseTo(0, 0);
  expect(range(one({ loudness: 200 }).left)).toBeCloseTo(2 * dB(amplitudeOf(100) / amplitudeOf(40)), 0);
  expect(responseOf(100, 0.3)).toBeCloseTo(amplitudeOf(100), 12);
});

test('neighbouring strokes of a row never have the same take; the same seed and pass give the same', () => {
  const takes = [1, 2, 3].map((n) => ({ samples: Float32Array.of(n / 10), high: 0, tiltHz: 1500 }));
  const struck = (dice: readonly number[]): number[] => {
    const mixer = new Mixer(RATE, [{ layers: [{ upTo: 127, at: 127, takes }], ends: [] }], { limited: false });
    mixer.volume = 1;
    return dice.map((d) => {
      mixer.start(0, 127, 0, { ...PLAIN, dice: d });
      const left = new Float32Array(4);
      mixer.render(left, new Float32Array(4));
      return Math.round(left[0]! * 10);
    });
  };
  const random = randomStream(7);
  const dice = Array.from({ length: 400 }, () => Math.floor(random() * 2 ** 32));
  const list = struck(dice);
  expect(list.every((t, i) => i === 0 || t !== list[i - 1])).toBe(true);
  for (const t of [1, 2, 3]) expect(list.filter((x) => x === t).length).toBeGreaterThan(90);
  expect(struck(dice)).toEqual(list);
});

test('a class that is not ready sounds as the nearest that is; within a class loudness follows the velocity', () => {
  const layers = emptyLayers(layersOfSource({}));
  layers[9]!.takes[1] = { samples: new Float32Array(2000).fill(amplitudeOf(velocityOf(9))), high: 0, tiltHz: 1500 };
  const mixer = new Mixer(RATE, [{ layers, ends: [] }], { limited: false });
  mixer.volume = 1;
  for (const velocity of [20, 77, 120]) {
    mixer.start(0, velocity, 0);
    const left = new Float32Array(2000);
    mixer.render(left, new Float32Array(2000));
    // A tilt of the highs leaves what is steady.
    expect(left[1999]!).toBeCloseTo(amplitudeOf(velocity), 4);
  }
});

test('reading a sound at another speed leaves 60 dB at 6 kHz', () => {
  const sine = oneTake(
    Float32Array.from({ length: RATE }, (_, i) => Math.sin((2 * Math.PI * 6000 * i) / RATE) * Math.sin((Math.PI * i) / RATE)),
  );
  const mixer = new Mixer(RATE, [sine], { limited: false });
  mixer.start(0, 127, 0, { ...PLAIN, pitch: 3.3 });
  const left = new Float32Array(Math.floor(RATE * 0.8));
  mixer.render(left, new Float32Array(left.length));
  const s = spectrumOf(left, RATE, { window: true });
  const hz = 6000 * 2 ** (3.3 / 12);
  const near = bandPower(s, hz - 60, hz + 60);
  expect(10 * Math.log10((bandPower(s, 20, 20_000) - near) / near)).toBeLessThan(-60);
});

test('the room rings out, and gives the same for the same', () => {
  const run = (): Float32Array => {
    const room = new RoomReverb(RATE);
    const [send, left, right] = [new Float32Array(RATE * 3), new Float32Array(RATE * 3), new Float32Array(RATE * 3)];
    send[0] = 1;
    room.process(send, send, left, right, 1);
    return left;
  };
  const answer = run();
  expect(run()).toEqual(answer);
  expect(energy(answer.subarray(0, RATE / 4))).toBeGreaterThan(1e4 * energy(answer.subarray(RATE)));
  expect(peakOf(answer.subarray(2 * RATE))).toBeLessThan(1e-5);
});

test('WAV: sizes, formats, loop points and tempo are where readers look for them', () => {
  const [left, right] = [Float32Array.of(0, 0.5, -1, 1), Float32Array.of(0, -0.5, 1, 0.25)];
  const view = (bytes: Uint8Array): DataView => new DataView(bytes.buffer);
  const letters = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.slice(at, at + 4));
  for (const [bits, width] of [
    ['16', 2],
    ['24', 3],
    ['32f', 4],
  ] as const) {
    const bytes = writeWav(left, right, { rate: 48_000, bits, loop: true, tempo: 96.5 });
    const v = view(bytes);
    expect([letters(bytes, 0), letters(bytes, 8), v.getUint32(4, true)]).toEqual(['RIFF', 'WAVE', bytes.length - 8]);
    expect([v.getUint16(20, true), v.getUint16(22, true), v.getUint32(24, true), v.getUint16(34, true), v.getUint32(40, true)]).toEqual([
      bits === '32f' ? 3 : 1,
      2,
      48_000,
      width * 8,
      8 * width,
    ]);
    const smpl = 44 + 8 * width;
    expect([letters(bytes, smpl), v.getUint32(smpl + 52, true), v.getUint32(smpl + 56, true)]).toEqual(['smpl', 0, 3]);
    expect(String.fromCharCode(...bytes)).toContain('96.5');
  }
  expect(view(writeWav(left, right, { rate: 48_000, bits: '32f' })).getFloat32(48 + 4, true)).toBeCloseTo(0.5, 6);
  const sixteen = view(writeWav(left, right, { rate: 48_000, bits: '16' }));
  expect(Math.abs(sixteen.getInt16(48, true) - 16_384)).toBeLessThanOrEqual(2);
  expect(sixteen.getInt16(44, true)).toBe(0);
});

test('a row’s mix is plain where nothing is set', () => {
  expect(PLAIN_MIX_OF_PART.rows).toEqual({});
  const rows = makeProgram(
    beat,
    performPart(beat),
    { start: ticks(0), end: ticks(TICKS_PER_QUARTER), loop: true },
    () => 0,
    () => 0,
  ).mix.rows;
  expect(rows[0] satisfies RowMix | undefined).toMatchObject({ gain: 1, tune: 0, ring: 1, loudness: 1, tone: 1 });
});

describe('sounds of the user’s own', () => {
  const files = new Map<string, Uint8Array>([
    ['soft', wavFile(22_050, drum(300, { level: 0.05 }))],
    ['hard', wavFile(22_050, (i, c) => drum(c ? 620 : 600)(i), { channels: 2, bits: 24 })],
    ['tin', wavFile(22_050, drum(900, { level: 0.3, ring: 2 }))],
  ]);
  const layer = (upTo: number, sample: string): OwnLayer => ({ upTo, takes: [{ sample, name: sample, level: 0 }] });
  const snare: OwnSound = { id: 'own-snare', name: 'Plank', voice: 'snare', kit: 'k', layers: [layer(60, 'soft'), layer(127, 'hard')] };
  const tin: OwnSound = { id: 'tin', name: 'Tin', voice: 'cowbell', layers: [layer(127, 'tin')], cut: true };
  const sounds = ownSoundsOf([snare, tin]);
  const options = { ...dry, volume: 1, limited: false, sounds, strokes: strokeSource(RATE, (id) => files.get(id)!) } as const;
  const once = (velocity: number, change: Partial<Part> = {}): Part => ({
    ...smallPart([['snare', 0, velocity]]),
    mix: { room: 0 },
    ...change,
  });
  const levelOf = (part: Part): number => strokeLevel(renderPart(part, options).left, RATE);

  test('a kit of one’s own plays the voices that it has, others are played by the built-in kit; layers by velocity, two sides kept', () => {
    const ownKit = { id: 'k', name: 'Shed' };
    const hard = renderPart(once(110, { ownKit }), options);
    expect(hard.left).not.toEqual(hard.right);
    expect(renderPart(once(40, { ownKit }), options).left).toEqual(renderPart(once(40, { ownKit }), options).right);
    const kick = smallPart([['kick', 0, 100]], { mix: { room: 0 } });
    expect(renderPart({ ...kick, ownKit }, options).left).toEqual(renderPart(kick, options).left);
    expect(sourceOfRow({ ...once(90), ownKit }, 'snare', sounds).own).toBe(snare);
  });

  test('whatever plays a row, it is as loud as the kit’s own, and answers at 60 % to velocity', () => {
    const played = (plays: RowPlays, velocity = 100): Part => ({
      ...once(velocity),
      rows: once(velocity).rows.map((r) => ({ ...r, plays })),
    });
    const kit = levelOf(once(100));
    for (const plays of [{ kit: 'Beacon' }, { kit: 'Sailcloth' }, { own: 'tin', name: 'Tin' }] as const)
      expect(Math.abs(levelOf(played(plays)) - kit)).toBeLessThan(1);
    const own = { own: 'tin', name: 'Tin' };
    expect(levelOf(played(own, 100)) - levelOf(played(own, 50))).toBeCloseTo(30 * 0.6 * Math.log10(2), 0);
  });

  test('one that is not here is named, and the kit plays', () => {
    const part = { ...once(100), rows: once(100).rows.map((r) => ({ ...r, plays: { own: 'gone', name: 'Gone' } })) };
    const { left, account } = renderPart(part, options);
    expect(account.missing).toEqual([{ row: 'snare', name: 'Gone' }]);
    expect(left).toEqual(renderPart(once(100), options).left);
  });

  test('a stroke may end the one before, and rows of a group end each other', () => {
    const tail = (part: Part): number => energy(renderPart(part, { ...options, ending: 'fold' }).left.slice(0.3 * RATE, 0.45 * RATE));
    const rings = (cut: boolean, group: number): number => {
      const part = smallPart(
        [
          ['cowbell', 0, 127],
          [cut ? 'cowbell' : 'rim', 0.5, 1],
        ],
        { mix: { room: 0 } },
      );
      return tail({
        ...part,
        rows: part.rows.map((r) => ({
          ...r,
          ...(r.voice === 'cowbell' ? { plays: { own: 'tin', name: 'Tin' } } : {}),
          ...(group ? { sound: { group } } : {}),
        })),
      });
    };
    const free = rings(false, 0);
    expect(10 * Math.log10(rings(true, 0) / free)).toBeLessThan(-25);
    expect(10 * Math.log10(rings(false, 3) / free)).toBeLessThan(-25);
  });
});
