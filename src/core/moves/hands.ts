import type { HandsMove } from '../model/feel';
import { handsOfHits } from '../hands/of-hits';
import { number, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** Velocities by the hand that plays them: who plays what goes by the written times, so that nothing goes round in a circle. Times stay. */
const applyHands: ApplyMove<HandsMove> = ({ lead, weak, firstOfTwo }, { part, range, loudness }, inScope) => {
  const found = handsOfHits(part);
  const factors = [1, lead, weak];
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    loudness[i] = (loudness[i] as number) * (factors[found.hands[i] as number] as number) * (found.firstOfTwo[i] === 1 ? firstOfTwo : 1);
  }
};

export const handsMove: MoveSpec<HandsMove> = {
  kind: 'hands',
  members: { lead: number(0.5, 1.5), weak: number(0.5, 1.5), firstOfTwo: number(0.5, 1.5) },
  plain: { kind: 'hands', lead: 1.05, weak: 0.93, firstOfTwo: 1.05 },
  salt: 'hands',
  // Who plays what is found by a shortest way through all strokes.
  weight: 40,
  draws: false,
  apply: applyHands,
};
