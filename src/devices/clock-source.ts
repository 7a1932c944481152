/** A source of MIDI clock: a port or the simulated sender. */
export interface ClockSource {
  id: string;
  name: string;
  /** Tells of each message with its stamp, ms of the page's clock, until the result is called. */
  listen(onMessage: (bytes: ArrayLike<number>, page: number) => void): () => void;
}

const [CLOCK, START, STOP] = [0xf8, 0xfa, 0xfc];
const CLOCKS_A_QUARTER = 24;
/** How often it looks at the time; its stamps do not depend on it. */
const LOOK_MS = 8;

/** A simulated sender: a clock for those without a port. It starts with its first listener. */
export class SimulatedClock implements ClockSource {
  readonly id = 'simulated-clock';
  readonly name = 'Simulated sender';
  bpm = 110;
  /** Largest deviation of a clock, in ms. */
  jitterMs = 1;

  constructor(private readonly now: () => number = () => performance.now()) {}

  listen(onMessage: (bytes: ArrayLike<number>, page: number) => void): () => void {
    let next = this.now();
    let n = 0;
    onMessage([START], next);
    const look = () => {
      const until = this.now();
      while (next <= until) {
        // Deterministic, evenly distributed scatter.
        const scatter = ((n++ * 0.618) % 1) * 2 - 1;
        onMessage([CLOCK], next + scatter * this.jitterMs);
        next += 60_000 / this.bpm / CLOCKS_A_QUARTER;
      }
    };
    const timer = setInterval(look, LOOK_MS);
    return () => {
      clearInterval(timer);
      onMessage([STOP], this.now());
    };
  }
}
