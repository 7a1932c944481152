/** A store that refuses is tried again by itself: as soon as there is room, what waits is written. */

interface Reopened {
  isOpen(): boolean;
  open(): PromiseLike<unknown>;
  close(options: { disableAutoOpen: boolean }): void;
  /** A write that changes nothing. */
  probe(): Promise<unknown>;
}

const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 8000;
/** After so long without a refusal waiting starts small again. */
const CALM_MS = 60_000;

/** Tries a database again and again until it takes writes, then tells all who wait. */
export class Recovery {
  private readonly waiting = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private wait = FIRST_WAIT_MS;
  private lastRefusal = 0;

  /** Hears of each time that the store refused. */
  onRefusal: () => void = () => undefined;

  constructor(private readonly db: Reopened) {}

  /** Calls back once, when the store takes writes again. */
  whenBack(hear: () => void): void {
    this.waiting.add(hear);
    this.start();
  }

  private start(): void {
    if (this.timer !== null) return;
    const now = Date.now();
    if (now - this.lastRefusal > CALM_MS) this.wait = FIRST_WAIT_MS;
    this.lastRefusal = now;
    this.timer = setTimeout(() => void this.attempt(), this.wait);
    this.wait = Math.min(LONGEST_WAIT_MS, this.wait * 2);
  }

  private async attempt(): Promise<void> {
    const isBack = await this.isBack();
    this.timer = null;
    if (!isBack) {
      this.onRefusal();
      return this.start();
    }
    const all = [...this.waiting];
    this.waiting.clear();
    for (const hear of all) hear();
  }

  private async isBack(): Promise<boolean> {
    try {
      if (!this.db.isOpen()) await this.db.open();
      await this.db.probe();
      return true;
    } catch {
      // A connection that the browser gave up stays useless.
      this.db.close({ disableAutoOpen: false });
      return false;
    }
  }
}
