import { withoutSign } from '../units';
import type { Groove, GrooveStep } from '../model/groove';
import { beatsOfMeter } from './steps';

/** A groove of our own, with one line about it. */
export interface HouseGroove {
  groove: Groove;
  about: string;
}

export interface GrooveFamily {
  name: string;
  grooves: readonly HouseGroove[];
}

/** Offsets in percent of a step and levels in percent; each list goes round until every step has one. */
interface Numbers {
  lean: readonly number[];
  level: readonly number[];
}

interface Plan extends Numbers {
  meter?: readonly [number, number];
  bars?: number;
  stepsPerBeat?: number;
  voices?: Readonly<Record<string, Numbers>>;
}

/** Where the second of a pair comes at a ratio, in percent of a step behind the straight place: 2:1 gives 33.3. */
const swung = (long: number, short: number): number => ((2 * long) / (long + short) - 1) * 100;

const stepsOf = ({ lean, level }: Numbers, count: number): GrooveStep[] =>
  Array.from({ length: count }, (_, i) => ({
    offset: withoutSign((lean[i % lean.length] as number) / 100),
    level: (level[i % level.length] as number) / 100,
    n: 1,
  }));

function house(name: string, about: string, { meter = [4, 4], bars = 1, stepsPerBeat = 4, voices, ...numbers }: Plan): HouseGroove {
  const beats = bars * beatsOfMeter(meter);
  const count = beats * stepsPerBeat;
  const own = voices && Object.fromEntries(Object.entries(voices).map(([voice, n]) => [voice, stepsOf(n, count)]));
  return {
    about,
    groove: {
      format: 'nod-sway/groove@1',
      name,
      meter,
      beats,
      stepsPerBeat,
      steps: stepsOf(numbers, count),
      ...(own ? { voices: own } : {}),
    },
  };
}

/** Two slow waves that do not meet within the bar: uneven, but the same each time. */
const caulking = (i: number): number =>
  Math.round(6 * Math.sin((2 * Math.PI * 5 * i) / 16 + 0.6) + 4 * Math.sin((2 * Math.PI * 3 * i) / 16));
const SIXTEEN = Array.from({ length: 16 }, (_, i) => i);

/** Grooves of our own, each made of the numbers here; docs/grooves.md says why they are what they are. */
export const GROOVE_FAMILIES: readonly GrooveFamily[] = [
  {
    name: 'Straight, the backbeat late',
    grooves: [
      house('Lower Hold', 'The backbeat late, the rest within 3 % of the grid', {
        lean: [0, 0, 2, 0, 9, 3, 2, 0, 0, 0, 2, 0, 10, 3, 2, 0],
        level: [112, 82, 96, 80, 108, 80, 94, 82],
      }),
      house('Ballast', 'Only beat one is on the grid; everything else lays back', {
        lean: [0, 6, 8, 6, 14, 8, 8, 6, 6, 6, 8, 6, 16, 8, 8, 6],
        level: [110, 86, 98, 84, 114, 84, 96, 84],
      }),
    ],
  },
  {
    name: 'Pushed',
    grooves: [
      house('Tide Race', 'Off-beat eighths early and loud', { lean: [0, -3, -9, -3], level: [98, 80, 114, 82] }),
      house('Bow Wave', 'The last sixteenth falls into each beat', { lean: [-2, -4, -5, -11], level: [114, 82, 96, 94] }),
    ],
  },
  {
    name: 'Swung eighths',
    grooves: [
      house('Slipway', 'Eighths at 3:2', { stepsPerBeat: 2, lean: [0, swung(3, 2)], level: [106, 90] }),
      house('Lamp Oil', 'Eighths at 5:3, the late ones lead', { stepsPerBeat: 2, lean: [0, swung(5, 3)], level: [94, 108] }),
      house('Harbour Bell', 'Eighths at 2:1, two and four ring', { stepsPerBeat: 2, lean: [0, swung(2, 1)], level: [100, 78, 118, 82] }),
    ],
  },
  {
    name: 'Swung sixteenths',
    grooves: [
      house('Gangplank', 'Sixteenths at 4:3', { lean: [0, swung(4, 3)], level: [110, 78, 98, 84] }),
      house('Rope Ladder', 'Sixteenths at 3:2, even hands', { lean: [0, swung(3, 2)], level: [104, 92] }),
      house('Bilge Pump', 'Sixteenths at 2:1, loud and soft', { lean: [0, swung(2, 1)], level: [118, 70, 104, 74] }),
    ],
  },
  {
    name: 'Leaning towards triplets',
    grooves: [
      house('Lantern', 'Four in a beat, half way to three', { lean: [0, 16.7, 0, -16.7], level: [108, 84, 92, 88] }),
      house('Signal Lamp', 'Triplets with a late middle', { stepsPerBeat: 3, lean: [0, 7, 3], level: [112, 76, 94] }),
    ],
  },
  {
    name: 'Street parade',
    grooves: [
      house('Parade Rest', 'The second half of the bar pushes', {
        lean: [0, 10, -3, 12, 2, 8, -4, 10, -2, 6, -6, 8, -3, 5, -7, 6],
        level: [104, 84, 110, 80, 96, 88, 112, 86],
      }),
      house('Brass Rail', 'Two bars: one lazy, one in a hurry', {
        bars: 2,
        lean: [0, 12, 2, 10, 4, 12, 2, 9, 0, 12, 3, 10, 6, 10, 0, -6, 0, 6, -3, 5, -2, 6, -4, 6, -3, 5, -6, 4, -4, 0, -8, -10],
        level: [112, 82, 98, 86, 104, 82, 106, 84, 100, 84, 98, 86, 110, 88, 102, 96],
      }),
    ],
  },
  {
    name: 'Six eighths',
    grooves: [
      house('Low Swell', 'A late second, an early third', {
        meter: [6, 8],
        stepsPerBeat: 2,
        lean: [0, 6, -4, 0, 8, -5],
        level: [118, 82, 92, 106, 84, 96],
      }),
      house('Undertow', 'The second half sinks back', {
        meter: [6, 8],
        lean: [0, 2, 4, 2, 0, 3, 9, 6, 7, 4, 2, 4],
        level: [114, 80, 94, 82, 98, 84, 108, 80, 92, 82, 96, 88],
      }),
    ],
  },
  {
    name: 'Seven eighths',
    grooves: [
      house('Foghorn', '2 + 2 + 3, the long group hurries', {
        meter: [7, 8],
        lean: [0, 8, 0, 8, 0, 8, 0, 8, 0, 4, -6, 0, -9, -4],
        level: [116, 78, 94, 80, 108, 78, 94, 80, 112, 80, 98, 82, 104, 86],
      }),
      house('Long Watch', '2 + 2 + 3, each group a little later', {
        meter: [7, 8],
        stepsPerBeat: 2,
        lean: [0, 1, 3, 4, 5, 6, 3],
        level: [114, 88, 106, 88, 110, 92, 96],
      }),
    ],
  },
  {
    name: 'Waltz',
    grooves: [
      house('Galley', 'An early two, a late three', {
        meter: [3, 4],
        lean: [0, 3, 2, -4, -9, -3, 2, 4, 8, 5, 3, 1],
        level: [114, 80, 92, 84, 104, 80, 94, 82, 100, 84, 96, 86],
      }),
      house('Net Loft', 'Eighths at 5:3, the three waits', {
        meter: [3, 4],
        stepsPerBeat: 2,
        lean: [0, swung(5, 3), -3, swung(5, 3), 6, 20],
        level: [112, 84, 96, 88, 100, 92],
      }),
    ],
  },
  {
    name: 'Brushed',
    grooves: [
      house('Swept Deck', 'Sweeps that swell into two and four; the pedal early', {
        lean: [2, 6, 9, 6, 5, 7, 10, 7],
        level: [90, 84, 96, 104, 116, 92, 88, 82],
        voices: { 'hat-pedal': { lean: [-5, -3, -4, -3], level: [100] }, kick: { lean: [0, 2, 4, 2], level: [104, 90, 96, 90] } },
      }),
    ],
  },
  {
    name: 'Uneven hands',
    grooves: [
      house('Caulker', 'Two slow waves, never even', {
        lean: SIXTEEN.map(caulking),
        level: SIXTEEN.map((i) => Math.round(100 + 12 * Math.cos((2 * Math.PI * 7 * i) / 16 + 0.3))),
      }),
      house('Left Hand', 'The weaker hand late and soft, not twice alike', {
        lean: [0, 7, -2, 9, 1, 5, -3, 10, -1, 8, 0, 6, -2, 11, 2, 4],
        level: [110, 88, 102, 82, 108, 90, 100, 84, 106, 84, 104, 88, 100, 80, 108, 90],
      }),
    ],
  },
];

export const HOUSE_GROOVES: readonly Groove[] = GROOVE_FAMILIES.flatMap((f) => f.grooves.map((g) => g.groove));

/** What one of them is called where grooves of the user's own, whose ids are random, stand beside it. */
export const houseId = (name: string): string => `house:${name}`;
