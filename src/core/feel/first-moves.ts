/** What a move starts with where it is added: something that is heard, and that fits the part. */
import { homesOf } from '../homes/homes';
import type { Groove } from '../groove/groove';
import { meterMapOf } from '../part/part-time';
import { stepOf } from '../time/grid';
import { ticks } from '../units';
import { DEFAULT_MOVES, DEFAULT_SWING, type Move, type MoveKind, type SwingMove } from './feel';
import type { Performable } from './work';

/** Spans in bars that a new humanize move may have, the largest first. */
const SPANS = [4, 2, 1] as const;
const EIGHTH_SWING = 60;

/**
 * @param loopBars bars of the loop: a humanized loop is laid neither back nor forward where its span divides them
 * @param groove what a groove move plays like
 * @example firstMove('humanize', part, 2, hold) // span 2
 */
export function firstMove(kind: MoveKind, part: Performable, loopBars: number, groove: Groove): Move {
  switch (kind) {
    case 'groove':
      return { kind, groove, lean: 1, level: 1 };
    case 'swing':
      return firstSwing(part);
    case 'lay':
      return { ...DEFAULT_MOVES.lay, ms: 8 };
    case 'accents':
      return { ...DEFAULT_MOVES.accents, levels: [1.15, 0.74, 0.92, 0.74] };
    case 'humanize':
      return { ...DEFAULT_MOVES.humanize, span: SPANS.find((n) => loopBars % n === 0) ?? 1 };
    case 'timbre':
      return { ...DEFAULT_MOVES.timbre, pitch: 0.2, brightness: 10, velocityBrightness: 30 };
    default:
      return DEFAULT_MOVES[kind];
  }
}

/** Eighths where hits stand on these alone, else sixteenths; in a part without hits as well. */
export function firstSwing(part: Performable): SwingMove {
  return part.hits.length === 0 || hasSixteenths(part) ? { ...DEFAULT_MOVES.swing, percent: DEFAULT_SWING } : { ...DEFAULT_MOVES.swing, division: '1/8', percent: EIGHTH_SWING };
}

/** Whether any hit belongs to the second sixteenth of a pair. */
function hasSixteenths(part: Performable): boolean {
  const map = meterMapOf(part);
  const homes = homesOf(part);
  const step = stepOf('1/16');
  return part.hits.some((_, i) => {
    const home = homes.ticks[i] as number;
    const n = Math.round((home - map.barAt(ticks(home)).start) / step);
    return n % 2 === 1;
  });
}
