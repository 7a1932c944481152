import { opennessOf, USUAL_HAT, type Openness } from '../articulation/openness';
import type { HatSettings } from '../model/take';
import { seconds, clampVelocity, type Seconds, type Velocity } from '../units';

/** Which way round a pedal counts, by its values when it was pressed and let go; null where they are too near to tell. */
export function learntHat(down: number, up: number): HatSettings | null {
  if (Math.abs(down - up) < 40) return null;
  return down > up ? USUAL_HAT : { ...USUAL_HAT, turned: true };
}

/**
 * What was seen of a pedal that is pressed and let go: its first value, the one furthest from it, and what is learnt once it has come back.
 */
export interface PedalLesson {
  first: number | null;
  furthest: number;
  learnt: HatSettings | null;
}

export const NEW_PEDAL_LESSON: PedalLesson = { first: null, furthest: 0, learnt: null };

/** After a movement. */
export function pedalMoved(lesson: PedalLesson, value: number): PedalLesson {
  const first = lesson.first ?? value;
  const furthest = lesson.first === null || Math.abs(value - first) > Math.abs(lesson.furthest - first) ? value : lesson.furthest;
  return { first, furthest, learnt: lesson.learnt ?? (Math.abs(furthest - first) >= 40 ? learntHat(furthest, value) : null) };
}

/** Closed within so long from open, it is a stroke of the foot. */
const FAST = 0.08;
/** A press this fast is as loud as it gets. */
const FASTEST = 0.008;
/** Let go so soon after a stroke, it was a splash. */
const SPLASH = 0.15;
const [SOFTEST, LOUDEST] = [30, 120];

/** What a movement of the pedal plays: its stroke, the end of what rings in the hat, or that its last stroke was a splash. */
export type PedalPlay = { kind: 'stroke'; velocity: Velocity } | { kind: 'damp' } | { kind: 'splash' };

/** Follows a hat's pedal: how open it is, and what its movements play. */
export class HatPedal {
  /** Null until it has moved. */
  openness: Openness | null = null;
  /** When it was open last. */
  private openAt: Seconds | null = null;
  private struckAt: Seconds | null = null;

  constructor(private readonly settings: HatSettings) {}

  move(at: Seconds, value: number): PedalPlay | null {
    const before = this.openness;
    this.openness = opennessOf(this.settings, value);
    const { openAt, struckAt } = this;
    if (this.openness === 'open') {
      this.openAt = at;
      this.struckAt = null;
      return struckAt !== null && at - struckAt <= SPLASH ? { kind: 'splash' } : null;
    }
    if (this.openness !== 'closed' || before === 'closed' || before === null) return null;
    const took = openAt === null ? Infinity : at - openAt;
    if (took > FAST) return { kind: 'damp' };
    this.struckAt = seconds(at);
    const share = 1 - Math.max(0, took - FASTEST) / (FAST - FASTEST);
    return { kind: 'stroke', velocity: clampVelocity(SOFTEST + (LOUDEST - SOFTEST) * share) };
  }
}
