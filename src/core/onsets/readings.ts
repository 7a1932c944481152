import { seconds } from '../units';
import type { BreakReading } from '../model/break';
import type { DetectedOnset } from './onsets';

/** How a loop may be counted. */
export type LoopReading = BreakReading;

const MOST_READINGS = 3;
const SLOWEST = 55;
const FASTEST = 200;
const STEP = 0.25;
/** Where most beats are; others are less likely by the distance in octaves. */
const USUAL_BPM = 104;
const USUAL_OCTAVES = 0.8;
/** Triplets fit more than sixteenths do, which a beat of three of these takes for them: so much is taken off. */
const TRIPLET_LESS = 0.12;
/** So much a pattern that comes again after half a bar, and after a bar, speaks for a tempo. */
const REPEAT_WEIGHT = 0.3;
/** What comes again is within this, in seconds. */
const REPEAT_WITHIN = 0.03;
/**
 * A loop was cut at whole bars where its length says so to this share of a beat; of more than ten beats, to so much more as a tempo is
 * unsure.
 */
const CUT_SHARE = 0.04;
/** Tempos close by: so many steps of such a share on either side. */
const CLOSE_BY = 50;
const FINE = 1e-4;
/** People who play two bars drift by 6 ms or so: lines that part by less than twice that are the same, in seconds. */
const SAME_LINES = 0.012;
/**
 * So soon after the sound's start a first stroke leans on the bar line that the sound begins at; later ones are taken for the bar line, in
 * seconds.
 */
const LEAN = 0.02;
/** Fewer strokes tell no tempo. */
const LEAST_ONSETS = 4;

/** How well strokes fall on the lines of a period, from 0 to 1: the length of the mean of their phases. */
function onLines(onsets: readonly DetectedOnset[], period: number): number {
  let [x, y, all] = [0, 0, 0];
  for (const { seconds: at, strength } of onsets) {
    const phase = (2 * Math.PI * at) / period;
    x += strength * Math.cos(phase);
    y += strength * Math.sin(phase);
    all += strength;
  }
  return all === 0 ? 0 : Math.hypot(x, y) / all;
}

/** How alike the strokes are to those a while later, in time and strength, from 0 to 1; null where nothing comes so late. */
function repeatAfter(onsets: readonly DetectedOnset[], later: number): number | null {
  const end = (onsets.at(-1)?.seconds ?? 0) + REPEAT_WITHIN;
  let [alike, all, from] = [0, 0, 0];
  for (const { seconds: at, strength } of onsets) {
    const due = at + later;
    if (due > end) break;
    while ((onsets[from]?.seconds ?? Infinity) < due - REPEAT_WITHIN) from++;
    let best = 0;
    for (let k = from; k < onsets.length && (onsets[k] as DetectedOnset).seconds < due + REPEAT_WITHIN; k++) {
      const other = onsets[k] as DetectedOnset;
      best = Math.max(
        best,
        (Math.min(strength, other.strength) / Math.max(strength, other.strength)) * (1 - Math.abs(other.seconds - due) / REPEAT_WITHIN),
      );
    }
    alike += strength * best;
    all += strength;
  }
  return all > 0 ? alike / all : null;
}

/**
 * How much a tempo is spoken for by what comes again after half a bar and after a bar of it; a bar that nothing comes after counts as its
 * half does.
 */
function repeatOf(onsets: readonly DetectedOnset[], bpm: number): number {
  const half = repeatAfter(onsets, 120 / bpm) ?? 0;
  return half + (repeatAfter(onsets, 240 / bpm) ?? half);
}

const likely = (bpm: number): number => Math.exp(-0.5 * (Math.log2(bpm / USUAL_BPM) / USUAL_OCTAVES) ** 2);

/** Lines of sixteenths or of triplets; and that beats and their halves are stressed: how well strokes fall on those of a tempo. */
function fitOf(onsets: readonly DetectedOnset[], bpm: number): { fit: number; isTriplet: boolean } {
  const beat = 60 / bpm;
  const straight = onLines(onsets, beat / 4);
  const triplet = onLines(onsets, beat / 3);
  const isTriplet = triplet > straight + 0.1;
  return {
    fit: 0.5 * Math.max(straight, triplet - TRIPLET_LESS) + 0.2 * onLines(onsets, beat / 2) + 0.3 * onLines(onsets, beat),
    isTriplet,
  };
}

/**
 * Up to three ways to count a loop, the likeliest first, half and double among them. Nothing where there are too few strokes.
 * @param length of the sound, in seconds
 */
export function readingsOf(onsets: readonly DetectedOnset[], length: number): LoopReading[] {
  const first = onsets[0]?.seconds;
  const last = onsets.at(-1)?.seconds;
  if (first === undefined || last === undefined || onsets.length < LEAST_ONSETS) return [];
  const tempos: { bpm: number; fit: number }[] = [];
  for (let bpm = SLOWEST; bpm <= FASTEST; bpm += STEP)
    tempos.push({ bpm, fit: (fitOf(onsets, bpm).fit + REPEAT_WEIGHT * repeatOf(onsets, bpm)) * likely(bpm) });
  const peaks = tempos
    .filter(({ fit }, i) => fit >= (tempos[i - 1]?.fit ?? 0) && fit > (tempos[i + 1]?.fit ?? 0))
    .sort((a, b) => b.fit - a.fit);
  const best = peaks[0];
  if (!best) return [];
  const found: LoopReading[] = [];
  const add = (bpm: number) => {
    if (found.length >= MOST_READINGS || bpm < SLOWEST / 1.5 || bpm > FASTEST * 1.5) return;
    const reading = countedAt(onsets, wholeWhereAlike(refined(onsets, bpm), last - first), first, last, length);
    if (!found.some((r) => Math.abs(Math.log2(r.bpm / reading.bpm)) < 0.015)) found.push(reading);
  };
  add(best.bpm);
  const other = peaks.find(({ bpm, fit }) => fit > 0.8 * best.fit && Math.abs(Math.log2(bpm / best.bpm)) > 0.02);
  const octaves = best.bpm < USUAL_BPM ? [2 * best.bpm, best.bpm / 2] : [best.bpm / 2, 2 * best.bpm];
  for (const bpm of [octaves[0] as number, ...(other ? [other.bpm] : []), octaves[1] as number]) add(bpm);
  return found;
}

/** The tempo that fits best close by, however usual it is. */
function refined(onsets: readonly DetectedOnset[], bpm: number): number {
  let [best, most] = [bpm, -1];
  for (let n = -CLOSE_BY; n <= CLOSE_BY; n++) {
    const close = bpm * (1 + n * FINE);
    const { fit } = fitOf(onsets, close);
    if (fit > most) [best, most] = [close, fit];
  }
  return best;
}

/**
 * The nearest whole tempo where its lines and the others part by so little over the strokes that nothing tells which they were played to.
 */
function wholeWhereAlike(bpm: number, span: number): number {
  const whole = Math.round(bpm);
  return Math.abs(whole / bpm - 1) * span < SAME_LINES ? whole : bpm;
}

/** Whole bars up to the last stroke, or to the sound's end where it was cut there. */
function countedAt(onsets: readonly DetectedOnset[], bpm: number, first: number, last: number, length: number): LoopReading {
  const beat = 60 / bpm;
  const { isTriplet } = fitOf(onsets, bpm);
  // A loop that begins with its first stroke, or a little before it.
  const start = first < beat / 4 ? 0 : first;
  const beats = (length - start) / beat;
  const whole = Math.round(beats);
  // What is struck just before the end is the next round's first beat, early.
  const lastWithin = onsets.findLast((o) => o.seconds < length - beat / 16)?.seconds ?? last;
  const isCut = whole >= 2 && Math.abs(beats - whole) < CUT_SHARE * Math.max(1, whole / 10) && length - lastWithin < 2.5 * beat;
  if (isCut) {
    const meter = cutMeter(onsets, beat, whole, isTriplet);
    const inBar = beatsOf(meter, isTriplet);
    const bars = whole / inBar;
    if (Number.isInteger(bars))
      return { bars, meter, bpm: (60 * bars * meter[0] * 4) / meter[1] / (length - start), firstDownbeat: seconds(start) };
  }
  const from = first < LEAN ? 0 : first;
  const bars = Math.max(1, Math.ceil((last - from + beat / 8) / (4 * beat)));
  return { bars, meter: [4, 4], bpm, firstDownbeat: seconds(from) };
}

/**
 * The meter of so many whole beats. Twelve quarters are three bars of 4/4 or four of 6/8, six are two bars of 3/4 or of 6/8: what is struck
 * on their lines decides.
 */
function cutMeter(onsets: readonly DetectedOnset[], beat: number, n: number, isTriplet: boolean): readonly [number, number] {
  if (isTriplet) return n % 4 === 0 ? [4, 4] : n % 2 === 0 || n % 3 === 0 ? [6, 8] : [4, 4];
  if (n % 3 !== 0) return [4, 4];
  const dotted = onLines(onsets, 3 * beat) + onLines(onsets, 1.5 * beat);
  if (n % 4 === 0) return dotted > onLines(onsets, 4 * beat) + onLines(onsets, 2 * beat) ? [6, 8] : [4, 4];
  return dotted > onLines(onsets, 3 * beat) + onLines(onsets, beat) ? [6, 8] : [3, 4];
}

/** Counted beats of a bar: 6/8 is felt in two. */
const beatsOf = ([numerator, denominator]: readonly [number, number], isTriplet: boolean): number =>
  denominator === 8 && isTriplet ? numerator / 3 : (numerator * 4) / denominator;
