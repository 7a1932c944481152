import { keyInPart } from '../commands/place';
import { withHits } from '../commands/copy';
import { conflictsOf, type Conflict, type HandLimits, type TimedStroke } from '../hands/limits';
import { homesOf } from '../homes/homes';
import type { Hit, HitId, Part } from '../model/part';
import { replaceHits } from '../part/diff';
import { lockTest } from '../part/locks';
import { endOfPart, meterMapOf, tempoMapOf } from '../part/part-time';
import { soundOfRow } from '../part/rows';
import { randomStream } from '../random';
import { median } from '../statistics';
import { stepOf, type GridName } from '../time/grid';
import { clamp, clampVelocity, milliseconds, ticks, TICKS_PER_QUARTER, type Ticks } from '../units';
import { limbOf } from '../voices';
import type { VoiceName } from '../row-names';
import { FILL_SHAPES, type FillShape } from './shapes';

/** Grids that a fill may have. */
export const FILL_GRIDS: readonly GridName[] = ['1/8', '1/8T', '1/16', '1/16T', '1/32'];

export interface FillOptions {
  /** In quarters, half to eight; no longer than what lies before the end of its bar. */
  length: number;
  grid: GridName;
  shape: FillShape;
  /** Percent that it is louder than the groove's backbeat and kick. */
  louder: number;
  /** Percent that the first of two strokes is louder. */
  first: number;
  /** Where the part has a crash, it is struck on the downbeat after the fill. */
  crash: boolean;
  seed: number;
}

export const FIRST_FILL: FillOptions = { length: 2, grid: '1/16', shape: 'toms', louder: 5, first: 8, crash: true, seed: 1 };

/** What a fill changes: hits that leave, and strokes that come. */
export interface FillPlan {
  from: Ticks;
  end: Ticks;
  removed: ReadonlySet<HitId>;
  added: readonly FillStroke[];
}

export interface FillStroke {
  voice: VoiceName;
  tick: Ticks;
  velocity: number;
  /** Set apart from what sounds with it, in ms. */
  nudge?: number;
}

/** Two that fall together are set apart by so much, in ms. */
const APART_MS = 5;
const LENGTH: Ticks = ticks(TICKS_PER_QUARTER / 8);

/**
 * Plans a fill at the end of a bar. Hand strokes leave under it, the hi-hat pedal keeps time in quarter notes; what hands and feet cannot
 * play is not proposed. On the downbeat after it come the kick and, where that is wanted and the part has one, the crash.
 * @param bar counted from 0
 * @param next where that downbeat is: the bar after it; null at the part's end
 */
export function planFill(part: Part, bar: number, options: FillOptions, next: Ticks | null, limits?: HandLimits): FillPlan {
  const { start: barStart, length: barLength } = meterMapOf(part).barOf(bar);
  const end = ticks(barStart + barLength);
  const wanted = Math.round(clamp(options.length, 0.5, 8) * TICKS_PER_QUARTER);
  const from = ticks(Math.max(part.origin, end - wanted));
  const shape = FILL_SHAPES[options.shape];
  const homes = homesOf(part).ticks;
  const isLocked = lockTest(part);
  const removed = new Set<HitId>();
  part.hits.forEach((hit, i) => {
    const home = homes[i] as number;
    if (home >= from && home < end && !isLocked(hit) && shape.leaves(limbOf(soundOfRow(part, hit.voice)), home, { from, end }))
      removed.add(hit.id);
  });
  const level = levelOf(part);
  const base = level * (1 + options.louder / 100);
  const after = downbeat(part, next, base, options.crash);
  const step = stepOf(options.grid);
  const steps = Math.max(1, Math.round((end - from) / step));
  const random = randomStream(options.seed);
  const heard = part.rows.map((r) => r.voice);
  const kept = part.hits.filter((h) => !removed.has(h.id));
  const strokes = shape
    .strokes({ steps, step, from, level, rows: heard, hits: part.hits, random })
    .map((s): FillStroke => ({ ...s, velocity: s.velocity * base }));
  const pedal = shape.keepsTime ? pedalUnder(part, { barStart, from, end }, base) : [];
  const played = setApart(onFree([...accented(strokes, options.first), ...pedal, ...after], kept));
  return { from, end, removed, added: playable(part, kept, played, next, limits) };
}

const NO_BACKBEAT = 100;

/** How loud the groove is: the median of its backbeat and kick, ghosts left out; of all its hits where it has neither. */
function levelOf(part: Part): number {
  const loud = part.hits.filter((h) => !h.ghost && !h.choke);
  const backbeat = loud.filter((h) => /^(kick|snare)/.test(soundOfRow(part, h.voice)));
  const velocities = (backbeat.length > 0 ? backbeat : loud).map((h) => h.velocity);
  return velocities.length === 0 ? NO_BACKBEAT : median(velocities);
}

/** Against the groove's level. */
const PEDAL_SHARE = 0.75;

/** Quarter notes on the pedal, as loud as it is played elsewhere. */
function pedalUnder(part: Part, { barStart, from, end }: { barStart: number; from: number; end: number }, base: number): FillStroke[] {
  const own = part.hits.filter((h) => h.voice === 'hat-pedal' && !h.choke).map((h) => h.velocity);
  const velocity = clampVelocity(own.length > 0 ? median(own) : base * PEDAL_SHARE);
  const first = Math.ceil((from - barStart) / TICKS_PER_QUARTER);
  const count = Math.ceil((end - barStart) / TICKS_PER_QUARTER) - first;
  return Array.from({ length: count }, (_, i) => ({
    voice: 'hat-pedal',
    tick: ticks(barStart + (first + i) * TICKS_PER_QUARTER),
    velocity,
  }));
}

/** Of each two the first is louder, whatever rounding does. */
function accented(strokes: readonly FillStroke[], first: number): FillStroke[] {
  const out = strokes.map((s, i): FillStroke => ({ ...s, velocity: clampVelocity(s.velocity * (i % 2 === 0 ? 1 + first / 100 : 1)) }));
  for (let i = 1; i < out.length; i += 2) {
    const [a, b] = [out[i - 1] as FillStroke, out[i] as FillStroke];
    if (b.velocity < a.velocity) continue;
    if (a.velocity < 2) out[i - 1] = { ...a, velocity: 2 };
    out[i] = { ...b, velocity: (out[i - 1] as FillStroke).velocity - 1 };
  }
  return out;
}

/** Crash and kick after the fill. */
function downbeat(part: Part, next: Ticks | null, base: number, crash: boolean): FillStroke[] {
  if (next === null || next >= endOfPart(part)) return [];
  const has = (voice: VoiceName): boolean => part.rows.some((r) => r.voice === voice);
  const loud = clampVelocity(base * 1.08);
  return [
    ...(crash && has('crash') ? [{ voice: 'crash', tick: next, velocity: loud }] : []),
    ...(has('kick') ? [{ voice: 'kick', tick: next, velocity: loud }] : []),
  ];
}

/** Nobody strikes two things at the very same moment: of those that fall together each comes a little after the one before. */
function setApart(strokes: readonly FillStroke[]): FillStroke[] {
  const together = new Map<Ticks, number>();
  return strokes.map((stroke) => {
    const before = together.get(stroke.tick) ?? 0;
    together.set(stroke.tick, before + 1);
    return before === 0 ? stroke : { ...stroke, nudge: before * APART_MS };
  });
}

/** Strokes where their row has none at that place. */
function onFree(strokes: readonly FillStroke[], kept: readonly Hit[]): FillStroke[] {
  const taken = new Set(kept.map((h) => `${h.voice} ${h.tick}`));
  return strokes.filter((s) => !taken.has(`${s.voice} ${s.tick}`));
}

interface Played extends TimedStroke {
  added?: FillStroke;
}

/** Leaves out what no limb is free for: of a moment that cannot be played a stroke of the fill. */
function playable(part: Part, kept: readonly Hit[], strokes: readonly FillStroke[], next: Ticks | null, limits?: HandLimits): FillStroke[] {
  const tempo = tempoMapOf(part);
  const timeOf = (tick: number, ms = 0): number => tempo.toSeconds(ticks(tick)) * 1000 + ms;
  let list = [...strokes];
  // Each round takes at least one stroke out.
  for (;;) {
    if (list.length === 0) return [];
    const first = list.reduce((least, s) => Math.min(least, s.tick), Infinity) - 2 * TICKS_PER_QUARTER;
    const last = list.reduce((most, s) => Math.max(most, s.tick), -Infinity) + 2 * TICKS_PER_QUARTER;
    const around: Played[] = [
      ...kept
        .filter((h) => !h.choke && h.tick >= first && h.tick <= last)
        .map((h): Played => ({ ms: timeOf(h.tick, h.nudge?.ms), voice: soundOfRow(part, h.voice) })),
      ...list.map((added): Played => ({ ms: timeOf(added.tick, added.nudge), voice: soundOfRow(part, added.voice), added })),
    ].sort((a, b) => a.ms - b.ms);
    const out = conflictsOf(around, limits).flatMap((c) => toLeaveOut(c, around, next) ?? []);
    if (out.length === 0) return list;
    const gone = new Set(out);
    list = list.filter((s) => !gone.has(s));
  }
}

/**
 * The stroke of the fill that makes a moment impossible: the one that finds no limb, another of the moment, or the one just before. The
 * downbeat after the fill is what it leads to: it goes last.
 */
function toLeaveOut({ stroke, moment }: Conflict<Played>, around: readonly Played[], next: Ticks | null): FillStroke | undefined {
  const isWithin = (s: Played): boolean => s.added !== undefined && s.added.tick !== next;
  if (isWithin(stroke)) return stroke.added;
  // A foot that helps with a kick is missing at the pedal.
  const isSameLimb = (s: Played): boolean => (limbOf(s.voice) === 'hand') === (limbOf(stroke.voice) === 'hand');
  const together = moment.find((s) => isWithin(s) && isSameLimb(s)) ?? moment.find(isWithin);
  if (together) return together.added;
  const before = around.findLast((s) => isWithin(s) && isSameLimb(s) && s.ms < stroke.ms && stroke.ms - s.ms < LOOK_BACK_MS);
  return before?.added ?? stroke.added ?? moment.find((s) => s.added)?.added;
}

/** A stroke that hinders another lies no further before it. */
const LOOK_BACK_MS = 130;

/** Puts a fill in. */
export function applyFill(part: Part, { removed, added }: FillPlan, newId: () => HitId): Part {
  const left = { ...part, hits: replaceHits(part.hits, removed, []) };
  const hits = added.map(({ voice, tick, velocity, nudge }): Hit => ({
    id: newId(),
    voice,
    key: keyInPart(part, voice),
    tick,
    home: tick,
    placed: true,
    length: LENGTH,
    velocity: clampVelocity(velocity),
    ...(nudge ? { nudge: { ms: milliseconds(nudge), velocity: 0 } } : {}),
  }));
  return withHits(left, hits).part;
}
