import { tempoMapOf } from '../part/part-time';
import { ticks } from '../units';
import type { Feel, Move } from '../model/feel';
import { ownTimbre } from '../feel/timbre-columns';
import type { MoveSpec } from '../feel/move-spec';
import type { Performable } from '../feel/work';
import { MOVES } from '../moves/all';
import { performPart, type Performance } from './perform';

/** What one move changes right now: against the same feel without it. */
export interface Effect {
  /** Hits that it moves by more than a tenth of a ms, or changes by one velocity. */
  hits: number;
  /** Those that it moves; mean and largest way of these. */
  moved: number;
  meanMs: number;
  largestMs: number;
  /** Those whose velocity it changes; mean and largest change of these. */
  levelled: number;
  meanVelocity: number;
  largestVelocity: number;
  /** Hits whose pan, pitch or brightness it changes. */
  timbres: number;
}

const LEAST_MS = 0.1;

/** Compares a performance with the same part without a move. `performance` is that of the whole feel. */
export function effectOfMove(part: Performable, performance: Performance, index: number, specs: readonly MoveSpec[] = MOVES): Effect {
  const feel: Feel = { ...part.feel, moves: part.feel.moves.map((m, i): Move => (i === index ? { ...m, on: false } : m)) };
  const without = performPart({ ...part, feel }, undefined, specs);
  const tempo = tempoMapOf(part);
  const effect: Effect = {
    hits: 0,
    moved: 0,
    levelled: 0,
    meanMs: 0,
    largestMs: 0,
    meanVelocity: 0,
    largestVelocity: 0,
    timbres: timbresOf(part, performance, without),
  };
  for (let i = 0; i < part.hits.length; i++) {
    const ms = Math.abs(tempo.between(ticks(without.ticks[i] as number), ticks(performance.ticks[i] as number)));
    const velocity = Math.abs((performance.velocities[i] as number) - (without.velocities[i] as number));
    if (ms >= LEAST_MS || velocity > 0) effect.hits++;
    if (ms >= LEAST_MS) {
      effect.moved++;
      effect.meanMs += ms;
      effect.largestMs = Math.max(effect.largestMs, ms);
    }
    if (velocity > 0) {
      effect.levelled++;
      effect.meanVelocity += velocity;
      effect.largestVelocity = Math.max(effect.largestVelocity, velocity);
    }
  }
  if (effect.moved > 0) effect.meanMs /= effect.moved;
  if (effect.levelled > 0) effect.meanVelocity /= effect.levelled;
  return effect;
}

/** A change of sound that could be heard: a percent, or a hundredth of a semitone. */
const LEAST = { pans: 1, pitches: 0.01, brightness: 1 } as const;

function timbresOf(part: Performable, performance: Performance, without: Performance): number {
  if (!performance.timbre && !without.timbre) return 0;
  const [a, b] = [performance.timbre ?? ownTimbre(part.hits), without.timbre ?? ownTimbre(part.hits)];
  const names = ['pans', 'pitches', 'brightness'] as const;
  return part.hits.filter((_, i) => names.some((name) => Math.abs((a[name][i] as number) - (b[name][i] as number)) >= LEAST[name])).length;
}
