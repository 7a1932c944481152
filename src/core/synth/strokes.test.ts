import { bandPower, centroidOf, spectrumOf, thirdOctaves } from '@tests/support/spectrum';
import { strokeLevel } from '../loudness/k-weighting';
import { VOICES, type VoiceName } from '../voices';
import { ALTERNATES, amplitudeOf, classOf, velocityOf } from './classes';
import { KIT_NAMES, type KitName } from '../model/sound';
import { strokeOf } from './kits/all';

/** What strokes of every kit and voice must measure. */

const RATE = 44_100;
const WHOLE = 9;
/** Long enough for levels, centroids and bands. */
const SHORT = 0.55;

const known = new Map<string, Float32Array>();
/** A stroke at the velocity of its class. */
function stroke(kit: KitName, voice: VoiceName, velocity: number, alternate = 0, seconds = SHORT): Float32Array {
  const name = `${kit} ${voice} ${classOf(velocity)} ${alternate} ${seconds}`;
  let found = known.get(name);
  if (!found) known.set(name, (found = strokeOf(kit, voice, classOf(velocity), alternate, RATE, seconds).samples));
  return found;
}
const centroid = (samples: Float32Array): number => centroidOf(spectrumOf(samples, RATE, { to: 0.1 }));
const isMetal = (voice: VoiceName): boolean => /^(hat|ride|crash|splash|china)/.test(voice);
const isDrum = (voice: VoiceName): boolean => /^(kick|snare|rim|clap)/.test(voice);
const isTomOrHand = (voice: VoiceName): boolean => /^(tom|bongo|conga|timbale)/.test(voice);

/** All of a kit's voices that break a rule, with what was measured. */
const breaking = (measure: (voice: VoiceName) => string | null | undefined | false): string[] => VOICES.map((v) => [v, measure(v)] as const).flatMap(([v, said]) => (said ? [`${v}: ${said}`] : []));

describe.each(KIT_NAMES)('%s', (kit) => {
  test('loudness follows the law of the velocity', () => {
    expect(
      breaking((voice) => {
        const off = [20, 64, 127].map((v) => velocityOf(classOf(v))).map((v) => strokeLevel(stroke(kit, voice, v), RATE) - strokeLevel(stroke(kit, voice, 100), RATE) - 20 * Math.log10(amplitudeOf(v) / amplitudeOf(velocityOf(classOf(100)))));
        return off.some((d) => Math.abs(d) > 0.5) && off.map((d) => d.toFixed(2)).join(' ');
      }),
    ).toEqual([]);
  });

  test('it gets brighter at each step, by half and more for drums, by a fifth for toms and hand drums, by 70 % for cymbals', () => {
    expect(
      breaking((voice) => {
        const steps = Array.from({ length: 16 }, (_, c) => centroid(stroke(kit, voice, velocityOf(c), 0, 0.112)));
        const ratio = (steps[14] as number) / (steps[2] as number);
        const wanted = isMetal(voice) ? 1.7 : isTomOrHand(voice) ? 1.2 : isDrum(voice) ? 1.5 : 1;
        const falls = steps.findIndex((c, i) => i > 0 && c <= (steps[i - 1] as number));
        return (ratio < wanted || falls > 0) && `ratio ${ratio.toFixed(2)} of ${wanted}${falls > 0 ? `, falls at class ${falls}: ${steps.map((s) => Math.round(s)).join(' ')}` : ''}`;
      }),
    ).toEqual([]);
  });

  test('a snare’s body and wires keep their balance', () => {
    const balance = (velocity: number): number => {
      const s = spectrumOf(stroke(kit, 'snare', velocity), RATE);
      return 10 * Math.log10(bandPower(s, 20, 500) / bandPower(s, 1500, 20_000));
    };
    expect(Math.abs(balance(20) - balance(120))).toBeLessThan(4);
  });

  test('takes differ, and are the same instrument', () => {
    expect(
      breaking((voice) => {
        const takes = Array.from({ length: ALTERNATES }, (_, a) => stroke(kit, voice, 100, a));
        const highs = takes.map((s) => highPassed(s));
        const pairs = [[0, 1], [0, 2], [1, 2]] as const;
        const alike = pairs.map(([a, b]) => Math.min(correlation(takes[a]!, takes[b]!), correlation(highs[a]!, highs[b]!)));
        const centres = takes.map(centroid);
        const spread = Math.max(...centres) / Math.min(...centres) - 1;
        return (alike.some((c) => c >= 0.95) || spread > 0.1) && `correlations ${alike.map((c) => c.toFixed(3)).join(' ')}, centroids ${(spread * 100).toFixed(1)} % apart`;
      }),
    ).toEqual([]);
  });

  test('a stroke begins from nothing, has no offset, ends in silence; a soft one rings shorter', () => {
    expect(
      breaking((voice) => {
        const hard = stroke(kit, voice, 120, 0, WHOLE);
        const soft = stroke(kit, voice, 20, 0, WHOLE);
        const full = Math.max(...blocks(stroke(kit, voice, 127, 0, WHOLE)));
        const peak = hard.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
        const offset = Math.abs(hard.reduce((sum, x) => sum + x, 0) / hard.length) / peak;
        const powers = blocks(hard);
        // The last block before the fade.
        const tail = 10 * Math.log10(powers[powers.length - 14]! / Math.max(...powers));
        const faults = [
          Math.abs(hard[0]!) > 0.1 * peak && 'starts with a step',
          offset > 0.01 && `offset ${offset.toFixed(3)}`,
          tail > -60 && `cut at ${tail.toFixed(0)} dB`,
          ringOf(soft, full) >= ringOf(hard, full) && `rings ${ringOf(soft, full)} ms soft, ${ringOf(hard, full)} ms hard`,
          peak > 1.5 && `peak ${peak.toFixed(2)}`,
          !hard.every(Number.isFinite) && 'not finite',
        ].filter(Boolean);
        return faults.join(', ');
      }),
    ).toEqual([]);
  });

  test.each(['ride', 'crash'])('the %s has a hundred and fifty lines, and its highs come after the stroke', (voice) => {
    const samples = stroke(kit, voice, 120, 0, 0.8);
    expect(linesOf(samples)).toBeGreaterThanOrEqual(150);
    const [low, high] = [halfTime(samples, 300, 1200), halfTime(samples, 5000, 12_000)];
    expect(high).toBeGreaterThan(low);
  });

  test('no two voices sound alike', () => {
    const bands = VOICES.map((voice) => {
      const takes = Array.from({ length: ALTERNATES }, (_, a) => thirdOctaves(spectrumOf(stroke(kit, voice, 100, a), RATE, { to: 0.5 })));
      return takes[0]!.map((_, i) => takes.reduce((sum, t) => sum + t[i]!, 0) / ALTERNATES);
    });
    const alike: string[] = [];
    VOICES.forEach((a, i) =>
      VOICES.slice(i + 1).forEach((b, j) => {
        const d = difference(bands[i]!, bands[i + 1 + j]!);
        if (d < 3) alike.push(`${a} ~ ${b} ${d.toFixed(1)}`);
      }),
    );
    expect(alike).toEqual([]);
  });
});

test('the same wish gives the same samples; another class, take or kit gives others', () => {
  const same = (a: Float32Array, b: Float32Array): boolean => a.length === b.length && a.every((x, i) => x === b[i]);
  const one = strokeOf('Wheelhouse', 'snare', 10, 1, RATE).samples;
  expect(same(one, strokeOf('Wheelhouse', 'snare', 10, 1, RATE).samples)).toBe(true);
  for (const other of [strokeOf('Wheelhouse', 'snare', 11, 1, RATE), strokeOf('Wheelhouse', 'snare', 10, 2, RATE), strokeOf('Dry Dock', 'snare', 10, 1, RATE)]) expect(same(one, other.samples)).toBe(false);
});

test('a key without a name and a row of one’s own sound, too; keys differ', () => {
  const level = (voice: VoiceName): number => strokeLevel(strokeOf('Beacon', voice, 15, 0, RATE).samples, RATE);
  expect(level('own:x')).toBeGreaterThan(-30);
  expect(centroid(strokeOf('Beacon', 'key-20', 15, 0, RATE).samples)).not.toBeCloseTo(centroid(strokeOf('Beacon', 'key-21', 15, 0, RATE).samples), 0);
});

/** Powers of milliseconds. */
function blocks(samples: Float32Array): number[] {
  const size = RATE / 1000;
  const powers = new Array<number>(Math.ceil(samples.length / size)).fill(0);
  samples.forEach((x, i) => (powers[Math.floor(i / size)]! += x * x));
  return powers;
}

/** Milliseconds until the level stays 60 dB under the loudest millisecond. */
function ringOf(samples: Float32Array, full: number): number {
  const powers = blocks(samples);
  let last = powers.length - 1;
  while (last > 0 && powers[last]! < full * 1e-6) last--;
  return last;
}

function highPassed(samples: Float32Array): Float32Array {
  const a = 1 - Math.exp((-2 * Math.PI * 400) / RATE);
  let [one, two] = [0, 0];
  return samples.map((x) => {
    one += (x - one) * a;
    const y = x - one;
    two += (y - two) * a;
    return y - two;
  });
}

function correlation(a: Float32Array, b: Float32Array): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < RATE / 2; i++) {
    const [x, y] = [a[i] ?? 0, b[i] ?? 0];
    ab += x * y;
    aa += x * x;
    bb += y * y;
  }
  return ab / Math.sqrt(aa * bb);
}

/** Spectral lines between 0.2 and 8 kHz, within 40 dB of the highest and 13 dB over the median around. */
function linesOf(samples: Float32Array): number {
  const { powers, step } = spectrumOf(samples, RATE, { from: 0.02, to: 0.72, window: true });
  const [from, to] = [Math.round(200 / step), Math.round(8000 / step)];
  const highest = powers.slice(from, to).reduce((m, p) => Math.max(m, p), 0);
  const around = Math.round(100 / step);
  let lines = 0;
  for (let k = from; k < to; k++) {
    const p = powers[k]!;
    if (p < highest * 1e-4 || p <= powers[k - 1]! || p < powers[k + 1]!) continue;
    const near = [...powers.slice(Math.max(0, k - around), k + around)].sort((a, b) => a - b);
    if (p > near[near.length >> 1]! * 20) lines++;
  }
  return lines;
}

/** When half of the first 100 ms of a band has come, in ms. */
function halfTime(samples: Float32Array, low: number, high: number): number {
  const powers = Array.from({ length: 20 }, (_, i) => bandPower(spectrumOf(samples, RATE, { from: i * 0.005, to: (i + 1) * 0.005, window: true }), low, high));
  const all = powers.reduce((a, b) => a + b, 0);
  let sum = 0;
  return powers.findIndex((p) => (sum += p) >= all / 2);
}

/** Rms of the differences over the bands that are heard in either: within 40 dB of its loudest. */
function difference(a: readonly number[], b: readonly number[]): number {
  const [topA, topB] = [Math.max(...a), Math.max(...b)];
  const heard = a.map((_, i) => i).filter((i) => a[i]! > topA - 40 || b[i]! > topB - 40);
  return Math.sqrt(heard.reduce((sum, i) => sum + (Math.max(a[i]!, topA - 60) - Math.max(b[i]!, topB - 60)) ** 2, 0) / heard.length);
}
