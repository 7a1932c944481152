import { normalStream, randomStream } from '../random';
import { clampVelocity, seconds, type Milliseconds, type Seconds } from '../units';

/** How the practice player plays: a person with habits, for those without hardware, for the demo and for tests. */
export interface Practice {
  seed: number;
  /** Early is negative. */
  biasMs: Milliseconds;
  /** Scatter of the hands: standard deviation. */
  spreadMs: Milliseconds;
  /** Percent by which it is slower at the end than at the start. */
  driftPercent: number;
  /** Largest tempo drift in percent; only without a click. */
  wanderPercent: number;
  /** Velocity habit: deviation in velocity, and how much softer every second stroke is, in percent. */
  velocitySpread: number;
  weakHandPercent: number;
  /** Shares of strokes that are missed, and that bounce, 0 to 1. */
  missed: number;
  doubled: number;
  /** Of the device between pad and page: constant, and its scatter. */
  latencyMs: Milliseconds;
  jitterMs: Milliseconds;
}

export const STEADY_PRACTICE: Practice = {
  seed: 1,
  biasMs: 0 as Milliseconds,
  spreadMs: 0 as Milliseconds,
  driftPercent: 0,
  wanderPercent: 0,
  velocitySpread: 0,
  weakHandPercent: 0,
  missed: 0,
  doubled: 0,
  latencyMs: 0 as Milliseconds,
  jitterMs: 0 as Milliseconds,
};
/** A friendly amateur. */
export const HUMAN_PRACTICE: Practice = {
  ...STEADY_PRACTICE,
  biasMs: -6 as Milliseconds,
  spreadMs: 9 as Milliseconds,
  wanderPercent: 4,
  velocitySpread: 8,
  weakHandPercent: 10,
  missed: 0.02,
  doubled: 0.04,
};

/** A stroke that is to be played, on the audio clock. */
export interface PlannedStroke {
  at: Seconds;
  key: number;
  velocity: number;
}

/** A stroke as it was played: when the pad was struck, and when the device says so. */
export interface PlayedStroke extends PlannedStroke {
  struckAt: Seconds;
  bounced: boolean;
}

const BOUNCE_SECONDS = 0.028;
/** Periods of the tempo drift in seconds, with their shares. */
const WAVES = [
  [11, 0.6],
  [29, 0.4],
] as const;

/**
 * Delay in seconds from a drifting tempo, which never deviates by more than `wanderPercent`. Zero at time 0.
 * @example wanderedBy({ seed: 1, wanderPercent: 0 }, 10) // 0
 */
export function wanderedBy({ seed, wanderPercent }: Pick<Practice, 'seed' | 'wanderPercent'>, at: number): number {
  if (wanderPercent === 0) return 0;
  const random = randomStream(seed * 31 + 7);
  return WAVES.reduce((sum, [length, share]) => {
    const phase = random() * 2 * Math.PI;
    const turn = (2 * Math.PI) / length;
    return sum + ((wanderPercent / 100) * share * (Math.sin(turn * at + phase) - Math.sin(phase))) / turn;
  }, 0);
}

/**
 * Plays strokes like a person on a device. Everything is drawn from the seed and the stroke's ordinal, so the same strokes give the same
 * playing.
 * @param first ordinal of the first stroke: a second call goes on where the first ended
 */
export function playLikeAPerson(
  planned: readonly PlannedStroke[],
  practice: Practice,
  first = 0,
  span: Seconds = seconds(0),
): PlayedStroke[] {
  const played: PlayedStroke[] = [];
  planned.forEach((stroke, i) => {
    const ordinal = first + i;
    const random = randomStream(practice.seed * 7919 + ordinal * 104_729 + 1);
    const normal = normalStream(random);
    // Drawn in a fixed order, whatever is used: a change of one setting leaves the others' draws.
    const [timing, loudness, jitter] = [normal(), normal(), normal()];
    const [miss, double] = [random(), random()];
    if (miss < practice.missed) return;
    const drift = span > 0 ? ((practice.driftPercent / 100) * Math.max(0, stroke.at) ** 2) / (2 * span) : 0;
    const struckAt = stroke.at + drift + wanderedBy(practice, stroke.at) + (practice.biasMs + practice.spreadMs * timing) / 1000;
    const weak = ordinal % 2 === 1 ? 1 - practice.weakHandPercent / 100 : 1;
    const velocity = clampVelocity(stroke.velocity * weak + practice.velocitySpread * loudness);
    const at = struckAt + (practice.latencyMs + practice.jitterMs * jitter) / 1000;
    played.push({ at: seconds(at), struckAt: seconds(struckAt), key: stroke.key, velocity, bounced: false });
    if (double < practice.doubled)
      played.push({
        at: seconds(at + BOUNCE_SECONDS),
        struckAt: seconds(struckAt + BOUNCE_SECONDS),
        key: stroke.key,
        velocity: clampVelocity(velocity * 0.45),
        bounced: true,
      });
  });
  return played.sort((a, b) => a.at - b.at);
}
