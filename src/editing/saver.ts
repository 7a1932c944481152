import { isNamedError, isPassing, NamedError } from '@/core/errors';
import type { PartDiff } from '@/core/part/diff';
import type { Part } from '@/core/model/part';
import type { Finished } from './document';

export type SaveState = { kind: 'saved' } | { kind: 'saving' } | { kind: 'failed'; error: NamedError };

/** An edit of a part that is finished: what it changed and the part that it led to. */
export type FinishedEdit = Finished<Part, PartDiff>;

/** Where a part's edits are kept; each may refuse with a NamedError. */
export interface EditStore {
  /** Writes finished edits, the first as number `seq`: all of them or none. */
  appendEdits(id: string, seq: number, edits: readonly FinishedEdit[]): Promise<void>;
  /** Brings the part's row up to edits that were written, from number `seq` to `last`. */
  settleHead(id: string, seq: number, last: number, after: Part): Promise<void>;
  /** Takes edits out again that lead nowhere. */
  dropEdits(id: string, first: number, last: number): Promise<void>;
  /** Calls back once, when a store that refused takes writes again. */
  whenBack?(hear: () => void): void;
  /** Keeps how a part stands here, while another tab has gone on from elsewhere and one of both is still to be chosen. */
  keepUnchosen?(id: string, part: Part, steps: readonly string[]): void;
  /** It was chosen, or went elsewhere. */
  dropUnchosen?(id: string): void;
}

/** Edits on their way, and whether they arrived. */
interface Sending {
  first: number;
  last: number;
  kept: Promise<boolean>;
}

/** Hits of an edit that are handed over within a frame. */
const LARGE = 2000;

const namedOf = (e: unknown): NamedError => (isNamedError(e) ? e : new NamedError('store-refused', { cause: String(e) }));

/**
 * Writes a part's finished edits into the store, each the moment it is finished: a page that is too busy to hear the store's answers
 * still hands them over. The part's row follows when they have answered. After a refusal all that is not kept waits here, with what
 * follows, until tried again; nothing is thrown away but by {@link letGo}.
 */
export class Saver {
  /** Not in the store for all that is known, oldest first; the first `sent` of them are on their way. */
  private pending: FinishedEdit[] = [];
  private sent = 0;
  private sending: Sending[] = [];
  private settling: Promise<void> | null = null;
  private failed: NamedError | null = null;
  private gone = false;
  /** What the store said of the part while answers were still to come. */
  private heard = 0;
  /** Asked for while the last answers were still to come. */
  private again = false;
  /** Tried again by itself: what is said of it stays until it is saved. */
  private quiet: NamedError | null = null;

  /** @param head number of the last edit that is in the store */
  constructor(
    private readonly store: EditStore,
    private readonly id: string,
    private head: number,
    private readonly onState: (state: SaveState) => void,
    /** The store is ahead, and nothing waits here: what was done elsewhere can be followed. Without it, that is a refusal. */
    private readonly onBehind?: (head: number) => void,
  ) {}

  /** Number of the last edit that is known here and in the store. */
  get common(): number {
    return this.head;
  }

  /** What is not in the store for all that is known, oldest first. */
  get waiting(): readonly FinishedEdit[] {
    return this.pending;
  }

  /** Edits up to this one were followed. @returns false where edits wait here: then both have gone on */
  followed(head: number): boolean {
    if (this.gone || this.failed || this.pending.length > 0) return false;
    this.head = Math.max(this.head, head);
    return true;
  }

  /** Nothing is on its way any more. */
  get idle(): Promise<void> {
    return this.settling ?? Promise.resolve();
  }

  /** Goes on from another state of the store, once {@link idle}; what waited here was kept elsewhere. */
  goOnFrom(head: number) {
    this.pending = [];
    this.sent = 0;
    this.sending = [];
    this.dropUnchosen();
    this.failed = null;
    this.head = head;
    this.onState({ kind: 'saved' });
  }

  save(edit: FinishedEdit) {
    if (this.gone) return;
    this.pending.push(edit);
    if (this.failed?.code === 'changed-elsewhere') this.keepUnchosen();
    if (edit.diff.removed.length + edit.diff.added.length <= LARGE || this.failed) return this.write();
    // Handing thousands of hits over takes longer than a frame: what was done is drawn first.
    if (!this.settling) this.onState({ kind: 'saving' });
    setTimeout(() => this.write(), 0);
  }

  /** Tries the waiting edits again. */
  retry() {
    if (this.gone) return;
    this.again = this.settling !== null;
    if (this.again) return;
    this.failed = null;
    if (this.pending.length === 0) this.onState({ kind: 'saved' });
    else this.write();
  }

  /** Tries the waiting edits again without a word, unless they arrive. */
  private retryQuietly() {
    if (this.gone || !this.failed || this.settling || !isPassing(this.failed)) return;
    this.quiet = this.failed;
    this.failed = null;
    this.write();
    if (this.settling) return;
    // Nothing waits any more.
    this.quiet = null;
    this.onState({ kind: 'saved' });
  }

  /** Hears what the store says of the part: another tab may have changed it, or taken it away (null). */
  hear(head: number | null) {
    if (this.gone) return;
    // Taken off and put back, with nothing done to it in between.
    if (this.failed?.code === 'deleted-elsewhere' && head === this.head) return this.retry();
    // Another one was put in its place, and nothing waits here.
    if (this.failed?.code === 'deleted-elsewhere' && head !== null && head > this.head && this.pending.length === 0) {
      this.failed = null;
      this.onState({ kind: 'saved' });
    }
    if (this.failed) return;
    // What is on its way may be what the other went on from.
    if (this.settling && head !== null) return void (this.heard = Math.max(this.heard, head));
    if (head === null) this.fail(new NamedError('deleted-elsewhere', { id: this.id }));
    else if (head > this.head + this.pending.length) {
      if (this.onBehind && this.pending.length === 0) this.onBehind(head);
      else this.fail(new NamedError('changed-elsewhere', { head }));
    }
  }

  /** Forgets what waits: it went somewhere else. */
  letGo() {
    this.dropUnchosen();
    this.gone = true;
    this.again = false;
    this.onState({ kind: 'saved' });
  }

  private write() {
    if (this.failed || this.sent === this.pending.length) return;
    const first = this.head + this.sent + 1;
    const batch = this.pending.slice(this.sent);
    this.sent += batch.length;
    const kept = this.store.appendEdits(this.id, first, batch).then(
      () => true,
      (e: unknown) => {
        this.fail(namedOf(e));
        return false;
      },
    );
    this.sending.push({ first, last: first + batch.length - 1, kept });
    if (this.settling) return;
    if (!this.quiet) this.onState({ kind: 'saving' });
    this.settling = this.settle().finally(() => {
      this.settling = null;
      this.quiet = null;
      if (this.again) this.retry();
      if (this.heard > this.head) this.hear(this.heard);
    });
  }

  /** Waits for the answers to all that was sent, then brings the part's row up to what arrived before anything that did not. */
  private async settle() {
    while (this.sending.length > 0 && !this.gone) {
      const sent = [...this.sending];
      const kept = await Promise.all(sent.map((s) => s.kept));
      // More was sent meanwhile: one row for all of it.
      if (this.sending.length > sent.length) continue;
      const lost = kept.indexOf(false);
      const good = lost < 0 ? sent : sent.slice(0, lost);
      const settled = good.length === 0 || (await this.bringUp(good[good.length - 1] as Sending));
      this.sending.splice(0, settled ? good.length : 0);
      if (lost >= 0 || !settled) await this.withdraw();
    }
    if (!this.failed && !this.gone) this.onState({ kind: 'saved' });
  }

  private async bringUp({ last }: Sending): Promise<boolean> {
    const count = last - this.head;
    try {
      await this.store.settleHead(this.id, this.head + 1, last, (this.pending[count - 1] as FinishedEdit).after);
    } catch (e) {
      this.fail(namedOf(e));
      return false;
    }
    this.head = last;
    this.sent -= count;
    this.pending.splice(0, count);
    return true;
  }

  /** What was written behind a refused edit leads nowhere: it is taken out, and written again when it is tried again. */
  private async withdraw() {
    const sent = [...this.sending];
    for (const { first, last, kept } of sent) if (await kept) await this.store.dropEdits(this.id, first, last).catch(() => undefined);
    this.sending = [];
    this.sent = 0;
  }

  private keepUnchosen() {
    const last = this.pending.at(-1);
    if (last)
      this.store.keepUnchosen?.(
        this.id,
        last.after,
        this.pending.map((edit) => edit.label),
      );
  }

  private dropUnchosen() {
    if (this.failed?.code === 'changed-elsewhere') this.store.dropUnchosen?.(this.id);
  }

  private fail(error: NamedError) {
    if (this.gone || this.failed) return;
    this.failed = error;
    // The same once more is no news.
    if (this.quiet?.code !== error.code) this.onState({ kind: 'failed', error });
    if (error.code === 'changed-elsewhere') this.keepUnchosen();
    if (isPassing(error)) this.store.whenBack?.(() => this.retryQuietly());
  }
}
