import fc from 'fast-check';
import { drum, wavFile } from '@tests/support/sound-files';
import { readWav } from '../audio/read-wav';
import { isNamedError } from '../errors';
import { strokeLevel } from '../loudness/k-weighting';
import { amplitudeOf } from '../synth/classes';
import { HEADROOM_DB } from '../synth/stroke';
import { beginningOf, measure } from './recording';
import { strokeOfRecording } from './stroke-of-recording';

const codeOf = (work: () => unknown): string => {
  try {
    work();
    return 'none';
  } catch (e) {
    return isNamedError(e) ? e.code : String(e);
  }
};

describe('reading WAV', () => {
  test.each([
    [{ bits: 8 }, 0.02],
    [{ bits: 16 }, 1e-4],
    [{ bits: 24 }, 1e-6],
    [{ bits: 32 }, 1e-6],
    [{ bits: '32f' }, 1e-7],
    [{ bits: 24, channels: 6 }, 1e-6],
    [{ bits: 16, rate: 192_000 }, 1e-4],
    [{ bits: 24, extensible: true, channels: 2 }, 1e-6],
    [{ bits: 16, before: Uint8Array.of(0x62, 0x65, 0x78, 0x74, 3, 0, 0, 0, 1, 2, 3, 0) }, 1e-4],
  ] as const)('%j: every sample as it was', (shape, most) => {
    const value = (i: number, c: number): number => Math.sin(i / 7 + c) * 0.9;
    const { channels, rate, channelsInFile, cutOff } = readWav(wavFile(200, value, shape));
    expect([rate, channelsInFile, channels.length, cutOff]).toEqual([
      'rate' in shape ? shape.rate : 44_100,
      'channels' in shape ? shape.channels : 1,
      Math.min(2, 'channels' in shape ? shape.channels : 1),
      false,
    ]);
    channels.forEach((channel, c) => channel.forEach((x, i) => expect(Math.abs(x - value(i, c))).toBeLessThan(most)));
  });

  test('a file that ends early gives what it has, and says so', () => {
    const { channels, cutOff } = readWav(wavFile(200, () => 0.5, { cut: 100 }));
    expect([channels[0]!.length, cutOff]).toEqual([150, true]);
  });

  test('what is no sound is refused by name', () => {
    expect(codeOf(() => readWav(new TextEncoder().encode('hello')))).toBe('bad-sound');
    expect(codeOf(() => readWav(wavFile(0, () => 0)))).toBe('bad-sound');
    expect(codeOf(() => readWav(wavFile(20, () => 0).slice(0, 30)))).toBe('bad-sound');
    expect(codeOf(() => readWav(wavFile(20, () => 0, { rate: 0 })))).toBe('bad-sound');
    expect(codeOf(() => readWav(wavFile(8000 * 61, () => 0, { rate: 8000, bits: 8 })))).toBe('sound-too-long');
    expect(codeOf(() => measure(readWav(wavFile(500, () => 0))))).toBe('silent-sound');
  });

  test('any bytes behind a header end in a recording or a named error', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 0, maxLength: 80 }), fc.nat(60), (noise, at) => {
        const file = wavFile(12, () => 0.1, { bits: 24 });
        file.set(noise.subarray(0, Math.max(0, file.length - at)), Math.min(at, file.length));
        expect(['none', 'bad-sound', 'sound-too-long']).toContain(codeOf(() => readWav(file)));
      }),
    );
  });
});

test('silence before a recording is left out', () => {
  const recording = readWav(wavFile(22_050, drum(180, { lead: 0.1 })));
  expect(Math.abs(beginningOf(recording) / 44_100 - 0.0993)).toBeLessThan(0.0004);
  expect(measure(recording).lead).toBeCloseTo(0.0993, 3);
});

describe('a stroke of a recording', () => {
  const level = (samples: Float32Array, rate: number): number => strokeLevel(samples, rate) - HEADROOM_DB;
  test.each([[127], [64], [20]])('is as loud as the law says at velocity %i, whatever the file is', (at) => {
    for (const [hz, loud, shape] of [
      [60, 0.9, {}],
      [180, 0.05, { bits: 24 }],
      [900, 0.4, { rate: 96_000 }],
      [3000, 0.2, { rate: 22_050 }],
    ] as const) {
      const rate = 'rate' in shape ? shape.rate : 44_100;
      const recording = readWav(wavFile(rate / 2, drum(hz, { level: loud, rate }), shape));
      for (const to of [44_100, 48_000])
        expect(Math.abs(level(strokeOfRecording(recording, at, to).samples, to) - 20 * Math.log10(amplitudeOf(at)))).toBeLessThan(0.2);
    }
  });

  test('keeps its pitch at another rate, begins and ends without a step', () => {
    const { samples } = strokeOfRecording(readWav(wavFile(48_000, drum(500, { rate: 48_000, ring: 5 }), { rate: 48_000 })), 127, 44_100);
    let crossings = 0;
    for (let i = 441; i < 44_100 - 441; i++) if (samples[i]! < 0 !== samples[i + 1]! < 0) crossings++;
    expect(Math.abs(crossings / 2 / 0.98 - 500)).toBeLessThan(2);
    const peak = samples.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
    expect(Math.abs(samples[0]!)).toBe(0);
    expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.01 * peak);
  });

  test('two sides stay two, unless they are alike', () => {
    const wide = strokeOfRecording(readWav(wavFile(4410, (i, c) => drum(c ? 300 : 200)(i), { channels: 2 })), 100, 44_100);
    expect(wide.right).toBeDefined();
    expect(wide.right).not.toEqual(wide.samples);
    expect(strokeOfRecording(readWav(wavFile(4410, drum(200), { channels: 2 })), 100, 44_100).right).toBeUndefined();
  });
});
