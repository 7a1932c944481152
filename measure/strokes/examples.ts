import { Looker, type Look } from '@/core/onsets/look';
import { findPeaks } from '@/core/onsets/onsets';
import { DB_OF_LOUD, firstValues, SECONDS_OF_LATE, SOUNDS } from '@/core/onsets/stroke-net';
import { randomStream } from '@/core/random';
import { beatOf } from './beats';
import { drumSets, FONT, OURS, RATE, type Origin } from './drum-sets';
import { throughEffects } from './loop-effects';
import { mixed, type MixedStroke } from './mix';
import type { SoundFont } from './soundfont';

/** The drums struck at a moment, by kind, in the net's units; null for kinds that were not struck. */
export type Truth = readonly ({ loud: number; late: number; velocity: number } | null)[];

/** The net's input for a possible stroke, and the truth. */
export interface Example {
  /** FIRST_SIZE numbers. */
  values: Float32Array;
  /** New power by bands, in dB. */
  fresh: Float32Array;
  /** Surely a stroke; others are learnt from now and then. */
  plain: boolean;
  truth: Truth;
}

/** All moments of a loop. */
export interface LoopExamples {
  seed: number;
  /** Whose drums play in it. */
  origins: readonly Origin[];
  examples: readonly Example[];
  /** How many strokes were played, and found. */
  played: number;
  found: number;
}

/** Strokes so long before and after a moment that was found are struck there, in seconds. */
const EARLY = 0.013;
const LATE = 0.022;
/** What might be a stroke and is far from any plain one is learnt from now and then. */
const APART = 0.03;
const MAYBE = 0.25;
/** Share of loops played on one set. The others mix sets by voice, most of them from one side only. */
const ONE_SET = 0.5;
const ONE_SIDE = 0.6;
/** Share of the untreated loops that use our own kits, so that breaks made with them are named best. */
const OURS_NATURAL = 0.7;
/** So few strokes are all of some loops; single strokes are listened to as well. */
const SHORT = { share: 0.06, natural: 0.35, most: 6 } as const;

/**
 * The examples of a loop; the seed decides everything.
 * @param whole no loop is cut to a few strokes @param natural drums and levels as their sets have them, and nothing happens to the loop
 * @returns `only` is the set that plays it all
 */
export function loopMaker(
  font: SoundFont | null,
  { bars = 2, natural = false, whole = false } = {},
): (seed: number, only?: Origin) => LoopExamples | null {
  const setOf = drumSets(font);
  return (seed, only) => {
    const random = randomStream(seed * 31 + 7);
    const beat = beatOf(seed, bars);
    const part =
      !whole && random() < (natural ? SHORT.natural : SHORT.share)
        ? { ...beat, hits: beat.hits.slice(0, 1 + Math.floor(random() * SHORT.most)) }
        : beat;
    if (part.hits.length === 0) return null;
    const side = random() < (natural ? OURS_NATURAL : 0.5) ? OURS : FONT;
    const choice = natural || random() < ONE_SIDE ? side : [...OURS, ...FONT];
    const pick = (): Origin => choice[Math.floor(random() * choice.length)] as Origin;
    const main = only ?? pick();
    const isOne = only !== undefined || natural || random() < ONE_SET;
    const used = new Set<Origin>();
    const { sound, strokes } = mixed(
      part,
      (voice) => {
        const origin = isOne ? main : pick();
        used.add(origin);
        // A kit of one origin is one set; each voice of a mix is of any.
        return setOf(origin, isOne ? seed : seed * 17 + voice.length * 5 + voice.charCodeAt(voice.length - 1));
      },
      random,
      natural,
    );
    const heard = natural ? sound : throughEffects(sound, random);
    return { seed, origins: [...used], ...looksAt(heard, strokes, random) };
  };
}

function looksAt(
  sound: Float32Array,
  strokes: readonly MixedStroke[],
  random: () => number,
): Pick<LoopExamples, 'examples' | 'played' | 'found'> {
  const peaks = findPeaks(sound, RATE).list.map((p) => ({ at: p.seconds as number, plain: p.over >= 1 }));
  const plain = peaks.filter((p) => p.plain).map((p) => p.at);
  const looker = new Looker(sound, RATE);
  const moments = peaks.flatMap(({ at, plain: isPlain }) => {
    if (!isPlain && (random() > MAYBE || plain.some((p) => Math.abs(p - at) < APART))) return [];
    const previous = plain.findLast((p) => p < at) ?? -1;
    const next = plain.find((p) => p > at) ?? sound.length / RATE;
    const struck = strokes.filter((s) => s.at > at - EARLY && s.at < at + LATE && s.at < (at + next) / 2 && s.at > (at + previous) / 2);
    const look = looker.look({ at, previous, next });
    const truth = SOUNDS.map((kind) => {
      const own = struck.filter((s) => s.sound === kind).sort((a, b) => b.level - a.level)[0];
      return own ? { loud: (own.level - look.total) / DB_OF_LOUD, late: (own.at - at) / SECONDS_OF_LATE, velocity: own.velocity } : null;
    });
    return [{ look, plain: isPlain, truth, count: struck.length }];
  });
  const values = firstValues(
    moments.map((m) => m.look),
    moments.map((m) => m.plain),
  );
  return {
    examples: moments.map(({ look, plain: isPlain, truth }, i) => ({
      values: Float32Array.from(values[i] as Float64Array),
      fresh: Float32Array.from((look as Look).fresh),
      plain: isPlain,
      truth,
    })),
    played: strokes.length,
    found: moments.reduce((sum, m) => sum + (m.plain ? m.count : 0), 0),
  };
}
