import { mean } from '../statistics';
import { reportPart, type Reportable } from './report';

/** What a part is like at first sight, for a sentence and for what to do first. */
export interface FirstLook {
  /** Every hit stands on its line, to the ms. */
  onGrid: boolean;
  /** Every row has one velocity, or nearly so. */
  flat: boolean;
  /** Hits stand off their lines by more than a hand's width of feel. */
  sloppy: boolean;
  /** Mean of how far rows scatter around their own mean lean, ms. */
  scatterMs: number;
  /** Mean lean of all hits, ms: how late the part is as a whole; negative is early. */
  lateMs: number;
  /** Lowest and highest velocity of all. */
  velocities: [number, number];
  /** A row that is struck on off-beats too: hats, a ride. */
  hasHats: boolean;
  /** Snare without soft strokes between. */
  noGhosts: boolean;
}

const ON_GRID_MS = 1;
const SLOPPY_MS = 14;
const FLAT_DEVIATION = 3;
const HATS = /^(hat|ride)/;

/** @returns null for a part without hits */
export function firstLook(part: Reportable): FirstLook | null {
  const { voices } = reportPart(part);
  if (voices.length === 0) return null;
  const scatterMs = mean(voices.map((v) => v.sdLeanMs));
  const largest = Math.max(...voices.map((v) => Math.abs(v.meanLeanMs) + v.sdLeanMs));
  return {
    onGrid: largest < ON_GRID_MS,
    flat: voices.every((v) => v.velocity.sd < FLAT_DEVIATION),
    sloppy: scatterMs >= SLOPPY_MS,
    scatterMs,
    lateMs: voices.reduce((sum, v) => sum + v.meanLeanMs * v.n, 0) / voices.reduce((sum, v) => sum + v.n, 0),
    velocities: [Math.min(...voices.map((v) => v.velocity.min)), Math.max(...voices.map((v) => v.velocity.max))],
    hasHats: voices.some((v) => HATS.test(v.voice)),
    noGhosts: voices.some((v) => v.voice.startsWith('snare')) && voices.every((v) => v.ghosts === 0),
  };
}
