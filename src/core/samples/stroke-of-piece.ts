import { atRate } from '../audio/resample';
import { readWav } from '../audio/read-wav';
import { amplitudeOf } from '../synth/classes';
import { TILT_HZ, type RenderedStroke } from '../synth/stroke';
import { PIECE_VELOCITY, type BreakGap, type Slice } from '../model/break';

/** Of a recording that is cut into pieces, in seconds. */
const LONGEST_RECORDING = 601;
/** Beside a piece so much more is read: for its fades, and for reading between samples. */
const MARGIN = 0.01;
/** A piece begins without a step within so many seconds; its attack is just behind. */
const RISE = 0.0003;
/** It ends so; of what follows in the recording so much is heard under the next piece's beginning. */
const FALL = 0.0015;
/** The longer fade, as a share of the piece and at most so many seconds. */
const FADE_SHARE = 0.3;
const LONGEST_FADE = 0.25;
/** So much of its end is repeated as a tail, there and back, and so long it lasts, in seconds. */
const TAIL_SHARE = 0.4;
const TAIL_SECONDS = 0.8;
/** What is left of it at its end: -60 dB. */
const TAIL_END = 0.001;

/**
 * Makes the stroke that plays a piece of a recorded break. At the piece's own velocity it is as loud as it was recorded, and pieces that
 * follow
 * each other as they did are the recording again.
 * @param rate frames a second
 * @throws NamedError bad-sound
 */
export function strokeOfPiece(bytes: Uint8Array, piece: Slice | undefined, gap: BreakGap, rate: number): RenderedStroke {
  const still: RenderedStroke = { samples: new Float32Array(1), high: 0, tiltHz: TILT_HZ };
  if (!piece) return still;
  const gain = (amplitudeOf(PIECE_VELOCITY) / amplitudeOf(piece.velocity)) * 10 ** ((piece.level ?? 0) / 20);
  const from = Math.max(0, piece.from - MARGIN);
  const wav = readWav(bytes, LONGEST_RECORDING, { from, until: piece.until + MARGIN, largest: Infinity });
  const start = (piece.from - Math.round(from * wav.rate) / wav.rate) * rate;
  const sides = wav.channels.map((c) => cutOut(atRate(c, wav.rate, rate), Math.round(start), piece, gap, rate, gain));
  const [left, right] = sides as [Float32Array, Float32Array?];
  if (left.length === 0) return still;
  const alike = !right || left.every((x, i) => x === right[i]);
  return { samples: left, ...(alike ? {} : { right }), high: 0, tiltHz: TILT_HZ };
}

function cutOut(
  channel: Float32Array,
  start: number,
  { from, until, backwards }: Slice,
  gap: BreakGap,
  rate: number,
  gain: number,
): Float32Array {
  const end = Math.min(channel.length, start + Math.round((until - from) * rate));
  const n = end - start;
  if (n <= 0) return new Float32Array(0);
  const fall = Math.round(FALL * rate);
  const tail = gap === 'tail' ? Math.round(TAIL_SECONDS * rate) : backwards ? 0 : Math.min(fall, channel.length - end);
  const out = new Float32Array(n + tail);
  for (let i = 0; i < n; i++) out[i] = channel[backwards ? end - 1 - i : start + i] as number;
  if (gap === 'tail') addTail(out, n, tail);
  else for (let i = 0; i < tail; i++) out[n + i] = channel[end + i] as number;
  const rise = Math.round(RISE * rate);
  const fade = gap === 'fade' ? Math.max(fall, Math.min(Math.round(n * FADE_SHARE), Math.round(LONGEST_FADE * rate))) : fall;
  const last = out.length - 1;
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) * gain * Math.min(1, (i + 1) / (rise + 1), (last - i) / fade);
  return out;
}

/** Behind the first n frames: the end of them back and there again, softer and softer. */
function addTail(out: Float32Array, n: number, tail: number) {
  const turn = Math.max(1, Math.round(n * TAIL_SHARE));
  const decay = TAIL_END ** (1 / tail);
  let level = 1;
  for (let i = 0; i < tail; i++) {
    level *= decay;
    const k = i % (2 * turn);
    const back = k < turn ? k : 2 * turn - 1 - k;
    out[n + i] = (out[n - 1 - back] as number) * level;
  }
}
