import { isNamedError, NamedError } from '@/core/errors';
import type { SaveState } from './saver';

/**
 * Writes go one after the other, so that the store ends as the screen does; what was refused waits here, with what follows it, until tried
 * again.
 */
export class WriteQueue {
  private waiting: (() => Promise<unknown>)[] = [];
  private running = false;
  private failed = false;

  constructor(private readonly onState: (state: SaveState) => void) {}

  /** Nothing is still to be written. */
  get idle(): boolean {
    return this.waiting.length === 0;
  }

  add(work: () => Promise<unknown>) {
    this.waiting.push(work);
    if (!this.failed) void this.drain();
  }

  retry() {
    this.failed = false;
    void this.drain();
  }

  private async drain() {
    if (this.running || this.waiting.length === 0) return;
    this.running = true;
    this.onState({ kind: 'saving' });
    try {
      for (let next = this.waiting[0]; next; next = this.waiting[0]) {
        await next();
        this.waiting.shift();
      }
      this.onState({ kind: 'saved' });
    } catch (e) {
      this.failed = true;
      this.onState({ kind: 'failed', error: isNamedError(e) ? e : new NamedError('store-refused', { cause: String(e) }) });
    } finally {
      this.running = false;
    }
  }
}
