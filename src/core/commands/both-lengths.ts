import { NamedError } from '../errors';
import type { BarScope, Move, Scope, SwingDivision } from '../model/feel';
import { SWING_DIVISIONS } from '../model/feel';
import type { Groove } from '../model/groove';
import type { Ornament } from '../model/ornament';
import { compareHits, type Hit, type Part } from '../model/part';
import { GRIDS, type GridName } from '../time/grid';
import type { TempoChange } from '../time/tempo-map';
import { ticks, type Ticks } from '../units';

/** Written twice as long at twice the tempo, or half as long at half of it. */
export type Times = 2 | 0.5;

const [SLOWEST, FASTEST] = [20, 300];
const MOST_STEPS_A_BEAT = 24;

const refuse = (why: string): NamedError => new NamedError('no-such-length', { why }, `The part cannot be converted: ${why}.`);

/** @example gridTimes('1/16', 2) // '1/8' */
export function gridTimes(grid: GridName, times: Times): GridName {
  const divisor = Number(grid.slice(2).replace('T', '')) / times;
  const found = GRIDS.find((g) => g === `1/${divisor}${grid.endsWith('T') ? 'T' : ''}`);
  if (!found) throw refuse(`there is no grid ${times === 2 ? 'twice as long' : 'half as long'} as ${grid}`);
  return found;
}

/**
 * Writes a part in notes twice as long at twice the tempo, or half as long at half of it: what is heard stays, bars are counted otherwise.
 * Grids of the feel and of ornaments go along. Draws of humanize and of chance go by places and fall anew.
 * @throws NamedError no-such-length, saying what has no such length
 */
export function timesLength(part: Part, times: Times): Part {
  if (part.breaks) throw refuse('its breaks fix where its bars are');
  const at = (tick: number): Ticks => ticks(Math.round(tick * times));
  const changesTimes = (changes: readonly TempoChange[]): TempoChange[] =>
    changes.map((t) => ({ tick: at(t.tick), microsecondsPerQuarter: t.microsecondsPerQuarter / times }));
  const tempo = changesTimes(part.tempo);
  if (tempo.some((t) => 60e6 / t.microsecondsPerQuarter < SLOWEST || 60e6 / t.microsecondsPerQuarter > FASTEST))
    throw refuse(`its tempo would lie outside of ${SLOWEST} to ${FASTEST} BPM`);
  const meter = part.meter.map((m, i) => {
    const next = part.meter[i + 1];
    const bar = (m.numerator * 4 * 80_640) / m.denominator;
    if (times === 0.5 && next && ((next.tick - m.tick) / bar) % 2 !== 0) throw refuse('its meter changes after an odd number of bars');
    return { ...m, tick: at(m.tick) };
  });
  const { sections, ...rest } = part;
  return {
    ...rest,
    tempo,
    ...(part.playerTempo ? { playerTempo: changesTimes(part.playerTempo) } : {}),
    meter,
    origin: at(part.origin),
    bars: Math.max(1, Math.ceil(part.bars * times)),
    hits: part.hits.map((h) => hitTimes(h, times, at)).sort(compareHits),
    rows: part.rows.map((r) => (r.cycle ? { ...r, cycle: { ...r.cycle, grid: gridTimes(r.cycle.grid, times) } } : r)),
    feel: { ...part.feel, moves: part.feel.moves.map((m) => moveTimes(m, times)) },
    ...(sections ? { sections: sections.map((s) => ({ ...s, from: firstBar(s.from, times), bars: wholeBars(s.bars, times) })) } : {}),
  };
}

function hitTimes(hit: Hit, times: Times, at: (tick: number) => Ticks): Hit {
  return {
    ...hit,
    tick: at(hit.tick),
    length: ticks(Math.max(hit.length > 0 ? 1 : 0, at(hit.length))),
    home: at(hit.home),
    ...(hit.other === undefined ? {} : { other: at(hit.other) }),
    ...(hit.ornament ? { ornament: ornamentTimes(hit.ornament, times, at) } : {}),
  };
}

function ornamentTimes(ornament: Ornament, times: Times, at: (tick: number) => Ticks): Ornament {
  switch (ornament.kind) {
    case 'flam':
      return ornament;
    case 'echo':
      return { ...ornament, grid: gridTimes(ornament.grid, times) };
    case 'roll':
      return {
        ...ornament,
        strokes: typeof ornament.strokes === 'number' ? ornament.strokes : gridTimes(ornament.strokes, times),
        ...(ornament.length === undefined ? {} : { length: ticks(Math.max(1, at(ornament.length))) }),
      };
  }
}

function moveTimes(move: Move, times: Times): Move {
  const scoped = move.scope ? { ...move, scope: scopeTimes(move.scope, times) } : move;
  switch (scoped.kind) {
    case 'quantize':
    case 'accents':
      return { ...scoped, grid: gridTimes(scoped.grid, times) };
    case 'swing': {
      const division = gridTimes(scoped.division, times);
      if (!(SWING_DIVISIONS as readonly string[]).includes(division)) throw refuse(`there is no swing of ${division}`);
      return { ...scoped, division: division as SwingDivision };
    }
    case 'groove':
      return { ...scoped, groove: grooveTimes(scoped.groove, times) };
    case 'humanize':
      return { ...scoped, span: Math.max(1, Math.min(32, Math.round(scoped.span * times))) };
    case 'lay':
    case 'apart':
    case 'timbre':
    case 'hands':
      return scoped;
  }
}

function grooveTimes(groove: Groove, times: Times): Groove {
  const [beats, stepsPerBeat] = [groove.beats * times, groove.stepsPerBeat / times];
  if (!Number.isInteger(stepsPerBeat) || stepsPerBeat > MOST_STEPS_A_BEAT || !Number.isInteger(beats * 2))
    throw refuse(`the groove ${groove.name} has no such steps`);
  return { ...groove, beats, stepsPerBeat };
}

function scopeTimes({ bars, steps, ...rest }: Scope, times: Times): Scope {
  return {
    ...rest,
    ...(bars ? { bars: barsTimes(bars, times) } : {}),
    ...(steps ? { steps: { ...steps, grid: gridTimes(steps.grid, times) } } : {}),
  };
}

function barsTimes({ from, to, every, at }: BarScope, times: Times): BarScope {
  const range = {
    ...(from === undefined ? {} : { from: firstBar(from, times) }),
    ...(to === undefined ? {} : { to: wholeBars(to, times) }),
  };
  if (every === undefined || !at) return range;
  if (times === 2) return { ...range, every: every * 2, at: at.flatMap((b) => [2 * b - 1, 2 * b]) };
  const pairs = at.filter((b) => b % 2 === 1).map((b) => (b + 1) / 2);
  if (every % 2 !== 0 || pairs.some((b) => !at.includes(2 * b)) || at.length !== pairs.length * 2)
    throw refuse('a move touches single bars that become half bars');
  return { ...range, every: every / 2, at: pairs };
}

/** Bars count from 1. */
function firstBar(bar: number, times: Times): number {
  if (times === 0.5 && bar % 2 === 0) throw refuse('something begins with a bar that becomes the second half of one');
  return times === 2 ? 2 * bar - 1 : (bar + 1) / 2;
}

function wholeBars(bars: number, times: Times): number {
  if (times === 0.5 && bars % 2 !== 0) throw refuse('something has an odd number of bars');
  return bars * times;
}
