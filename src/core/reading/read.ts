import { compareHits, type Hit } from '../model/part';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { cellsOfHits } from './cells';
import { exactHomes } from './exact';
import { mainStrokes } from './flams';
import { fit as fitted } from './fit';
import type { Fit, Material, Readable, RowCell } from './material';
import { foundSwings, type Swings } from '../homes/swings';

/** Where the hits of a part belong, as read; columns run parallel to `part.hits`. */
export interface Reading {
  /** The straight line that a hit belongs to, in ticks. */
  homes: Float64Array;
  /** How likely that is, 0 to 1; 1 where it stands exactly on its line, or was decided. */
  sure: Float64Array;
  /** The line that is next likely; NaN where there is none. */
  others: Float64Array;
  /** Where the home's line is played, in ticks: as the part swings. */
  places: Float64Array;
  /** How much the part swings by itself; null where straight explains it as well. */
  swings: Swings | null;
}

/** Lines that are less likely than this are not worth naming. */
const LEAST_OTHER = 0.005;
/** Lines that no swing bends between its own: whole multiples of 1/64 of a quarter. */
const BINARY = TICKS_PER_QUARTER / 64;
const NEAR_SWUNG = 0.02 * TICKS_PER_QUARTER;

/** Whether a hit's home stands, and is not read. */
export type FixedTest = (hit: Hit) => boolean;

/** A hand chose the line, or put the hit there. */
export const isSettled: FixedTest = ({ decided, placed }) => decided === true || placed === true;

/**
 * Reads the homes of all hits together: a hidden Markov model over beats, fitted by expectation and maximisation.
 * @param isFixed hits that keep their homes; these help to read the others
 */
export function readHomes(part: Readable, isFixed: FixedTest = isSettled): Reading {
  const { hits } = part;
  const reading: Reading = { homes: new Float64Array(hits.length), sure: new Float64Array(hits.length), others: new Float64Array(hits.length).fill(Number.NaN), places: new Float64Array(hits.length), swings: null };
  if (hits.length === 0) return reading;
  const { material, strokes, mains, literal } = materialOf(part, isFixed);
  if (isStraight(part, literal, isFixed)) return { ...reading, homes: literal, places: literal.slice(), sure: reading.sure.fill(1) };
  const fit = fitted(material);
  reading.swings = swingsAsFitted(part, strokes, fit);
  settle(reading, part, strokes, mains, literal, fit, isFixed);
  return reading;
}

/** Every hit stands exactly on a line that no swing bends: there is nothing to weigh. */
function isStraight(part: Readable, literal: Float64Array, isFixed: FixedTest): boolean {
  const map = meterMapOf(part);
  return literal.every((line, i) => !Number.isNaN(line) && !isFixed(part.hits[i] as Hit) && (line - map.barAt(ticks(line)).start) % BINARY === 0);
}

/** How much main strokes swing, on the lines that they are taken for. */
function swingsAsFitted(part: Readable, strokes: Int32Array, { answers }: Fit): Swings | null {
  const hits = Array.from(strokes, (i, k): Hit => ({ ...(part.hits[i] as Hit), home: ticks(answers[k]![0]?.home ?? (part.hits[i] as Hit).tick) }));
  return foundSwings({ hits: hits.sort(compareHits), meter: part.meter, origin: part.origin });
}

/** What of a part is read: its cells, and the strokes of its rows without grace strokes. */
function materialOf(part: Readable, isFixed: FixedTest): { material: Material; strokes: Int32Array; mains: Int32Array; literal: Float64Array } {
  const { hits } = part;
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const raster = part.source?.ppq ? TICKS_PER_QUARTER / part.source.ppq : 1;
  const { cells, of } = cellsOfHits(map, hits.map((h) => h.tick));
  const mains = Int32Array.from(hits, (_, i) => i);
  const literal = new Float64Array(hits.length).fill(Number.NaN);
  const rowCells: RowCell[] = [];
  const strokes: number[] = [];
  const byVoice = [...indicesByVoice(hits).values()];
  byVoice.forEach((indices, row) => {
    const times = indices.map((i) => (hits[i] as Hit).tick);
    const exact = exactHomes(times, indices.map((i) => cells[of[i] as number]!), raster);
    exact.forEach((home, k) => (literal[indices[k] as number] = home));
    const main = mainStrokes(indices.map((i) => ({ at: (hits[i] as Hit).tick, velocity: (hits[i] as Hit).velocity, seconds: tempo.toSeconds((hits[i] as Hit).tick) })), (k) => Number.isNaN(exact[k] as number) && !isFixed(hits[indices[k] as number] as Hit), TICKS_PER_QUARTER);
    let open: RowCell | null = null;
    indices.forEach((i, k) => {
      mains[i] = indices[main[k] as number] as number;
      if (main[k] !== k) return;
      const cell = of[i] as number;
      if (open?.cell !== cell) {
        const before: RowCell | null = open;
        const touches = before !== null && before.cell === cell - 1 && cells[cell - 1]!.start + cells[cell - 1]!.length === cells[cell]!.start;
        open = { row, cell, from: strokes.length, to: strokes.length, before: touches ? rowCells.length - 1 : -1, after: -1 };
        if (touches) before.after = rowCells.length;
        rowCells.push(open);
      }
      strokes.push(i);
      open.to = strokes.length;
    });
  });
  const ofCell: number[][] = cells.map(() => []);
  rowCells.forEach((rc, index) => ofCell[rc.cell]!.push(index));
  const times = Float64Array.from(strokes, (i) => (hits[i] as Hit).tick);
  const material: Material = {
    cells,
    rows: byVoice.length,
    rowCells,
    ofCell,
    ticks: times,
    decided: Float64Array.from(strokes, (i) => (isFixed(hits[i] as Hit) ? (hits[i] as Hit).home : Number.NaN)),
    inTime: Int32Array.from(strokes, (_, k) => k).sort((a, b) => (times[a] as number) - (times[b] as number)),
    raster,
  };
  return { material, strokes: Int32Array.from(strokes), mains, literal };
}

function settle(reading: Reading, part: Readable, strokes: Int32Array, mains: Int32Array, literal: Float64Array, fit: Fit, isFixed: FixedTest) {
  const { hits } = part;
  const { homes, sure, others, places, swings } = reading;
  const triplets = swings ? tripletRows(part, literal, swings.division === '1/8' ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2) : new Set<string>();
  strokes.forEach((i, k) => {
    const [first, second] = fit.answers[k]!;
    const hit = hits[i] as Hit;
    homes[i] = first?.home ?? hit.tick;
    places[i] = first?.place ?? hit.tick;
    sure[i] = Math.min(1, first?.p ?? 1);
    if (second && second.p >= LEAST_OTHER) others[i] = second.home;
    const line = literal[i] as number;
    // What stands exactly where the part swings to belongs to the swung line, unless the row plays both thirds: those are triplets.
    const isSwungThere = swings !== null && !triplets.has(hit.voice) && homes[i] !== line && Math.abs((places[i] as number) - line) < NEAR_SWUNG && Math.abs((places[i] as number) - (homes[i] as number)) > NEAR_SWUNG;
    if (!Number.isNaN(line) && !isSwungThere) {
      homes[i] = places[i] = line;
      sure[i] = 1;
      others[i] = Number.NaN;
    }
    if (isFixed(hit)) {
      homes[i] = hit.home;
      places[i] = fit.answers[k]!.find((a) => a.home === hit.home)?.place ?? hit.home;
      sure[i] = 1;
      others[i] = Number.NaN;
    }
  });
  // Grace strokes take the home of their main stroke.
  mains.forEach((main, i) => {
    if (main === i) return;
    homes[i] = homes[main] as number;
    sure[i] = sure[main] as number;
    others[i] = others[main] as number;
    places[i] = places[main] as number;
  });
  for (let i = 0; i < homes.length; i++) homes[i] = ticks(homes[i] as number);
}

/** At least this share as many exact strokes on the first third of pairs as on the second. */
const BOTH_THIRDS = 0.2;

/** Rows whose exact strokes stand on both thirds of pairs. @param pair ticks */
function tripletRows(part: Readable, literal: Float64Array, pair: number): Set<string> {
  const map = meterMapOf(part);
  const counts = new Map<string, [first: number, second: number]>();
  part.hits.forEach((hit, i) => {
    const line = literal[i] as number;
    if (Number.isNaN(line)) return;
    const place = (line - map.barAt(ticks(line)).start) % pair;
    const third = Math.abs(place - pair / 3) < 1 ? 0 : Math.abs(place - (2 * pair) / 3) < 1 ? 1 : null;
    if (third === null) return;
    const count = counts.get(hit.voice) ?? [0, 0];
    count[third]++;
    counts.set(hit.voice, count);
  });
  return new Set([...counts].flatMap(([voice, [first, second]]) => (first > 0 && first >= BOTH_THIRDS * second ? [voice] : [])));
}
