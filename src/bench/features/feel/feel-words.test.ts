import { EMPTY_FEEL, type Move } from '@/core/model/feel';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { scopeWords } from '@/ui/scope-words';
import { smallPart } from '@tests/support/arbitraries';
import { pointAtBar, pointAtRow, pointAtStep } from '../../actions/pointing';
import { createBenchStore } from '../../store/bench-store';
import { effectWords } from './effect-words';
import { loosenessWord } from '../../shared/looseness';
import { tapPair } from './tap-pair';

const part = smallPart(
  [
    ['hat-closed', 0, 90],
    ['snare', 1, 90],
    ['kick', 0, 90],
  ],
  { bars: 8 },
);

test('scopes in words', () => {
  const say = (scope: Parameters<typeof scopeWords>[1]) => scopeWords(part, scope);
  expect(say(undefined)).toBe('All rows, all bars');
  expect(say({ voices: ['hat-closed'], steps: { grid: '1/8', of: 2, at: [1] }, bars: { from: 1, to: 4 } })).toBe(
    'Closed hat, off-beats, bars 1 to 4',
  );
  expect(say({ voices: ['kick', 'snare'], bars: { every: 2, at: [2] } })).toBe('Kick and snare, even bars');
  expect(say({ voices: ['kick', 'snare', 'hat-closed'], ghosts: 'none' })).toBe('Kick, snare and closed hat, no ghosts');
  expect(say({ steps: { grid: '1/16', of: 4, at: [1, 3] } })).toBe('All rows, every second 1/16');
  expect(say({ steps: { grid: '1/16', of: 16, at: [3, 11] } })).toBe('All rows, 1/16 4, 12 of 16');
});

test('a pair is tapped long and short: after two pairs its swing is known', () => {
  const run = (times: number[]) => times.reduce((r, t) => tapPair(r.taps, t), { taps: [] as number[], percent: null as number | null });
  expect(run([0, 300, 500, 800]).percent).toBeNull();
  expect(run([0, 300, 500, 800, 1000]).percent).toBe(60);
  expect(run([0, 300, 500, 810, 1000]).percent).toBe(61);
  expect(run([0, 300, 500, 800, 4000]).percent).toBeNull();
});

test('what a move changes, and how loose a drift is, in words', () => {
  const none = { hits: 0, moved: 0, meanMs: 0, largestMs: 0, levelled: 0, meanVelocity: 0, largestVelocity: 0, timbres: 0 };
  expect(effectWords(none)).toBe('It changes nothing right now.');
  // Hits that only get louder or softer are not said to move.
  expect(
    effectWords({ ...none, hits: 148, moved: 84, meanMs: 9.42, largestMs: 20.06, levelled: 148, meanVelocity: 4.2, largestVelocity: 11 }),
  ).toBe('Moves 84 hits, 9.4 ms on average, 20.1 at most; changes the velocity of 148 hits by 4 on average, 11 at most.');
  expect(effectWords({ ...none, timbres: 12 })).toBe('Changes the sound of 12 hits.');
  expect(effectWords({ ...none, hits: 1, levelled: 1, meanVelocity: 3, largestVelocity: 3, timbres: 1 })).toBe(
    'Changes the velocity of 1 hit by 3; changes the sound of 1 hit.',
  );
  expect(effectWords({ ...none, hits: 16, moved: 16, meanMs: 50, largestMs: 50 })).toBe('Moves 16 hits by 50.0 ms.');
  expect([1, 4, 8, 20, 30].map(loosenessWord)).toEqual(['machine-tight', 'tight', 'human', 'loose', 'sloppy']);
});

test('a scope is pointed out by rows, bars and steps, each one step back', () => {
  const move: Move = { kind: 'lay', ms: 5 };
  const store = createBenchStore('x', { part: { ...part, feel: { ...EMPTY_FEEL, moves: [move] } }, head: 0 }, false, {
    appendEdits: async () => {},
    settleHead: async () => {},
  } as never);
  const scope = () => store.getState().part.feel.moves[0]?.scope;
  pointAtRow(store, 'kick');
  expect(scope()).toBeUndefined();
  store.getState().setUi({ pointing: 0 });
  pointAtRow(store, 'kick');
  pointAtRow(store, 'snare');
  pointAtRow(store, 'kick');
  expect(scope()).toEqual({ voices: ['snare'] });
  pointAtBar(store, 2);
  pointAtBar(store, 3);
  expect(scope()?.bars).toEqual({ from: 2, to: 3 });
  pointAtBar(store, 7);
  expect(scope()?.bars).toEqual({ every: 8, at: [2, 3, 7] });
  pointAtStep(store, ticks(TICKS_PER_QUARTER));
  expect(scope()?.steps).toEqual({ grid: '1/16', of: 16, at: [4] });
  pointAtStep(store, ticks(TICKS_PER_QUARTER));
  expect(scope()?.steps).toBeUndefined();
  for (let i = 0; i < 8; i++) store.getState().undo();
  expect(scope()).toBeUndefined();
});
