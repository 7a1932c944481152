import { randomStream } from '@/core/random';

/** Drums made plainly, others for each seed: what is learnt shall hold for drums that are not ours. */

const RATE = 44_100;
/** A sound ends after so many of its decays, at -43 dB. */
const ENDS = 5;

/** One drum, by how hard it is struck (0 to 1): its sound, of which no two are quite alike. */
export type PlainDrum = (force: number) => Float32Array;

type Between = (low: number, high: number) => number;

/** An envelope that falls to 1/e in so many seconds. */
const made = (decay: number, at: (t: number, i: number) => number, attack = 0.0005): Float32Array =>
  Float32Array.from(
    { length: Math.ceil(decay * ENDS * RATE) },
    (_, i) => Math.min(1, i / (attack * RATE)) * Math.exp(-i / (decay * RATE)) * at(i / RATE, i),
  );

const sum = (...sounds: readonly Float32Array[]): Float32Array => {
  const longest = new Float32Array(Math.max(...sounds.map((s) => s.length)));
  for (const sound of sounds) sound.forEach((x, i) => (longest[i] = (longest[i] as number) + x));
  return longest;
};

const pole = (hz: number): number => 1 - Math.exp((-2 * Math.PI * Math.min(hz, 20_000)) / RATE);

function under(hz: number, sound: Float32Array): Float32Array {
  const a = pole(hz);
  let y = 0;
  return sound.map((x) => (y += a * (x - y)));
}

const over = (hz: number, sound: Float32Array): Float32Array => {
  const low = under(hz, sound);
  return sound.map((x, i) => x - (low[i] as number));
};

const scaled = (gain: number, sound: Float32Array): Float32Array => sound.map((x) => x * gain);

/** A set of drums by voice. A voice that is none of the others' kind rings as a piece of wood or metal. */
export function plainDrums(seed: number): (voice: string) => PlainDrum {
  const random = randomStream(seed);
  const between: Between = (low, high) => low * (high / low) ** random();
  const noise = (): number => random() * 2 - 1;
  const known = new Map<string, PlainDrum>();
  return (voice) => {
    let drum = known.get(voice);
    if (!drum) known.set(voice, (drum = makerOf(voice)(between, noise)));
    return drum;
  };
}

type Maker = (between: Between, noise: () => number) => PlainDrum;

function makerOf(voice: string): Maker {
  if (voice === 'kick') return kick;
  if (voice.startsWith('snare')) return snare;
  if (voice.startsWith('hat')) return hat(voice === 'hat-open' ? [0.06, 0.3] : [0.008, 0.035]);
  if (voice.startsWith('tom') || voice.startsWith('conga') || voice.startsWith('bongo'))
    return skin(voice.startsWith('tom') ? [75, 240] : [180, 480]);
  if (voice === 'ride' || voice === 'crash' || voice === 'splash') return plate;
  return voice === 'clap' || voice === 'tambourine' || voice === 'shaker' ? rattle : block;
}

const kick: Maker = (between, noise) => {
  const [low, times, falls, decay, click, bright] = [
    between(42, 72),
    between(2, 6),
    between(0.006, 0.035),
    between(0.05, 0.2),
    between(0.03, 0.4),
    between(1500, 9000),
  ];
  return (force) => {
    let phase = 0;
    const body = made(
      decay,
      (t) => Math.sin((phase += (2 * Math.PI * low * (1 + (times - 1) * force * Math.exp(-t / falls))) / RATE)),
      0.001,
    );
    return sum(body, scaled(click * force, under(bright, made(0.004, noise))));
  };
};

const snare: Maker = (between, noise) => {
  const [hz, body, wires, rings, rattles, low, high] = [
    between(150, 270),
    between(0.25, 1),
    between(0.3, 1),
    between(0.03, 0.1),
    between(0.03, 0.12),
    between(400, 2000),
    between(5000, 16_000),
  ];
  return (force) =>
    sum(
      scaled(
        body,
        made(rings, (t) => Math.sin(2 * Math.PI * hz * t) + 0.5 * Math.sin(2 * Math.PI * hz * 1.6 * t)),
      ),
      scaled(wires, under(high * (0.4 + 0.6 * force), over(low, made(rattles, noise)))),
    );
};

const hat =
  ([short, long]: readonly [number, number]): Maker =>
  (between, noise) => {
    const [decay, low, metal, base] = [between(short, long), between(4500, 9500), between(0.05, 1), between(300, 900)];
    return (force) => {
      const tones = made(
        decay,
        (t) => [1, 1.34, 1.8, 2.43, 2.77, 3.9].reduce((all, ratio) => all + Math.sign(Math.sin(2 * Math.PI * base * ratio * t)), 0) / 6,
      );
      return under(
        9000 + 9000 * force,
        over(low, over(low, over(low, sum(made(decay * (0.7 + 0.3 * force), noise), scaled(metal, tones))))),
      );
    };
  };

const skin =
  ([lowest, highest]: readonly [number, number]): Maker =>
  (between, noise) => {
    const [hz, decay, bends, slap] = [between(lowest, highest), between(0.06, 0.25), between(1.01, 1.4), between(0.03, 0.3)];
    return (force) => {
      let phase = 0;
      const body = made(decay, (t) => {
        phase += (2 * Math.PI * hz * (1 + (bends - 1) * force * Math.exp(-t / 0.04))) / RATE;
        return Math.sin(phase) + 0.4 * Math.exp(-t / 0.04) * Math.sin(phase * 1.59);
      });
      return sum(body, scaled(slap * force, under(5000, made(0.008, noise))));
    };
  };

const plate: Maker = (between, noise) => {
  const [decay, wash, low] = [between(0.15, 0.5), between(0.1, 1.2), between(1500, 5000)];
  const modes = Array.from({ length: 12 }, () => between(400, 14_000));
  return (force) =>
    sum(
      made(decay, (t) => modes.reduce((all, hz) => all + Math.sin(2 * Math.PI * hz * t + hz), 0) / 4),
      scaled(wash * force, over(low, made(decay * 0.6, noise, 0.01))),
    );
};

const rattle: Maker = (between, noise) => {
  const [low, high, decay, attack] = [between(700, 6000), between(3000, 14_000), between(0.02, 0.12), between(0.0005, 0.012)];
  return () => under(high, over(low, over(low, made(decay, noise, attack))));
};

const block: Maker = (between) => {
  const [hz, other, decay] = [between(450, 2500), between(1.3, 2.7), between(0.01, 0.12)];
  return () => made(decay, (t) => Math.sin(2 * Math.PI * hz * t) + 0.6 * Math.sin(2 * Math.PI * hz * other * t));
};
