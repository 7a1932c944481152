import type { PartDiff } from '@/core/part/diff';
import type { KeptStep } from './history';
import type { Saver } from './saver';

/** Where edits that were made elsewhere are read. */
export interface EditSource {
  /** Edits of a part from number `first` to `last`, oldest first. @throws NamedError where some are no longer there */
  editsFrom(id: string, first: number, last: number): Promise<readonly KeptStep<PartDiff>[]>;
}

/** What follows them. */
export interface Led {
  /** Nothing is half done. */
  isFree(): boolean;
  /** Takes in what was done elsewhere. */
  take(steps: readonly KeptStep<PartDiff>[]): void;
  /** They cannot be followed step by step: the whole part has to be read again. */
  reread(): void;
}

/**
 * Leads a document to what another tab did to its part. While something is half done here it waits; where that then becomes an edit of its
 * own, both have changed the part, and the saver says so.
 */
export class Follower {
  private ahead: number | null = null;
  private reading = false;

  constructor(
    private readonly source: EditSource,
    private readonly id: string,
    private readonly saver: () => Saver,
    private readonly led: Led,
  ) {}

  /** The store has edits up to this one. */
  hear(head: number) {
    this.ahead = Math.max(head, this.ahead ?? 0);
    void this.goOn();
  }

  /** What was half done is done, or put back. */
  async goOn(): Promise<void> {
    if (this.reading) return;
    this.reading = true;
    try {
      while (this.ahead !== null && this.led.isFree()) {
        const [first, last] = [this.saver().common + 1, this.ahead];
        const steps = last < first ? [] : await this.source.editsFrom(this.id, first, last).catch(() => null);
        // More was heard, or something was begun, while they were read.
        if (!this.led.isFree()) return;
        if (this.ahead === last) this.ahead = null;
        if (last < first || this.saver().waiting.length > 0 || this.saver().common + 1 !== first) continue;
        if (!steps) this.led.reread();
        else if (this.saver().followed(last)) this.led.take(steps);
      }
    } finally {
      this.reading = false;
    }
  }
}
