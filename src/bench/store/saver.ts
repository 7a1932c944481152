import type { PartDiff } from '@/core/part/diff';
import type { Part } from '@/core/part/part';
import { isNamedError, type NamedError } from '@/core/errors';
import type { StepKind } from '@/storage/database';
import type { PartStore } from '@/storage/part-store';

export type SaveState = { kind: 'saved' } | { kind: 'saving' } | { kind: 'failed'; error: NamedError };

interface Pending {
  label: string;
  diff: PartDiff;
  after: Part;
  step: StepKind;
}

/** Writes finished edits into the store, one after the other; after a failure they wait here until tried again. */
export class Saver {
  private queue: Pending[] = [];
  private running: Promise<void> | null = null;
  private failed = false;

  constructor(
    private readonly store: Pick<PartStore, 'saveEdit'>,
    private readonly id: string,
    private head: number,
    private readonly onState: (state: SaveState) => void,
  ) {}

  save(label: string, diff: PartDiff, after: Part, step: StepKind = 'do') {
    this.queue.push({ label, diff, after, step });
    if (!this.failed) void this.run();
  }

  /** Tries the waiting edits again. */
  retry() {
    this.failed = false;
    void this.run();
  }

  private run(): Promise<void> {
    this.running ??= this.drain().finally(() => {
      this.running = null;
    });
    return this.running;
  }

  private async drain() {
    this.onState({ kind: 'saving' });
    for (let next = this.queue[0]; next; next = this.queue[0]) {
      try {
        await this.store.saveEdit(this.id, this.head + 1, next.label, next.diff, next.after, next.step);
      } catch (e) {
        this.failed = true;
        if (!isNamedError(e)) throw e;
        return this.onState({ kind: 'failed', error: e });
      }
      this.head++;
      this.queue.shift();
    }
    this.onState({ kind: 'saved' });
  }
}
