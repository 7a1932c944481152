import { isNamedError, NamedError } from '@/core/errors';
import type { FinishedEdit, PartStore } from './part-store';

export type SaveState = { kind: 'saved' } | { kind: 'saving' } | { kind: 'failed'; error: NamedError };

/**
 * Writes a part's finished edits into the store: all that wait are written together. After a failure they wait here, with those that
 * follow, until tried again; nothing is thrown away but by {@link letGo}.
 */
export class Saver {
  private waiting: FinishedEdit[] = [];
  private writing = 0;
  private failed: NamedError | null = null;
  private gone = false;

  /** @param head number of the last edit that is in the store */
  constructor(
    private readonly store: Pick<PartStore, 'saveEdits'>,
    private readonly id: string,
    private head: number,
    private readonly onState: (state: SaveState) => void,
  ) {}

  save(edit: FinishedEdit) {
    if (this.gone) return;
    this.waiting.push(edit);
    if (!this.failed) void this.drain();
  }

  /** Tries the waiting edits again. */
  retry() {
    this.failed = null;
    if (this.waiting.length === 0) this.onState({ kind: 'saved' });
    else void this.drain();
  }

  /** Hears what the store says of the part: another tab may have changed it, or taken it away (null). */
  hear(head: number | null) {
    if (this.gone) return;
    // Taken off and put back, with nothing done to it in between.
    if (this.failed?.code === 'deleted-elsewhere' && head === this.head) return this.retry();
    if (this.failed) return;
    if (head === null) this.fail(new NamedError('deleted-elsewhere', { id: this.id }));
    else if (head > this.head + this.writing) this.fail(new NamedError('changed-elsewhere', { head }));
  }

  /** Forgets what waits: it went somewhere else. */
  letGo() {
    this.gone = true;
    this.waiting = [];
    this.onState({ kind: 'saved' });
  }

  private async drain() {
    if (this.writing > 0 || this.waiting.length === 0) return;
    this.onState({ kind: 'saving' });
    while (this.waiting.length > 0 && !this.failed) {
      const batch = this.waiting;
      this.waiting = [];
      this.writing = batch.length;
      try {
        await this.store.saveEdits(this.id, this.head + 1, batch);
        this.head += batch.length;
      } catch (e) {
        if (!this.gone) this.waiting = [...batch, ...this.waiting];
        this.fail(isNamedError(e) ? e : new NamedError('store-refused', { cause: String(e) }));
      } finally {
        this.writing = 0;
      }
    }
    if (!this.failed) this.onState({ kind: 'saved' });
  }

  private fail(error: NamedError) {
    if (this.gone) return;
    this.failed = error;
    this.onState({ kind: 'failed', error });
  }
}
