import { NamedError } from '../errors';
import { MAX_BARS, MAX_QUARTERS, MOST_HITS, MOST_TEMPOS } from '../limits';
import type { TimbreColumns } from '../feel/timbre-columns';
import type { HitRange } from '../feel/work';
import type { Homes } from '../homes/homes';
import { homeTest } from '../homes/homes';
import { compareHits, type Hit, type Part } from '../model/part';
import type { OrderEntry, Section } from '../model/song';
import { columnsOfHits } from '../part/columns';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { barsOf, sectionOf } from '../part/sections';
import { strokesAtMost } from '../ornament/strokes';
import { weightOf } from '../moves/all';
import { cutLengths, followSwing, performPart, swungFrom, writtenPerformance, type Performance, type Swung } from '../perform/perform';
import type { VoiceName } from '../row-names';
import { sameMeter, type MeterChange } from '../time/meter-map';
import { TempoMap, type TempoChange } from '../time/tempo-map';
import { clampVelocity, seconds, ticks, TICKS_PER_QUARTER, type Seconds, type Ticks } from '../units';
import { countCycled, soundingPart } from './sounding';

/** A stretch of bars as it sounds once. */
export interface OrderRound {
  /** Bars from 0, `to` not included. */
  from: number;
  to: number;
  /** How often this stretch has sounded with it, from 1. */
  pass: number;
  /** What stands at its start: a section's name. */
  name?: string;
  section?: string;
  rests?: readonly VoiceName[];
  /** Percent. */
  level?: number;
  sway?: number;
}

/** Where a round begins. */
export interface RoundMark {
  tick: number;
  seconds: Seconds;
  round: OrderRound;
}

/** Rounds one after another as one part that is performed already. */
export interface Unrolled {
  part: Part;
  performance: Performance;
  marks: RoundMark[];
}

/** The running order, round by round; passes of a section count over all of its lines. */
export function roundsOfOrder(part: Pick<Part, 'sections' | 'order'>): OrderRound[] {
  const heard = new Map<string, number>();
  return (part.order ?? []).flatMap((entry: OrderEntry): OrderRound[] => {
    const section = sectionOf(part, entry.section);
    if (!section) return [];
    const { times = 1, rests, level, sway } = entry;
    return Array.from({ length: times }, (): OrderRound => {
      const pass = (heard.get(section.id) ?? 0) + 1;
      heard.set(section.id, pass);
      return {
        ...barsOf(section),
        pass,
        name: section.name,
        section: section.id,
        ...(rests ? { rests } : {}),
        ...(level === undefined ? {} : { level }),
        ...(sway === undefined ? {} : { sway }),
      };
    });
  });
}

/** A section once, as its first pass. */
export const roundOfSection = (section: Section): OrderRound => ({ ...barsOf(section), pass: 1, name: section.name, section: section.id });

/** Some bars several times over. */
export const roundsOfBars = (from: number, to: number, passes: number): OrderRound[] =>
  Array.from({ length: passes }, (_, i) => ({ from, to, pass: i + 1 }));

/** Mark between a hit's id, and the number and pass of the round that it is played in. */
export const IN_ROUND = '\u0002';

/** What the id of a hit tells: the hit of the sounding part that it is, and the pass that it is played in; of others pass 1. */
export function placeOfId(id: string): { id: string; pass: number } {
  const at = id.indexOf(IN_ROUND);
  return at < 0 ? { id, pass: 1 } : { id: id.slice(0, at), pass: Number(id.slice(id.indexOf('.', at) + 1)) };
}

interface Piece {
  hit: Hit;
  /** In the unrolled part. */
  tick: number;
  velocity: number;
  home: number;
  placedHome: number;
  /** Where strokes sound that follow its swing. */
  swung: (() => Swung | null) | undefined;
  doubtful: number;
  pan: number;
  pitch: number;
  brightness: number;
}

/** Each round looks at all hits: so many in all take about a second. */
const MOST_LOOKS = 8e6;

/** What would take too long, or too much room, is refused before it starts. */
function checkWork(part: Part, rounds: readonly OrderRound[]) {
  if (rounds.reduce((sum, r) => sum + r.to - r.from, 0) > MAX_BARS) throw new NamedError('too-many-bars');
  const map = meterMapOf(part);
  const known = new Map<string, { length: number; tempos: number }>();
  let [length, tempos] = [0, 0];
  for (const { from, to } of rounds) {
    const key = `${from} ${to}`;
    let stretch = known.get(key);
    if (!stretch) {
      const [start, end] = [map.barOf(from).start, map.barOf(to).start];
      known.set(key, (stretch = { length: end - start, tempos: part.tempo.filter((c) => c.tick > start && c.tick < end).length }));
    }
    length += stretch.length;
    tempos += stretch.tempos;
    if (length / TICKS_PER_QUARTER > MAX_QUARTERS) throw new NamedError('part-too-long');
  }
  if (tempos > MOST_TEMPOS) throw new NamedError('too-many-tempos');
  // Rounds that are alike share what is performed; each move looks at each hit again.
  const distinct = new Set(rounds.map(({ from, to, pass, sway }) => `${from} ${to} ${pass} ${sway}`)).size;
  if (distinct * countCycled(part) * (1 + weightOf(part.feel) / 4) > MOST_LOOKS)
    throw new NamedError('too-much-work', { rounds: rounds.length, hits: part.hits.length });
}

/** Tempo and meter of the rounds, and where each begins. */
function timeOf(
  part: Pick<Part, 'tempo' | 'meter' | 'origin'>,
  rounds: readonly OrderRound[],
): { tempo: TempoChange[]; meter: MeterChange[]; marks: RoundMark[]; end: number; bars: number } {
  const map = meterMapOf(part);
  const times = tempoMapOf(part);
  const changes = part.tempo;
  const tempo: TempoChange[] = [];
  const meter: MeterChange[] = [];
  const marks: RoundMark[] = [];
  let [tick, second, bars] = [0, 0, 0];
  // Rounds of the same bars share what is looked up: there may be thousands of them, and of tempo changes.
  const known = new Map<string, { holding: TempoChange | undefined; inside: TempoChange[] }>();
  const changesOf = ({ from, to }: OrderRound, start: Ticks, end: Ticks) => {
    const key = `${from} ${to}`;
    let found = known.get(key);
    if (!found)
      known.set(
        key,
        (found = {
          holding: changes.findLast((c) => c.tick <= start) ?? changes[0],
          inside: changes.filter((c) => c.tick > start && c.tick < end),
        }),
      );
    return found;
  };
  for (const round of rounds) {
    const [start, end] = [map.barOf(round.from).start, map.barOf(round.to).start];
    marks.push({ tick, seconds: seconds(second), round });
    const at = (from: number, microsecondsPerQuarter: number) => {
      if (tempo.at(-1)?.microsecondsPerQuarter !== microsecondsPerQuarter)
        tempo.push({ tick: ticks(tick + from - start), microsecondsPerQuarter });
    };
    const { holding, inside } = changesOf(round, start, end);
    if (holding) at(start, holding.microsecondsPerQuarter);
    for (const c of inside) at(c.tick, c.microsecondsPerQuarter);
    for (let b = round.from; b < round.to; b++) {
      const bar = map.barOf(b);
      const last = meter.at(-1);
      if (last && sameMeter(last, bar.meter)) continue;
      const { tick: _tick, ...own } = bar.meter;
      meter.push({ ...own, tick: ticks(tick + bar.start - start) });
    }
    tick += end - start;
    second += times.toSeconds(end) - times.toSeconds(start);
    bars += round.to - round.from;
  }
  return { tempo, meter, marks, end: tick, bars };
}

/**
 * Performs rounds of a part and puts them one after another: each by the one performPart over its bars, joined in seconds, then in ticks of
 * the unrolled tempo map. An early first hit of a round sounds at the end of the one before; lengths are cut across borders. A round's
 * level multiplies the performed velocity after nudges, its sway the feel's.
 * @param written as written instead of performed
 * @throws NamedError part-too-long, too-many-bars, too-many-hits, too-much-work
 */
export function unroll(part: Part, rounds: readonly OrderRound[], written = false): Unrolled {
  checkWork(part, rounds);
  const { tempo, meter, marks, bars } = timeOf(part, rounds);
  const map = new TempoMap(tempo);
  const pieces: Piece[] = [];
  const performances = performer(part, written);
  let timbred = false;
  let strokes = 0;
  marks.forEach((mark, n) => {
    const performed = performances(mark.round);
    timbred ||= performed.performance.timbre !== null;
    strokes += addRound(part, performed, mark, n, map, pieces);
    if (strokes > MOST_HITS) throw new NamedError('too-many-hits');
  });
  pieces.sort((a, b) => compareHits(a.hit, b.hit));
  return { part: unrolledPart(part, pieces, { tempo, meter, bars }), performance: performanceOf(pieces, timbred), marks };
}

/** A pass of some bars; performed is what lies in the range, a bar more on either side. */
interface Performed {
  sounding: Part;
  performance: Performance;
  range: HitRange;
}

/** Hits written between two ticks. */
function hitsAround({ hits }: Pick<Part, 'hits'>, start: number, end: number): HitRange {
  const from = hits.findIndex((h) => h.tick >= start);
  const last = hits.findLastIndex((h) => h.tick < end);
  return from < 0 ? { from: 0, to: 0 } : { from, to: Math.max(from, last + 1) };
}

/** Performs rounds; rounds that are alike share what is performed. */
function performer(part: Part, written: boolean): (round: OrderRound) => Performed {
  const known = new Map<string, Performed>();
  const map = meterMapOf(part);
  return ({ from, to, pass, sway = 100 }) => {
    const shift = (pass - 1) * (map.barOf(to).start - map.barOf(from).start);
    const key = `${pass} ${sway} ${from} ${to}`;
    let found = known.get(key);
    if (!found) {
      const sounding = soundingPart(part, pass);
      const feel = sway === 100 ? sounding.feel : { ...sounding.feel, sway: (sounding.feel.sway * sway) / 100 };
      const range = hitsAround(sounding, map.barOf(from - 1).start, map.barOf(to).start + map.barOf(to).length);
      found = {
        sounding,
        range,
        performance: written ? writtenPerformance(sounding, range) : performPart({ ...sounding, feel, round: { pass, shift } }, range),
      };
      known.set(key, found);
    }
    return found;
  };
}

/** Adds the hits of a round: those whose homes lie in it, without the rows that rest. @returns how many strokes they have at most */
function addRound(
  part: Part,
  { sounding, performance, range }: Performed,
  { tick: at, seconds: second, round }: RoundMark,
  n: number,
  map: TempoMap,
  pieces: Piece[],
): number {
  const bars = meterMapOf(part);
  const [start, end] = [bars.barOf(round.from).start, bars.barOf(round.to).start];
  const own = tempoMapOf(part);
  const belongs = homeTest(part, start, end);
  const rests = new Set(round.rests);
  const level = (round.level ?? 100) / 100;
  // Within the round ticks are ticks; what sounds before or after it is placed by the clock.
  const placed = (tick: number): number =>
    tick >= start && tick < end ? at + tick - start : map.toTicks(seconds(second + own.toSeconds(ticks(tick)) - own.toSeconds(start)));
  let strokes = 0;
  for (let i = range.from; i < range.to; i++) {
    const hit = sounding.hits[i] as Hit;
    const home = performance.homes.ticks[i] as number;
    if (rests.has(hit.voice) || !belongs(home)) continue;
    strokes += strokesAtMost(sounding, i);
    pieces.push({
      hit: {
        ...hit,
        id: `${hit.id}${IN_ROUND}${n}.${round.pass}`,
        tick: ticks(Math.round(at + hit.tick - start)),
        home: ticks(Math.round(at + hit.home - start)),
      },
      tick: placed(performance.ticks[i] as number),
      velocity: clampVelocity((performance.velocities[i] as number) * level),
      home: at + home - start,
      placedHome: placed(performance.placedHomes[i] as number),
      swung:
        hit.ornament &&
        (() => {
          const from = swungFrom(performance, i);
          return from ? (offset: number) => placed(from(offset)) : null;
        }),
      doubtful: performance.homes.doubtful[i] as number,
      pan: performance.timbre ? (performance.timbre.pans[i] as number) : (hit.pan ?? 0),
      pitch: performance.timbre ? (performance.timbre.pitches[i] as number) : (hit.pitch ?? 0),
      brightness: performance.timbre ? (performance.timbre.brightness[i] as number) : (hit.brightness ?? 0),
    });
  }
  return strokes;
}

function unrolledPart(part: Part, pieces: readonly Piece[], time: Pick<Part, 'tempo' | 'meter' | 'bars'>): Part {
  const { sections: _sections, order: _order, everyPass: _every, ...rest } = part;
  const hits = pieces.map(({ hit: { chance: _chance, passes: _passes, ...hit } }): Hit => hit);
  return { ...rest, ...time, origin: ticks(0), rows: part.rows.map(({ cycle: _cycle, ...row }) => row), hits };
}

function performanceOf(pieces: readonly Piece[], timbred: boolean): Performance {
  const column = (of: (p: Piece) => number): Float64Array => Float64Array.from(pieces, of);
  const times = column((p) => p.tick);
  const { keys, lengths } = columnsOfHits(pieces.map((p) => p.hit));
  const homes: Homes = { ticks: column((p) => p.home), doubtful: Uint8Array.from(pieces, (p) => p.doubtful) };
  const timbre: TimbreColumns | null = timbred
    ? { pans: column((p) => p.pan), pitches: column((p) => p.pitch), brightness: column((p) => p.brightness) }
    : null;
  return followSwing(
    {
      ticks: times,
      velocities: Uint8Array.from(pieces, (p) => p.velocity),
      lengths: cutLengths(keys, times, lengths),
      homes,
      placedHomes: column((p) => p.placedHome),
      timbre,
    },
    (index) => pieces[index]?.swung?.() ?? null,
  );
}
