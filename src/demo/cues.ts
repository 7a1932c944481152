import { EMPTY_FEEL } from '@/core/model/feel';
import { compareHits, type Hit, type Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { randomStream } from '@/core/random';
import { importPart } from '@/core/smf/import-part';
import { drumLanes, listLanes } from '@/core/smf/lanes';
import { readSmf } from '@/core/smf/read';
import { bpm, clampVelocity, milliseconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { GENERAL_MIDI_KIT } from '@/core/key-map';
import { compareVoices } from '@/core/voices';
import { microsecondsOf } from '@/core/time/tempo-map';
import type { DemoPart } from './cue';
import { strutSong } from './gangway-strut';
import { ownBreak, withOwnBreak } from './own-breaks';
import { patternHits, type StepPattern } from './pattern';

interface CueSettings {
  name: string;
  tempo: number;
  meter: readonly [number, number];
  bars: readonly StepPattern[];
  level?: (v: number, voice: string) => number;
  shift?: (voice: string) => number;
}

function cuePart(s: CueSettings): Part {
  const frame = {
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(s.tempo)) }],
    meter: [{ tick: ticks(0), numerator: s.meter[0], denominator: s.meter[1] }],
    origin: ticks(0),
  };
  const map = meterMapOf(frame);
  const hits: Hit[] = s.bars.flatMap((pattern, i) => patternHits(pattern, '1/16', map.barOf(i).start, s.level, s.shift)).sort(compareHits);
  return {
    format: 'nod-sway/part@6',
    name: s.name,
    ...frame,
    bars: s.bars.length,
    kitMap: GENERAL_MIDI_KIT,
    rows: [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice })),
    hits,
    feel: EMPTY_FEEL,
  };
}

/** Six eighths, played in by a tired hand: scattered and uneven. */
function lowTide(): DemoPart {
  const random = randomStream(58);
  const wobble = (size: number): number => (random() + random() + random() - 1.5) * size;
  const a: StepPattern = { ride: 'x.o.o.x.o.o.', 'hat-pedal': '......x.....', snare: '..g...X...g.', kick: 'X.......o...' };
  const b: StepPattern = { ride: 'x.o.o.x.o.o.', 'hat-pedal': '......x.....', snare: '....g.X..g..', kick: 'X...o.......' };
  const c: StepPattern = { ride: 'x.o.o.x.....', snare: '..g...X.oxox', 'tom-low': '........x.x.', kick: 'X.......o...' };
  return {
    id: 'demo-low-tide',
    about: 'A sloppy take in six eighths',
    part: cuePart({
      name: 'Low Tide',
      tempo: 58,
      meter: [6, 8],
      bars: [a, b, a, b, a, b, a, c],
      level: (v) => clampVelocity(v + wobble(24)),
      shift: () => wobble(TICKS_PER_QUARTER * 0.055),
    }),
  };
}

/** Two four, machine-tight but for one thing: everything comes 49 ms late. */
function netMenders(): DemoPart {
  const random = randomStream(104);
  const late = 0.085 * TICKS_PER_QUARTER;
  const a: StepPattern = { 'hat-closed': 'x.o.x.o.', rim: '....x..g', kick: 'X..o..x.', tambourine: '..x...x.' };
  const b: StepPattern = { 'hat-closed': 'x.o.x.oo', rim: '....x...', kick: 'X..o....', tambourine: '..x...x.' };
  return {
    id: 'demo-net-menders',
    about: 'Sits a constant amount behind its grid',
    part: cuePart({
      name: 'Net Menders',
      tempo: 104,
      meter: [2, 4],
      bars: [a, b, a, b, a, b, a, b, a, b, a, b],
      level: (v) => clampVelocity(v + (random() - 0.5) * 14),
      shift: () => late + (random() - 0.5) * TICKS_PER_QUARTER * 0.012,
    }),
  };
}

function fogSignal(): DemoPart {
  const random = randomStream(132);
  const a: StepPattern = { 'hat-closed': 'x.x.x.x.x.x.x.', snare: '....X...g.X...', kick: 'X.....x.....x.', cowbell: 'x...........o.' };
  const b: StepPattern = {
    'hat-closed': 'x.x.x.x.x.x...',
    'hat-open': '............x.',
    snare: '....X..gg.X.g.',
    kick: 'X.....x.x.....',
    cowbell: 'x.............',
  };
  const c: StepPattern = {
    'hat-closed': 'x.x.x.x.......',
    snare: '....X...xxX...',
    'tom-mid': '...........xx.',
    'tom-floor': '.............x',
    kick: 'X.....x.....x.',
  };
  return {
    id: 'demo-fog-signal',
    about: 'Seven eighths, 2 + 2 + 3',
    part: cuePart({
      name: 'Fog Signal',
      tempo: 132,
      meter: [7, 8],
      bars: [a, b, a, b, a, b, a, c],
      level: (v) => clampVelocity(v + (random() - 0.5) * 10),
    }),
  };
}

/** Three four with brushes, finished: swung sixteenths, a laid-back snare, ghosts, shaped dynamics. */
function galleyBrushes(): DemoPart {
  const random = randomStream(88);
  const a: StepPattern = { ride: 'x..ox...o..o', 'hat-pedal': '....x...x...', snare: '..g.o.gg..gg', kick: 'o.........g.' };
  const b: StepPattern = { ride: 'x..ox...o..o', 'hat-pedal': '....x...x...', snare: '..g.o..g.go.', kick: 'o......g....' };
  const c: StepPattern = {
    ride: 'x..ox.......',
    crash: '............',
    'hat-pedal': '....x...x...',
    snare: '..g.o.ggooxx',
    'tom-low': '..........o.',
    kick: 'o...........',
  };
  const d: StepPattern = {
    crash: 'o...........',
    ride: '...ox...o..o',
    'hat-pedal': '....x...x...',
    snare: '..g.o.gg..gg',
    kick: 'x.........g.',
  };
  const part = cuePart({
    name: 'Galley Brushes',
    tempo: 88,
    meter: [3, 4],
    bars: [a, b, a, c, d, b, a, b],
    level: (v) => clampVelocity(v * 0.86 + (random() - 0.5) * 13),
  });
  const lag: Readonly<Record<string, number>> = { snare: 9, ride: -3, kick: 2, 'hat-pedal': -5 };
  return {
    id: 'demo-galley-brushes',
    about: 'Finished: swung, laid back, breathing',
    part: {
      ...part,
      hits: part.hits.map((h) => ({
        ...h,
        nudge: { ms: milliseconds(Math.round(((lag[h.voice] ?? 0) + (random() - 0.5) * 6) * 10) / 10), velocity: 0 },
      })),
      feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent: 60 }] },
    },
  };
}

function gangwayStrut(): DemoPart {
  const song = strutSong();
  const file = readSmf(song);
  const { part } = importPart(file, { name: 'Gangway Strut', fileName: 'gangway-strut.mid', lanes: drumLanes(file, listLanes(file)) });
  return { id: 'demo-gangway-strut', about: 'A flat, robotic import', part, song };
}

/** A programmed beat over a recorded one. */
function harbourLights(): DemoPart {
  const random = randomStream(92);
  const a: StepPattern = { tambourine: '....x.......x...', 'hat-pedal': 'x...x...x...x...', kick: 'X.........x.....' };
  const b: StepPattern = { tambourine: '....x.......x..o', 'hat-pedal': 'x...x...x...x...', kick: 'X..o......x.....' };
  const c: StepPattern = {
    tambourine: '....x.......x...',
    'hat-pedal': 'x...x...x.......',
    'tom-floor': '............o.xX',
    kick: 'X.........x.....',
  };
  const beat = cuePart({
    name: 'Harbour Lights',
    tempo: 92,
    meter: [4, 4],
    bars: [a, b, a, c],
    level: (v) => clampVelocity(v + (random() - 0.5) * 12),
  });
  return { id: 'demo-harbour-lights', about: 'Programmed rows over a break', part: withOwnBreak(beat, ownBreak('harbour'), 'harbour') };
}

/** Every demo part, made anew from code. */
export const demoCues = (): DemoPart[] => [gangwayStrut(), lowTide(), netMenders(), fogSignal(), galleyBrushes(), harbourLights()];
