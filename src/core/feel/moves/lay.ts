import { milliseconds, ticks } from '../../units';
import type { LayMove } from '../feel';
import type { ApplyMove } from '../work';

/** Early or late by the same real time, whatever the tempo does. */
export const applyLay: ApplyMove<LayMove> = ({ ms }, { range, times, tempo }, inScope) => {
  if (ms === 0) return;
  for (let i = range.from; i < range.to; i++) if (inScope(i)) times[i] = tempo.shift(ticks(times[i] as number), milliseconds(ms));
};
