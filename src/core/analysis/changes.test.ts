import { smallPart } from '@tests/support/arbitraries';
import { DEFAULT_MOVES } from '../moves/all';
import { addHits, addVelocity, removeHits, setNudges } from '../commands/hits';
import { addMove, removeMove } from '../commands/moves';
import { setMeter } from '../commands/meter';
import { setChoke } from '../commands/marks';
import { setOrnament } from '../commands/ornaments';
import { newOrnament } from '../ornament/all';
import { setSway, setTempo } from '../commands/settings';
import { bpm, ticks } from '../units';
import { describeChanges } from './changes';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['snare', 3, 90],
  ['hat-closed', 0.5, 70],
]);
const id = (voice: string) => new Set(part.hits.filter((h) => h.voice === voice).map((h) => h.id));

test('nothing, one thing, and several in one sentence', () => {
  expect(describeChanges(part, part)).toBe('No changes.');
  expect(describeChanges(part, addVelocity(part, id('snare'), 5))).toBe('2 louder.');
  let next = addHits(removeHits(part, id('hat-closed')), [
    { id: 'a', voice: 'snare', tick: ticks(1000), velocity: 20 },
    { id: 'b', voice: 'snare', tick: ticks(2000), velocity: 20 },
    { id: 'c', voice: 'kick', tick: ticks(3000), velocity: 20 },
  ]);
  next = setNudges(addVelocity(next, id('kick'), -9), id('kick'), () => -8);
  next = setTempo(addMove(next, DEFAULT_MOVES.swing), bpm(100));
  expect(describeChanges(part, next)).toBe(
    'Added 2 snare, 1 kick; removed 1 closed hat; 1 softer; 1 moved; feel: swing added; tempo 120 to 100.',
  );
});

test('fewer bars are no other meter; another meter is', () => {
  const long = { ...part, bars: 4 };
  expect(describeChanges(long, { ...long, bars: 2 })).toBe('4 to 2 bars.');
  expect(describeChanges(long, setMeter(long, { from: 0 }, { numerator: 5, denominator: 4 }))).toContain('Time signature');
});

test('marks, moves that went, the sway', () => {
  expect(describeChanges(part, setOrnament(part, id('kick'), newOrnament('flam')))).toBe('1 ornament added, changed or removed.');
  expect(describeChanges(part, setChoke(part, id('kick'), true))).toBe('1 otherwise changed.');
  const felt = addMove(addMove(part, DEFAULT_MOVES.swing), DEFAULT_MOVES.humanize);
  expect(describeChanges(felt, removeMove(felt, 1))).toBe('Feel: humanize removed.');
  expect(describeChanges(felt, setSway(felt, 0.5))).toBe('Feel: sway 100 to 50 %.');
});

test('name, sound, sections and what else a part has are told of', () => {
  expect(describeChanges(part, { ...part, name: 'Rope Walk' })).toBe(`Called Rope Walk instead of ${part.name}.`);
  expect(describeChanges(part, { ...part, kit: 'Beacon', mix: { room: 20 } })).toBe('Kit or mix changed.');
  expect(describeChanges(part, { ...part, sections: [{ id: 's', name: 'Verse', from: 1, bars: 1 }] })).toBe(
    'Sections or their order changed.',
  );
});
