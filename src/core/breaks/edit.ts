/** Commands on a break: how it is heard, counted and cut. */
import {
  BREAK_CUTS,
  LONGEST_LOOP,
  PIECE,
  type Break,
  type BreakReading,
  type HandMark,
  type HeardStrokes,
  type Slice,
} from '../model/break';
import { GENERAL_MIDI_KIT } from '../key-map';
import { shortName } from '../limits';
import { EMPTY_FEEL } from '../model/feel';
import type { Part } from '../model/part';
import { standOut } from '../onsets/onsets';
import { microsecondsOf } from '../time/tempo-map';
import { bpm, clamp, MAX_BPM, MIN_BPM, seconds, ticks, type Seconds } from '../units';
import { barsOfBreak, bpmOfBreak, evenLines, roundsOfBreak, steadyLines } from './lines';
import { isBreakAlone, withBreak, withoutBreak } from './place';
import type { StrokeName } from './alike';
import { markedStroke } from './strokes';

/** A recording as it came in. */
export interface Recorded {
  id: string;
  name: string;
  sample: string;
  seconds: Seconds;
}

/** Of a recording that nobody has listened to yet so much is looped, in seconds. */
const FIRST_LOOP = 30;
/** Its tempo is taken for this. */
const FIRST_BPM = 100;
/** No bar is shorter, in seconds. */
const SHORTEST_BAR = 0.1;
const MOST_BREAK_BARS = 999;

/** A break as it is before anything was heard in it: its start, or all of it, as one piece. */
export function freshBreak({ id, name, sample, seconds: length }: Recorded, bar = 0): Break {
  const heard = Math.min(length, FIRST_LOOP);
  const bars = Math.max(1, Math.round((heard * FIRST_BPM) / 240));
  return {
    id,
    name: shortName(name),
    sample,
    seconds: length,
    sensitivity: 0.5,
    hand: [],
    meter: [4, 4],
    lines: evenLines(0, heard, bars),
    bar,
    cut: 'whole',
    gap: 'tail',
    pieces: [],
  };
}

/** A part that is a break and nothing else. */
export function partOfBreak(of: Break): Part {
  const empty: Part = {
    format: 'nod-sway/part@6',
    name: of.name,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 600_000 }],
    meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
    origin: ticks(0),
    bars: 1,
    kitMap: GENERAL_MIDI_KIT,
    rows: [],
    hits: [],
    feel: EMPTY_FEEL,
  };
  return changed({ ...empty, breaks: [of] }, of.id, (b) => b);
}

/** Puts a break under a part, from a bar on. */
export const layerBreak = (part: Part, of: Break): Part => withBreak(part, of);

export const removeBreak = withoutBreak;

/** Changes a break; a part that is nothing else takes its tempo, meter and bars from it. */
function changed(part: Part, id: string, change: (of: Break) => Break): Part {
  const before = part.breaks?.find((b) => b.id === id);
  if (!before) return part;
  const next = change(before);
  return withBreak(isBreakAlone(part, id) ? led(part, before, next) : part, next);
}

function led(part: Part, before: Break, { lines, meter: [numerator, denominator], bar }: Break): Part {
  const sameLines = part.hits.length > 0 && lines === before.lines && before.meter[0] === numerator && before.meter[1] === denominator;
  if (sameLines) return part;
  const tempo = clamp(bpmOfBreak({ lines, meter: [numerator, denominator] }), MIN_BPM, MAX_BPM);
  return {
    ...part,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(tempo)) }],
    meter: [{ tick: ticks(0), numerator, denominator }],
    origin: ticks(0),
    bars: bar + Math.max(1, part.hits.length > 0 ? roundsOfBreak(part, before) : 1) * (lines.length - 1),
  };
}

/** A reading's lines, as far as the recording has whole bars of it. */
function linesOfReading({ bars, meter, bpm: tempo, firstDownbeat }: BreakReading, length: number): Seconds[] {
  const all = steadyLines(firstDownbeat, bars, tempo, meter);
  const bar = (all[1] as number) - (all[0] as number);
  const fit = Math.max(1, Math.floor((Math.min(length, firstDownbeat + LONGEST_LOOP) - firstDownbeat) / bar + 0.05));
  return all.slice(0, Math.min(bars, fit) + 1);
}

/** What was heard comes to a break: counted by the likeliest reading, cut at its strokes where they stand out. */
export function hearStrokes(part: Part, id: string, heard: Omit<HeardStrokes, 'break'>): Part {
  const others = (part.heard ?? []).filter((h) => h.break !== id);
  const [reading] = heard.readings;
  return changed({ ...part, heard: [...others, { break: id, ...heard }] }, id, (b) => ({
    ...b,
    ...(reading ? { meter: reading.meter, lines: linesOfReading(reading, b.seconds) } : {}),
    cut: standOut(heard.over) ? 'strokes' : b.cut,
  }));
}

/** Replaces what was detected. Bars, cuts and corrections by hand stay. */
export const hearStrokesAgain = (part: Part, id: string, heard: Omit<HeardStrokes, 'break'>): Part =>
  changed({ ...part, heard: [...(part.heard ?? []).filter((h) => h.break !== id), { break: id, ...heard }] }, id, (b) => b);

export const setSensitivity = (part: Part, id: string, sensitivity: number): Part =>
  changed(part, id, (b) => ({ ...b, sensitivity: clamp(sensitivity, 0, 1) }));

/** Counts a break by a reading. */
export const readBreakAs = (part: Part, id: string, reading: BreakReading): Part =>
  changed(part, id, (b) => ({ ...b, meter: reading.meter, lines: linesOfReading(reading, b.seconds) }));

/** So many bars of a meter between the two outer flags. */
export const countBreak = (part: Part, id: string, bars: number, meter?: readonly [number, number]): Part =>
  changed(part, id, (b) => ({
    ...b,
    meter: meter ?? b.meter,
    lines: evenLines(
      b.lines[0] as number,
      b.lines.at(-1) as number,
      clamp(
        Math.round(bars),
        1,
        Math.min(MOST_BREAK_BARS, Math.floor(((b.lines.at(-1) as number) - (b.lines[0] as number)) / SHORTEST_BAR)),
      ),
    ),
  }));

/** Moves the whole count: its first bar line comes to a moment, the bars keep their length as far as the recording goes. */
export const setFirstDownbeat = (part: Part, id: string, at: number): Part =>
  changed(part, id, (b) => {
    const shift = clamp(at, 0, b.seconds - SHORTEST_BAR) - (b.lines[0] as number);
    return { ...b, lines: b.lines.map((l) => seconds(l + shift)) };
  });

/** Drags a bar line. The outer ones stretch all between them, the others lie alone between their neighbours. */
export const moveLine = (part: Part, id: string, index: number, to: number): Part =>
  changed(part, id, (b) => {
    const last = barsOfBreak(b);
    const least = SHORTEST_BAR;
    const [first, end] = [b.lines[0] as number, b.lines[last] as number];
    const stretched = (from: number, until: number): Seconds[] =>
      b.lines.map((l) => seconds(from + ((l - first) / (end - first)) * (until - from)));
    if (index === 0) return { ...b, lines: stretched(clamp(to, 0, end - least * last), end) };
    if (index === last) return { ...b, lines: stretched(first, clamp(to, first + least * last, Math.max(b.seconds, end))) };
    return {
      ...b,
      lines: b.lines.map((l, i) =>
        i === index ? seconds(clamp(to, (b.lines[i - 1] as number) + least, (b.lines[i + 1] as number) - least)) : l,
      ),
    };
  });

/** Bar lines evenly again. */
export const evenBreak = (part: Part, id: string): Part =>
  changed(part, id, (b) => ({ ...b, lines: evenLines(b.lines[0] as number, b.lines.at(-1) as number, barsOfBreak(b)) }));

/** The hand at a stroke: moved, removed, named; or, with null, one that it adds. */
export const markStroke = (part: Part, id: string, stroke: string | null, mark: Omit<HandMark, 'n'>): Part =>
  changed(part, id, (b) => ({ ...b, hand: markedStroke(b.hand, stroke, mark) }));

/** Names several strokes at once. Others that sound like them follow, unless they were named by hand themselves. */
export const nameStrokes = (part: Part, id: string, strokes: readonly string[], { kind: as, also }: StrokeName): Part =>
  changed(part, id, (b) => ({
    ...b,
    hand: strokes.reduce<readonly HandMark[]>((hand, s) => markedStroke(hand, s, { as, ...(also ? { also } : {}) }), b.hand),
  }));

/** Settings of a break that change no cut but the chosen one. */
export const setBreak = (part: Part, id: string, change: Partial<Pick<Break, 'cut' | 'gap' | 'name'>> & { repitch?: boolean }): Part =>
  changed(part, id, ({ repitch: was, ...b }) => {
    const { repitch = was, ...rest } = change;
    const next = { ...b, ...rest, ...(repitch ? { repitch: true as const } : {}) };
    return BREAK_CUTS.includes(next.cut) ? next : { ...next, cut: b.cut };
  });

/** Settings of one piece; at rest they are not kept. */
export const setPiece = (part: Part, id: string, index: number, change: { level?: number; tune?: number; backwards?: boolean }): Part =>
  changed(part, id, (b) => ({ ...b, pieces: b.pieces.map((p, i) => (i === index ? withSettings(p, change) : p)) }));

function withSettings(piece: Slice, change: { level?: number; tune?: number; backwards?: boolean }): Slice {
  const { level: wasLevel, tune: wasTune, backwards: wasBackwards, ...rest } = piece;
  const level = clamp(change.level ?? wasLevel ?? 0, PIECE.level.min, PIECE.level.max);
  const tune = clamp(change.tune ?? wasTune ?? 0, PIECE.tune.min, PIECE.tune.max);
  return {
    ...rest,
    ...(level === 0 ? {} : { level }),
    ...(tune === 0 ? {} : { tune }),
    ...((change.backwards ?? wasBackwards) ? { backwards: true as const } : {}),
  };
}
