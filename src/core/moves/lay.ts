import { milliseconds, ticks } from '../units';
import type { LayMove } from '../model/feel';
import { number, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** Early or late by the same real time, whatever the tempo does. */
const applyLay: ApplyMove<LayMove> = ({ ms }, { range, times, tempo }, inScope) => {
  if (ms === 0) return;
  for (let i = range.from; i < range.to; i++) if (inScope(i)) times[i] = tempo.shift(ticks(times[i] as number), milliseconds(ms));
};

export const layMove: MoveSpec<LayMove> = {
  kind: 'lay',
  members: { ms: number(-80, 80) },
  plain: { kind: 'lay', ms: 0 },
  first: () => ({ ms: 8 }),
  salt: 'lay',
  draws: false,
  apply: applyLay,
};
