import { smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL, type Move } from '../model/feel';
import type { Part } from '../model/part';
import { DEFAULT_MOVES } from '../moves/all';
import { effectOfMove } from './effect';
import { offerFor } from './offer';
import { performPart } from './perform';

const eighths = smallPart(Array.from({ length: 8 }, (_, i) => ['hat-closed', i / 2, 90] as const));
const withMove = (part: Part, move: Move, sway = 1): Part => ({ ...part, feel: { ...EMPTY_FEEL, sway, moves: [move] } });

test('what would be heard is offered, and is heard', () => {
  const silent: readonly [Move, Partial<Move>][] = [
    [{ ...DEFAULT_MOVES.swing }, { division: '1/8', percent: 60 }],
    [{ ...DEFAULT_MOVES.swing, division: '1/8', scope: { voices: ['ride'] } }, { scope: undefined }],
    [{ ...DEFAULT_MOVES.lay }, { ms: 8 }],
    [{ ...DEFAULT_MOVES.humanize, timingMs: 0, velocityPercent: 0 }, { timingMs: 4 }],
    [{ ...DEFAULT_MOVES.timbre }, { pitch: 0.2, brightness: 10, velocityBrightness: 30 }],
  ];
  for (const [move, offer] of silent) {
    const part = withMove(eighths, move);
    const effect = effectOfMove(part, performPart(part), 0);
    expect([effect.hits, effect.timbres]).toEqual([0, 0]);
    expect(offerFor(part, 0)).toEqual(offer);
    const heard = withMove(eighths, { ...move, ...offer } as Move);
    const after = effectOfMove(heard, performPart(heard), 0);
    expect(after.hits + after.timbres).toBeGreaterThan(0);
  }
});

test('nothing is offered where nothing would be heard', () => {
  // Every hit is on its line already.
  expect(offerFor(withMove(eighths, { ...DEFAULT_MOVES.quantize }), 0)).toBeNull();
  expect(offerFor(withMove(eighths, { ...DEFAULT_MOVES.lay, on: false }), 0)).toBeNull();
  expect(offerFor(withMove(eighths, { ...DEFAULT_MOVES.lay }, 0), 0)).toBeNull();
});
