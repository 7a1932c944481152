import type { Part } from '@/core/model/part';
import { ticksOfBars } from '@/core/commands/settings';
import { meterMapOf, endOfPart, tempoMapOf } from '@/core/part/part-time';
import { performPart, writtenPerformance, type Performance } from '@/core/perform/perform';
import type { Versions } from '@/core/playback/player';
import { equalGain, makeProgram, type Program, type ProgramRange } from '@/core/playback/program';
import { isPlain, soundingPart } from '@/core/song/sounding';
import { roundsOfOrder, unroll, type Unrolled } from '@/core/song/unroll';
import { ticks, type Ticks } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import type { HitNumbers } from '@/sound/slots';
import { withProposal } from '../actions/suggesting';
import type { Transport } from '../store/view';
import type { ProgramInputs } from '../store/inputs';
import { hitsBetween, otherOf, performanceWithin, writtenOf } from '../store/derived';

/**
 * What is played: bars over and over, in a pass of theirs, or once before the loop (`leadsIn`); the whole part once; or the running order.
 * Of an idea, or (null) of the part itself.
 */
export type ProgramRequest = (
  { kind: 'bars'; from: number; to: number; pass: number; leadsIn?: true } | { kind: 'all' } | { kind: 'order' }
) & {
  idea: string | null;
};

/** What the transport asks for. */
export function wantedOf({
  transport: { loop, fromBar, toBar, order },
  part,
  idea,
}: {
  transport: Transport;
  part: Pick<Part, 'order'>;
  idea: string | null;
}): ProgramRequest {
  if (order && part.order) return { kind: 'order', idea };
  return loop ? { kind: 'bars', from: fromBar, to: toBar, pass: 1, idea } : { kind: 'all', idea };
}

/** Programs with the way from their ticks to the part's. */
export interface ReadyPrograms {
  versions: Versions;
  tickOf?: (tick: Ticks) => Ticks;
}

/** All versions of what is wanted. */
export function playableOf(wanted: ProgramRequest, inputs: ProgramInputs, engine: SoundEngine, slots: HitNumbers): ReadyPrograms {
  if (wanted.kind === 'order') return orderOf(inputs, engine, slots);
  return { versions: versionsOf(rangeOf(wanted, inputs.part), inputs, engine, slots) };
}

function rangeOf(wanted: Exclude<ProgramRequest, { kind: 'order' }>, part: Part): ProgramRange {
  if (wanted.kind === 'bars')
    return { ...ticksOfBars(part, Math.min(wanted.from, part.bars - 1), Math.min(wanted.to, part.bars)), loop: true, pass: wanted.pass };
  const start = Math.min(part.origin, part.hits[0] ? meterMapOf(part).barAt(part.hits[0].tick).start : 0);
  return { start: ticks(start), end: endOfPart(part), loop: false };
}

function versionsOf(
  range: ProgramRange,
  { part, other, equalLoudness, proposal }: ProgramInputs,
  engine: SoundEngine,
  slots: HitNumbers,
): Versions {
  const make = (of: Part, performance: Performance): Program =>
    makeProgram(of, performance, range, slots.of, engine.rowsOf(of), engine.ownSounds);
  const { pass = 1 } = range;
  const inRange = hitsBetween(part, range.start, range.end);
  // Suggestions are heard while they are shown.
  const suggested = withProposal(part, proposal);
  const isUsual = suggested === part && pass === 1 && isPlain(part);
  const sounding = soundingPart(suggested, pass);
  const round = { pass, shift: (pass - 1) * (range.end - range.start) };
  const performed = isUsual ? make(part, performanceWithin(part, inRange)) : make(sounding, performPart({ ...sounding, round }));
  const written = isUsual ? make(part, writtenOf(part, inRange)) : make(sounding, writtenPerformance(sounding));
  const compared = other && otherOf(part, other);
  const otherProgram =
    compared &&
    (isPlain(compared.part)
      ? make(compared.part, compared.performance)
      : make(soundingPart(compared.part), performPart(soundingPart(compared.part))));
  return withGains(
    { performed, written, ...(otherProgram ? { other: otherProgram } : {}) },
    equalLoudness || other?.equal === true,
    engine,
  );
}

function withGains({ performed, written, other }: Versions, equalLoudness: boolean, engine: SoundEngine): Versions {
  const gains = equalLoudness
    ? { written: equalGain(written, performed, engine.levelOf), ...(other ? { other: equalGain(other, performed, engine.levelOf) } : {}) }
    : {};
  return { performed, written, ...(other ? { other } : {}), gains };
}

const orders = new WeakMap<Part, Record<'performed' | 'written', Unrolled>>();

/** The running order unrolled; made once for a state of the part. */
export function unrolledOrder(part: Part): Record<'performed' | 'written', Unrolled> {
  let known = orders.get(part);
  if (!known) {
    const rounds = roundsOfOrder(part);
    orders.set(part, (known = { performed: unroll(part, rounds), written: unroll(part, rounds, true) }));
  }
  return known;
}

function orderOf({ part, other, equalLoudness }: ProgramInputs, engine: SoundEngine, slots: HitNumbers): ReadyPrograms {
  const make = ({ part: of, performance }: Unrolled): Program =>
    makeProgram(of, performance, { start: ticks(0), end: endOfPart(of), loop: false }, slots.of, engine.rowsOf(of), engine.ownSounds);
  const { performed, written } = unrolledOrder(part);
  const compared = other && (other.part ?? { ...part, feel: other.feel });
  const otherProgram = compared?.order ? make(unrolledOrder(compared).performed) : undefined;
  return {
    versions: withGains(
      { performed: make(performed), written: make(written), ...(otherProgram ? { other: otherProgram } : {}) },
      equalLoudness,
      engine,
    ),
    tickOf: (tick) => partTick(part, performed, tick),
  };
}

/** The part's tick that is played at a tick of its unrolled order. */
export function partTick(part: Part, { marks }: Pick<Unrolled, 'marks'>, tick: Ticks): Ticks {
  const mark = marks.findLast((m) => m.tick <= tick) ?? marks[0];
  return mark ? ticks(meterMapOf(part).barOf(mark.round.from).start + tick - mark.tick) : tick;
}

/** How long bars last, in seconds. */
export function secondsOfBars(part: Part, from: number, to: number): number {
  const { start, end } = ticksOfBars(part, from, to);
  return tempoMapOf(part).toSeconds(end) - tempoMapOf(part).toSeconds(start);
}
