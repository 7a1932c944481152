import { offBeatOf } from '../selection/rules';
import { meterMapOf } from '../part/part-time';
import { indicesByVoice } from '../part/by-voice';
import type { Hit, Part } from '../model/part';
import { stepOf, type GridName } from '../time/grid';
import type { Bar, Beat } from '../time/meter-map';
import { ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import { evenSpread } from './even-spread';

/** Rhythm cells: what most grooves are built of, in any meter and grid. */
export const CELLS = ['backbeat', 'four-on-the-floor', 'half-time', 'off-beats', '3-3-2', 'even-spread'] as const;
export type CellName = (typeof CELLS)[number];

export interface CellRequest {
  cell: CellName;
  /** Bars, 0-based and without `to`. */
  from: number;
  to: number;
  grid: GridName;
  /** The row for cells of one voice; the others have their own. */
  voice?: VoiceName;
  velocity: number;
  /** For the even spread: hits, steps and rotation. */
  k?: number;
  n?: number;
  rotation?: number;
}

/** A hit that a cell proposes. */
export interface CellHit {
  voice: VoiceName;
  tick: Ticks;
  velocity: number;
}

/** The voice that a cell is for unless another is asked for; half-time has two of its own. */
export const VOICE_OF_CELL: Readonly<Record<CellName, VoiceName>> = {
  backbeat: 'snare',
  'four-on-the-floor': 'kick',
  'half-time': 'snare',
  'off-beats': 'hat-closed',
  '3-3-2': 'kick',
  'even-spread': 'hat-closed',
};

/**
 * The hits of a cell over some bars. Steps that already have a hit of the voice are left out, so that a cell never doubles one.
 * @example cellHits(part, { cell: 'backbeat', from: 0, to: 1, grid: '1/16', velocity: 100 }) // snares on 2 and 4
 */
export function cellHits(part: Part, request: CellRequest): CellHit[] {
  const map = meterMapOf(part);
  const voice = request.voice ?? VOICE_OF_CELL[request.cell];
  const range = { start: map.barOf(request.from).start, end: map.barOf(request.to).start };
  const found: CellHit[] = [];
  const put = (tick: number, who: VoiceName = voice) => found.push({ voice: who, tick: ticks(tick), velocity: request.velocity });
  if (request.cell === 'even-spread') for (const line of spreadLines(range, request)) put(line);
  else {
    for (let b = request.from; b < request.to; b++) {
      const bar = map.barOf(b);
      putCell(request, bar, map.beatsOf(bar), put);
    }
  }
  const reach = Math.min(stepOf(request.grid), stepOf('1/16')) / 2;
  return found.filter((h) => h.tick < range.end && !hasHitNear(part, h.voice, h.tick, reach));
}

function hasHitNear(part: Part, voice: VoiceName, tick: number, reach: number): boolean {
  return (indicesByVoice(part.hits).get(voice) ?? []).some((i) => Math.abs((part.hits[i] as Hit).tick - tick) < reach);
}

/** An even spread runs on over bar lines from the start of the range. */
function* spreadLines(range: { start: number; end: number }, { grid, k = 3, n = 8, rotation = 0 }: CellRequest): Generator<number> {
  const step = stepOf(grid);
  const hits = evenSpread(k, n, rotation);
  for (let cycle: number = range.start; cycle < range.end; cycle += n * step) for (const s of hits) yield cycle + s * step;
}

function putCell(request: CellRequest, bar: Bar, beats: readonly Beat[], put: (tick: number, voice?: VoiceName) => void) {
  switch (request.cell) {
    case 'backbeat':
      for (const beat of backbeats(beats)) put(beat.start);
      return;
    case 'four-on-the-floor':
      for (const beat of beats) put(beat.start);
      return;
    case 'half-time': {
      const middle = beats[Math.ceil(beats.length / 2)];
      put(bar.start, 'kick');
      if (middle) put(middle.start);
      return;
    }
    case 'off-beats':
      for (const beat of beats) put(beat.start + offBeatOf(beat.length, bar.meter.denominator));
      return;
    case 'even-spread':
      // Runs on over bar lines: laid by spreadLines.
      return;
    case '3-3-2': {
      const step = stepOf(request.grid);
      for (let s = 0; s * step < bar.length; s++) if ([0, 3, 6].includes(s % 8)) put(bar.start + s * step);
      return;
    }
  }
}

/** Beats 2 and 4; in bars of three equal beats 2 and 3, in others every second one. */
function backbeats(beats: readonly Beat[]): readonly Beat[] {
  if (beats.length === 3 && beats.every((b) => b.length === beats[0]?.length)) return beats.slice(1);
  return beats.filter((b) => b.index % 2 === 1);
}
