import { smallPart } from '@tests/support/arbitraries';
import { HOUSE_GROOVES } from '../groove/house-grooves';
import type { MoveKind } from '../model/feel';
import { firstMove, specOf } from '../feel/move-spec';
import { performPart } from '../perform/perform';
import { MOVES } from './all';

const eighths = smallPart(Array.from({ length: 8 }, (_, i) => ['hat-closed', i / 2, 90] as const));
const sixteenths = smallPart(Array.from({ length: 16 }, (_, i) => ['hat-closed', i / 4, 90] as const));
const first = (kind: MoveKind, part = sixteenths, loopBars = 4) =>
  firstMove(specOf(MOVES, kind), part, { loopBars, groove: HOUSE_GROOVES[1]! });

test('a swing takes eighths where nothing stands between them, else sixteenths', () => {
  expect(first('swing', eighths)).toMatchObject({ division: '1/8', percent: 60 });
  for (const part of [sixteenths, smallPart([])]) expect(first('swing', part)).toMatchObject({ division: '1/16', percent: 56 });
});

test('humanizing takes the largest span that divides the loop', () => {
  expect([8, 4, 6, 2, 3, 1].map((bars) => first('humanize', sixteenths, bars))).toEqual(
    [4, 4, 2, 2, 1, 1].map((span) => expect.objectContaining({ span })),
  );
});

test.each(MOVES.map((m) => m.kind).filter((k) => k !== 'quantize' && k !== 'apart' && k !== 'timbre'))('a first %s is heard', (kind) => {
  const plain = performPart(sixteenths);
  const moved = performPart({ ...sixteenths, feel: { ...sixteenths.feel, moves: [first(kind)] } });
  expect([...moved.ticks, ...moved.velocities]).not.toEqual([...plain.ticks, ...plain.velocities]);
});
