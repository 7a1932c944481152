import type { StrokeKind } from '../model/break';
import { clamp } from '../units';
import { printOf } from './alike';
import { Looker, type Look, type StrokeNeighbours } from './look';
import { packPrint } from './print';
import { guessSounds, SOUND_KINDS, type SoundGuess, type SoundKind } from './stroke-net';

/** A sound that was struck, perhaps together with others. */
export interface StruckSound {
  sound: SoundKind;
  /** 0 to 1. */
  sure: number;
  /** Amplitude of its own sound. */
  level: number;
  /** After the moment at which the stroke was found, in seconds; below 0 before it. */
  late: number;
}

/** What a stroke most likely is. */
export interface StrokeGuess {
  voice: StrokeKind;
  /** How likely it is that all of this is right, 0.25 to 0.99. */
  sure: number;
  /** What is struck together with it; of several what is surest. */
  also?: StrokeKind;
  /** All that is struck, that one first. */
  struck: readonly [StruckSound, ...StruckSound[]];
  /** How it sounds, to find others like it ({@link unpackPrint}). */
  print: string;
}

/** Likelier than not: it was struck. */
const LIKELY = 0.5;
/** From this probability on, a drum's own timing counts in full. */
const TELLS_TIME = 0.9;
/** Strokes of one moment are so far apart at most, in seconds. */
const EARLIEST = -0.013;
const LATEST = 0.022;
/**
 * So loud are strokes of our kits at 127 to begin with, in dB: what stands out against this is struck harder. A snare is let off 4 dB: a
 * backbeat gives its name to a stroke with a kick under it.
 */
const USUALLY: Readonly<Record<SoundKind, number>> = { kick: -8, snare: -18.5, hat: -22, skin: -14.5, bright: -21 };
const LEAST_SURE = 0.25;
/** 1 is for what the hand said. */
const MOST_SURE = 0.99;

/**
 * Names the drums struck at moments of a sound. Moments of one loop inform each other.
 * @param plain whether each is surely a stroke: others say nothing of the loop @param onEach told of each, by its index
 */
export function guessStrokes(
  mono: Float32Array,
  rate: number,
  places: readonly StrokeNeighbours[],
  { plain = places.map(() => true), onEach }: { plain?: readonly boolean[]; onEach?: (i: number) => void } = {},
): StrokeGuess[] {
  const looker = new Looker(mono, rate);
  const looks = places.map((place, i) => {
    onEach?.(i);
    return looker.look(place);
  });
  return guessSounds(looks, plain).map((sounds, i) => {
    const look = looks[i] as Look;
    return { ...guessOf(sounds, look.total), print: packPrint(printOf(look), sounds, look.total) };
  });
}

function guessOf(sounds: readonly SoundGuess[], total: number): Omit<StrokeGuess, 'print'> {
  const likeliest = sounds.reduce((best, s) => (s.likely > best.likely ? s : best));
  const [first, ...others] = sounds.filter((s) => s === likeliest || s.likely > LIKELY).sort((a, b) => weight(b) - weight(a)) as [
    SoundGuess,
    ...SoundGuess[],
  ];
  const struckOf = ({ sound, likely, loud, late }: SoundGuess): StruckSound => ({
    sound,
    sure: likely,
    level: 10 ** ((total + loud) / 20),
    // The timing of an uncertain drum is uncertain too.
    late: others.length > 0 ? clamp(late, EARLIEST, LATEST) * clamp((likely - LIKELY) / (TELLS_TIME - LIKELY), 0, 1) : 0,
  });
  const voice = SOUND_KINDS[first.sound];
  const surest = others
    .filter((s) => SOUND_KINDS[s.sound] !== voice)
    .reduce<SoundGuess | null>((best, s) => (best && best.likely >= s.likely ? best : s), null);
  const also = surest && SOUND_KINDS[surest.sound];
  return {
    voice,
    sure: clamp(sureOfAll(sounds, [first, ...others]), LEAST_SURE, MOST_SURE),
    ...(also ? { also } : {}),
    struck: [struckOf(first), ...others.map(struckOf)],
  };
}

/** How likely it is that just these are struck. */
const sureOfAll = (sounds: readonly SoundGuess[], named: readonly SoundGuess[]): number =>
  sounds.reduce((all, s) => all * (named.includes(s) ? s.likely : 1 - s.likely), 1);

/** What gives a stroke its name: of drums the one that is struck hardest; a hat where there is no drum. */
const weight = ({ sound, loud }: SoundGuess): number => (sound === 'hat' ? -Infinity : loud - USUALLY[sound]);

/** Where strokes are, each among the others. @param length of the sound, in seconds */
export const placesOf = (moments: readonly number[], length: number): StrokeNeighbours[] =>
  moments.map((at, i) => ({ at, previous: moments[i - 1] ?? -1, next: moments[i + 1] ?? Math.max(length, at) }));
