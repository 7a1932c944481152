import type { Break, HandMark, HeardStrokes, StrokeKind } from '../model/break';
import { leastOver, MERGE_SECONDS } from '../onsets/onsets';
import { unpackPrint, type StrokePrint } from '../onsets/print';
import { seconds, type Seconds } from '../units';
import { distinctExamples, levelOfKind, nameByExamples } from './alike';

/** A stroke of a break, as it is heard and as the hand left it. */
export interface BreakStroke {
  /** Names it, whatever else comes and goes: that of a heard stroke, or of the hand's own. */
  id: string;
  at: Seconds;
  /** Of the threshold at the usual sensitivity; what the hand put is over any. */
  over: number;
  /** Amplitude of its first moments. */
  level: number;
  kind: StrokeKind;
  /** What is struck together with it. */
  also?: StrokeKind;
  /** 1 where the hand said it. */
  sure: number;
  /** The hand put it there, or holds it. */
  byHand: boolean;
  /** Too soft for the sensitivity: it does not count. */
  belowThreshold: boolean;
}

const NOTHING: Omit<HeardStrokes, 'break'> = { at: [], strength: [], over: [], level: [], kinds: [], sure: [], also: [], readings: [] };

/** What was heard in a break; nothing before it was listened to. */
export const heardIn = (part: { heard?: readonly HeardStrokes[] }, id: string): Omit<HeardStrokes, 'break'> =>
  part.heard?.find((h) => h.break === id) ?? NOTHING;

const idOf = (mark: HandMark, added: number): string => (mark.n === undefined ? `h${added}` : `n${mark.n}`);

/** All strokes of a break by time, those that drown among them. What stands within 15 ms of a stronger one is that one. */
export function strokesOfBreak(
  { sensitivity, hand }: Pick<Break, 'sensitivity' | 'hand'>,
  heard: Omit<HeardStrokes, 'break'>,
): BreakStroke[] {
  const least = leastOver(sensitivity);
  const prints = printsOf(heard);
  const examples = distinctExamples(
    hand.flatMap(({ n, as, also }) => {
      const print = n === undefined ? undefined : prints?.[n];
      return as && print ? [{ print, name: { kind: as, ...alsoOf(also) } }] : [];
    }),
  );
  const marks = new Map(hand.flatMap((m) => (m.n === undefined ? [] : [[m.n, m] as const])));
  const found: BreakStroke[] = [];
  heard.at.forEach((at, n) => {
    const mark = marks.get(n);
    if (mark?.gone) return;
    const over = heard.over[n] as number;
    const print = prints?.[n];
    const heardName = { kind: heard.kinds[n] as StrokeKind, ...alsoOf(heard.also[n]), sure: heard.sure[n] as number };
    const name = mark?.as
      ? { kind: mark.as, ...alsoOf(mark.also), sure: 1 }
      : (print && examples.length > 0 && nameByExamples(print, examples)) || heardName;
    const stroke: BreakStroke = {
      id: `n${n}`,
      at: mark?.at ?? seconds(at),
      over,
      // Each kind has its own level, so a new name brings its level.
      level: print ? levelOfKind(print, name.kind) : (heard.level[n] as number),
      ...name,
      byHand: mark?.at !== undefined,
      belowThreshold: mark?.at === undefined && over < least,
    };
    const last = found.at(-1);
    if (last && !stroke.byHand && !last.byHand && stroke.belowThreshold === last.belowThreshold && stroke.at - last.at < MERGE_SECONDS) {
      // Its place is that of the first, what it is that of the stronger.
      if (stroke.over > last.over) found[found.length - 1] = { ...stroke, at: last.at };
    } else found.push(stroke);
  });
  let added = 0;
  for (const mark of hand) {
    if (mark.n !== undefined) continue;
    const id = idOf(mark, added++);
    if (mark.gone || mark.at === undefined) continue;
    found.push({
      id,
      at: mark.at,
      over: HAND_OVER,
      level: levelNear(heard, mark.at),
      kind: mark.as ?? kindNear(heard, mark.at),
      sure: mark.as ? 1 : 0.25,
      ...alsoOf(mark.also),
      byHand: true,
      belowThreshold: false,
    });
  }
  return found.sort((a, b) => a.at - b.at);
}

/** Prints by stroke, read once for each list of them. */
const known = new WeakMap<readonly string[], readonly StrokePrint[]>();

/** Prints by stroke number; undefined for breaks detected by earlier versions. */
export function printsOf({ prints }: Pick<HeardStrokes, 'prints'>): readonly StrokePrint[] | undefined {
  if (!prints) return undefined;
  let read = known.get(prints);
  if (!read) known.set(prints, (read = prints.map(unpackPrint)));
  return read;
}

const alsoOf = (also: StrokeKind | null | undefined): { also?: StrokeKind } => (also ? { also } : {});

/** What the hand put is drawn as high as this. */
const HAND_OVER = 4;

/** What was heard nearest to a moment tells of a stroke that the hand puts there. */
function nearest(at: readonly number[], wanted: number): number {
  let best = -1;
  at.forEach((t, i) => {
    if (best < 0 || Math.abs(t - wanted) < Math.abs((at[best] as number) - wanted)) best = i;
  });
  return best;
}

const levelNear = ({ at, level }: Pick<HeardStrokes, 'at' | 'level'>, wanted: number): number => level[nearest(at, wanted)] ?? 0.1;
const kindNear = ({ at, kinds }: Pick<HeardStrokes, 'at' | 'kinds'>, wanted: number): StrokeKind => kinds[nearest(at, wanted)] ?? 'other';

/** The hand's marks with one more: on a stroke by its id, or, for null, a new one. */
export function markedStroke(hand: readonly HandMark[], id: string | null, change: Omit<HandMark, 'n'>): HandMark[] {
  if (id === null) return [...hand, change];
  const own = Number(id.slice(1));
  if (id.startsWith('n')) {
    const before = hand.find((m) => m.n === own);
    return before ? hand.map((m) => (m === before ? renamed(m, change) : m)) : [...hand, { n: own, ...change }];
  }
  let added = 0;
  return hand.map((m) => (m.n === undefined && added++ === own ? renamed(m, change) : m));
}

/** A mark with a change; what was struck together goes with the name that it stood beside. */
function renamed({ also, ...mark }: HandMark, change: Omit<HandMark, 'n'>): HandMark {
  return { ...mark, ...(also && change.as === undefined ? { also } : {}), ...change };
}
