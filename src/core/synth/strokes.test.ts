import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { buildSync } from 'esbuild';
import type { KitFigures, VoiceFigures } from '@tests/support/stroke-figures';
import { strokeLevel } from '../loudness/k-weighting';
import { KIT_NAMES, type KitName } from '../model/sound';
import type { VoiceName } from '../row-names';
import { amplitudeOf } from './classes';
import { strokeOf } from './kits/all';

/** What strokes of every kit and voice must measure. */

const RATE = 44_100;
const VELOCITIES = [24, 64, 104, 127];
const PROGRAM = join(process.cwd(), 'test-results', 'stroke-figures.cjs');
const figures = new Map<KitName, KitFigures>();

beforeAll(async () => {
  buildSync({
    entryPoints: ['tests/support/stroke-figures.ts'],
    outfile: PROGRAM,
    bundle: true,
    platform: 'node',
    format: 'cjs',
    alias: { '@': './src' },
    logLevel: 'error',
  });
  const run = promisify(execFile);
  await Promise.all(
    KIT_NAMES.map(async (kit) =>
      figures.set(kit, JSON.parse((await run('node', [PROGRAM, kit], { maxBuffer: 2 ** 24 })).stdout) as KitFigures),
    ),
  );
});

const isMetal = (voice: VoiceName): boolean => /^(hat|ride|crash|splash|china)/.test(voice);
const isDrum = (voice: VoiceName): boolean => /^(kick|snare|rim|clap)/.test(voice);
const isTomOrHand = (voice: VoiceName): boolean => /^(tom|bongo|conga|timbale)/.test(voice);

describe.each(KIT_NAMES)('%s', (kit) => {
  const of = (): KitFigures => figures.get(kit)!;
  /** All voices that break a rule, with what was measured. */
  const breaking = (measure: (f: VoiceFigures) => string | false): string[] =>
    of().voices.flatMap((f) => {
      const said = measure(f);
      return said ? [`${f.voice}: ${said}`] : [];
    });

  test('every voice is there', () => expect(of().voices.length).toBeGreaterThan(45));

  test('loudness follows the law of the velocity', () => {
    expect(
      breaking(({ levels }) => {
        const off = levels.map((level, i) => level - levels[2]! - 20 * Math.log10(amplitudeOf(VELOCITIES[i]!) / amplitudeOf(104)));
        return off.some((d) => Math.abs(d) > 0.5) && off.map((d) => d.toFixed(2)).join(' ');
      }),
    ).toEqual([]);
  });

  test('it gets brighter at each step, by half and more for drums, by a fifth for toms and hand drums, by 70 % for cymbals', () => {
    expect(
      breaking(({ voice, centroids }) => {
        const ratio = centroids[14]! / centroids[2]!;
        const wanted = isMetal(voice) ? 1.7 : isTomOrHand(voice) ? 1.2 : isDrum(voice) ? 1.5 : 1;
        const falls = centroids.findIndex((c, i) => i > 0 && c <= centroids[i - 1]!);
        return (
          (ratio < wanted || falls > 0) &&
          `ratio ${ratio.toFixed(2)} of ${wanted}${falls > 0 ? `, falls at class ${falls}: ${centroids.map((s) => Math.round(s)).join(' ')}` : ''}`
        );
      }),
    ).toEqual([]);
  });

  test('a snare’s body and wires keep their balance', () => {
    const [soft, hard] = of().balance;
    expect(Math.abs(soft - hard)).toBeLessThan(4);
  });

  test('takes differ, and are the same instrument', () => {
    expect(
      breaking(({ takes: { correlations, centroids } }) => {
        const spread = Math.max(...centroids) / Math.min(...centroids) - 1;
        return (
          (correlations.some((c) => c >= 0.95) || spread > 0.1) &&
          `correlations ${correlations.map((c) => c.toFixed(3)).join(' ')}, centroids ${(spread * 100).toFixed(1)} % apart`
        );
      }),
    ).toEqual([]);
  });

  test('a stroke begins from nothing, has no offset, ends in silence; a soft one rings shorter', () => {
    expect(
      breaking(({ start, offset, cut, peak, finite, rings: [soft, hard] }) =>
        [
          start > 0.1 && 'starts with a step',
          offset > 0.01 && `offset ${offset.toFixed(3)}`,
          cut > -60 && `cut at ${cut.toFixed(0)} dB`,
          soft >= hard && `decay ${soft} ms soft, ${hard} ms hard`,
          peak > 1.2 && `peak ${peak.toFixed(2)}`,
          !finite && 'not finite',
        ]
          .filter(Boolean)
          .join(', '),
      ),
    ).toEqual([]);
  });

  test('ride and crash have a hundred and fifty lines, and their highs come after the stroke', () => {
    expect(of().metals.filter(({ lines, lowAt, highAt }) => lines < 150 || highAt <= lowAt)).toEqual([]);
  });

  test('no two voices sound alike', () => expect(of().near.filter((p) => p.dB < 3)).toEqual([]));
});

test('the same wish gives the same samples; another class, take or kit gives others', () => {
  const same = (a: Float32Array, b: Float32Array): boolean => a.length === b.length && a.every((x, i) => x === b[i]);
  const one = strokeOf('Wheelhouse', 'snare', 10, 1, RATE).samples;
  expect(same(one, strokeOf('Wheelhouse', 'snare', 10, 1, RATE).samples)).toBe(true);
  for (const other of [
    strokeOf('Wheelhouse', 'snare', 11, 1, RATE),
    strokeOf('Wheelhouse', 'snare', 10, 2, RATE),
    strokeOf('Dry Dock', 'snare', 10, 1, RATE),
  ])
    expect(same(one, other.samples)).toBe(false);
});

test('a key without a name and a row of one’s own sound, too; keys differ', () => {
  const level = (voice: VoiceName): number => strokeLevel(strokeOf('Beacon', voice, 15, 0, RATE).samples, RATE);
  expect(level('own:x')).toBeGreaterThan(-30);
  const same = (a: Float32Array, b: Float32Array): boolean => a.every((x, i) => x === b[i]);
  expect(same(strokeOf('Beacon', 'key-20', 15, 0, RATE).samples, strokeOf('Beacon', 'key-21', 15, 0, RATE).samples)).toBe(false);
});
