import { meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { TICKS_PER_QUARTER } from '../units';
import type { Groove } from '../model/groove';
import { stepCount } from './steps';

/**
 * How a groove's length meets a part's bars: one bar each; whole times within a bar; cut by the bar line; longer than the bar, its end
 * never heard; over several bars, and with or without a rest that is cut or begun again.
 */
export interface Meeting {
  kind: 'same' | 'divides' | 'restarts' | 'loses-end' | 'bars' | 'bars-restarts' | 'bars-loses-end';
  /** Quarter notes of the groove and of a bar. */
  groove: number;
  bar: number;
  /** Bars that one round takes. */
  bars: number;
}

/** Says how a groove goes over a part's first bar; see `roundOfBar` for the rule. */
export function meetingOf(groove: Groove, part: Pick<Part, 'meter' | 'origin'>): Meeting {
  const bar = meterMapOf(part).barOf(0).length / TICKS_PER_QUARTER;
  const own = stepCount(groove.beats, groove.stepsPerBeat) / groove.stepsPerBeat;
  const bars = Math.max(1, Math.round(own / bar));
  const span = bars * bar;
  const sizes = { groove: own, bar, bars };
  if (Math.abs(own - span) < 1e-9) return { kind: bars === 1 ? 'same' : 'bars', ...sizes };
  if (own > span) return { kind: bars === 1 ? 'loses-end' : 'bars-loses-end', ...sizes };
  const rounds = span / own;
  if (bars === 1 && Math.abs(rounds - Math.round(rounds)) < 1e-9) return { kind: 'divides', ...sizes };
  return { kind: bars === 1 ? 'restarts' : 'bars-restarts', ...sizes };
}
