import { playLikeAPerson, type PlannedStroke, type PlayedStroke, type Practice } from '@/core/take/practice';
import { seconds, type Seconds } from '@/core/units';
import type { InputDevice, InputEvent } from './input';

/** What the practice player hears: the clocks, and where the music is. */
export interface Stage {
  /** The audio clock, as heard now. */
  now(): Seconds;
  /** The page's clock at an audio time. */
  pageTimeOf(audio: Seconds): number;
  /** Start of the first pass; null while nothing plays. */
  startedAt(): Seconds | null;
}

/** Strokes planned in `[from, to)`, seconds from the start of the first pass. */
export type Plan = (from: Seconds, to: Seconds) => PlannedStroke[];

/** How often it looks at the clock; its stamps do not depend on it. */
const LOOK_MS = 15;
/** It plans so far ahead that the earliest stroke of a hasty player is known in time. */
const AHEAD_SECONDS = 0.4;

/**
 * A simulated pad player: plays a plan along with the music into the same path as a real device, stamped with the moments at which the
 * device would have told of its strokes.
 */
export class PracticePlayer implements InputDevice {
  readonly id = 'practice';
  readonly name = 'Practice player';

  constructor(
    private readonly stage: Stage,
    private readonly settings: () => { practice: Practice; plan: Plan; span: Seconds },
  ) {}

  listen(onEvent: (event: InputEvent) => void): () => void {
    let began: Seconds | null = null;
    let until = seconds(0);
    let ordinal = 0;
    let waiting: PlayedStroke[] = [];
    const look = () => {
      const start = this.stage.startedAt();
      if (start === null) {
        began = null;
        waiting = [];
        return;
      }
      if (began !== start) [began, until, ordinal, waiting] = [start, seconds(0), 0, []];
      const place = this.stage.now() - start;
      if (place + AHEAD_SECONDS > until) {
        const { practice, plan, span } = this.settings();
        const to = seconds(place + AHEAD_SECONDS);
        const planned = plan(until, to);
        waiting = [...waiting, ...playLikeAPerson(planned, practice, ordinal, span)].sort((a, b) => a.at - b.at);
        ordinal += planned.length;
        until = to;
      }
      while (waiting[0] && waiting[0].at <= place) {
        const stroke = waiting.shift() as PlayedStroke;
        onEvent({ page: this.stage.pageTimeOf(seconds(start + stroke.at)), kind: 'note', key: stroke.key, value: stroke.velocity });
      }
    };
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }
}
