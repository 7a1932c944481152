import { EMPTY_FEEL } from '@/core/model/feel';
import type { KitName } from '@/core/model/sound';
import { compareHits, type Hit, type Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { GENERAL_MIDI_KIT } from '@/core/key-map';
import { compareVoices } from '@/core/voices';
import { microsecondsOf } from '@/core/time/tempo-map';
import { bpm, ticks } from '@/core/units';
import { patternHits, type StepPattern } from './pattern';

/** A break of ours: a part that is played by a kit with a human feel, and recorded. */
export interface DemoBreak {
  /** Of its file under /breaks. */
  id: string;
  name: string;
  part: Part;
}

interface Settings {
  name: string;
  tempo: number;
  meter: readonly [number, number];
  kit: KitName;
  seed: number;
  room: number;
  bars: readonly StepPattern[];
  timingMs: number;
}

function breakPart({ name, tempo, meter, kit, seed, room, bars, timingMs }: Settings): Part {
  const frame = {
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(tempo)) }],
    meter: [{ tick: ticks(0), numerator: meter[0], denominator: meter[1] }],
    origin: ticks(0),
  };
  const map = meterMapOf(frame);
  const hits: Hit[] = bars.flatMap((pattern, i) => patternHits(pattern, '1/16', map.barOf(i).start)).sort(compareHits);
  return {
    format: 'nod-sway/part@6',
    name,
    ...frame,
    bars: bars.length,
    kit,
    mix: { room },
    kitMap: GENERAL_MIDI_KIT,
    rows: [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice })),
    hits,
    feel: {
      ...EMPTY_FEEL,
      seed,
      moves: [
        { kind: 'humanize', timingMs, velocityPercent: 12, memory: 0.5, anchor: 0.4, span: 8 },
        { kind: 'lay', ms: 7, scope: { voices: ['snare'] } },
      ],
    },
  };
}

/** Every break of ours, made anew from code: what it holds is known to the tick. */
export const demoBreaks = (): DemoBreak[] => [
  {
    id: 'harbour',
    name: 'Harbour break',
    part: breakPart({
      name: 'Harbour break',
      tempo: 92,
      meter: [4, 4],
      kit: 'Dry Dock',
      seed: 28,
      room: 14,
      timingMs: 8,
      bars: [
        { 'hat-closed': 'x.o.x.o.x.o.x.o.', snare: '....X..g.g..X...', kick: 'X.....x...x.....' },
        { 'hat-closed': 'x.o.x.o.x.o.x...', 'hat-open': '..............x.', snare: '....X..g.g..X..g', kick: 'X..x......x.....' },
      ],
    }),
  },
  {
    id: 'lantern',
    name: 'Lantern break',
    part: breakPart({
      name: 'Lantern break',
      tempo: 84,
      meter: [6, 8],
      kit: 'Sailcloth',
      seed: 15,
      room: 18,
      timingMs: 9,
      bars: [
        { 'hat-closed': 'x.o.o.x.o.o.', snare: '......X...g.', kick: 'X.......x...' },
        { 'hat-closed': 'x.o.o.x.o.o.', snare: '..g...X.....', kick: 'X...x.......' },
        { 'hat-closed': 'x.o.o.x.o.o.', snare: '......X...g.', kick: 'X.......x...' },
        { 'hat-closed': 'x.o.o.x.....', snare: '..g...X.x.x.', kick: 'X...x.......' },
      ],
    }),
  },
];
