import { createStore } from 'zustand/vanilla';
import { ClockIn, correctionOf, inLoop } from '@/core/playback/clock-in';
import { ticks, type Ticks } from '@/core/units';
import type { ClockSource } from '@/devices/clock-source';

/** The player that a follower controls. */
export interface FollowerPorts {
  /** Ms of the page's clock. */
  now(): number;
  play(from: Ticks): void;
  stop(): void;
  isPlaying(): boolean;
  /** Null to return to the part's tempo. */
  setStretch(stretch: number | null): void;
  /** The tick that is heard at a moment of the page's clock. */
  heardAt(page: number): Ticks | null;
  /** The loop; null when the part plays once. */
  loop(): { start: Ticks; end: Ticks } | null;
  /** Milliseconds of a quarter note by the part's own tempo. */
  quarterMsAt(tick: Ticks): number;
}

export interface FollowerState {
  /** Id of the followed clock; null for none. */
  source: string | null;
  running: boolean;
  /** Quarters a minute; null before the clock is known. */
  bpm: number | null;
  jitterMs: number;
  /** `silent`: the clock dropped out and playback continues; `gone`: playback stopped. */
  trouble: 'silent' | 'gone' | null;
}

const STEP_MS = 40;
/** Silence after which the clock counts as dropped out, and as gone. */
const SILENT_MS = 300;
const GONE_MS = 2500;
/** Longest wait for playback to start. */
const STARTING_MS = 3000;

/** Makes the part follow the start, stop, position and tempo of a MIDI clock. */
export class ClockFollower {
  readonly state = createStore<FollowerState>(() => ({ source: null, running: false, bpm: null, jitterMs: 0, trouble: null }));
  private clock = new ClockIn();
  private stops: (() => void)[] = [];
  /** When the clock started playback, by the page's clock; null while stopped by the clock or the user. */
  private startedAt: number | null = null;
  private wasHeard = false;
  private stretch = 0;

  constructor(private readonly ports: FollowerPorts) {}

  /** @param source null to return to the part's tempo */
  follow(source: ClockSource | null): void {
    for (const stop of this.stops.splice(0)) stop();
    this.leave();
    this.clock = new ClockIn();
    this.state.setState({ source: source?.id ?? null, running: false, bpm: null, jitterMs: 0, trouble: null });
    if (!source) return;
    const timer = setInterval(() => this.step(), STEP_MS);
    this.stops = [source.listen((bytes, page) => this.hear(bytes, page)), () => clearInterval(timer)];
  }

  private hear(bytes: ArrayLike<number>, page: number): void {
    const event = this.clock.hear(bytes, page);
    if (event === 'stop') {
      this.leave();
      this.state.setState({ running: false, trouble: null });
    }
    if (event === 'start' || event === 'continue') this.startedAt = null;
    if (event !== 'clock' || !this.clock.state.running || this.state.getState().running) return;
    this.state.setState({ running: true, trouble: null });
    this.begin(this.wanted(page) ?? ticks(0));
  }

  /** Where the clock is, within the loop. */
  private wanted(page: number): Ticks | null {
    const tick = this.clock.tickAt(page);
    const loop = this.ports.loop();
    return tick === null ? null : loop ? ticks(inLoop(Math.max(tick, loop.start), loop)) : tick;
  }

  private begin(from: Ticks): void {
    this.startedAt = this.ports.now();
    this.wasHeard = false;
    this.setStretch(this.stretch || 1);
    this.ports.play(from);
  }

  private setStretch(stretch: number): void {
    if (stretch === this.stretch) return;
    this.stretch = stretch;
    this.ports.setStretch(stretch);
  }

  private leave(): void {
    if (this.startedAt !== null) this.ports.stop();
    this.startedAt = null;
    if (this.stretch === 0) return;
    this.stretch = 0;
    this.ports.setStretch(null);
  }

  /** Compares the positions of clock and part and corrects the playback speed. */
  step(): void {
    const { ports, clock } = this;
    const now = ports.now();
    const { running, quarterMs, jitterMs } = clock.state;
    const silence = clock.silentFor(now);
    if (running && silence > GONE_MS && this.state.getState().running) {
      this.leave();
      return this.state.setState({ running: false, trouble: 'gone' });
    }
    // Stays gone until clocks arrive again.
    const isGone = this.state.getState().trouble === 'gone' && silence > SILENT_MS;
    const trouble = isGone ? 'gone' : running && silence > SILENT_MS ? 'silent' : null;
    this.state.setState({ bpm: quarterMs === null ? null : 60_000 / quarterMs, jitterMs, trouble });
    if (!running || this.startedAt === null || quarterMs === null) return;
    if (!ports.isPlaying()) {
      // The user stopped playback: wait for the clock's next start.
      if (this.wasHeard || now - this.startedAt > STARTING_MS) this.leave();
      return;
    }
    this.wasHeard = true;
    const [heard, wanted] = [ports.heardAt(now), this.wanted(now)];
    if (heard === null || wanted === null) return;
    const { stretch, jump } = correctionOf({ wanted, heard, quarterMs, ownQuarterMs: ports.quarterMsAt(heard) }, ports.loop());
    this.setStretch(stretch);
    if (jump !== null) this.begin(jump);
  }
}
