import { smallPart } from '@tests/support/arbitraries';
import { bpmOf } from '../time/tempo-map';
import { bpm, ticks } from '../units';
import { addTempoChange, deleteTempoChange, setTempoChange } from './tempo-changes';

const part = smallPart([['kick', 0, 90]], {
  tempo: [
    { tick: ticks(0), microsecondsPerQuarter: 500_000 },
    { tick: ticks(960), microsecondsPerQuarter: 400_000 },
  ],
});
const tempi = (p: typeof part) => p.tempo.map((t) => [t.tick, bpmOf(t)]);

test('one change is set within 20 to 300 BPM, the others stay', () => {
  expect(tempi(setTempoChange(part, 1, bpm(90)))).toEqual([
    [0, 120],
    [960, 90],
  ]);
  expect(tempi(setTempoChange(part, 0, bpm(900)))).toEqual([
    [0, 300],
    [960, 150],
  ]);
  expect(setTempoChange(part, 7, bpm(90))).toBe(part);
});

test('changes are put in by their place, one a tick, and taken out but for the first', () => {
  expect(tempi(addTempoChange(part, ticks(480), bpm(60)))).toEqual([
    [0, 120],
    [480, 60],
    [960, 150],
  ]);
  expect(tempi(addTempoChange(part, ticks(960), bpm(60)))).toEqual([
    [0, 120],
    [960, 60],
  ]);
  expect(tempi(deleteTempoChange(part, 1))).toEqual([[0, 120]]);
  expect(deleteTempoChange(part, 0)).toBe(part);
});
