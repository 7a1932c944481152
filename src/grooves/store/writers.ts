import type { Part } from '@/core/model/part';
import { Follower, type Led } from '@/editing/follow';
import { Saver, type SaveState } from '@/editing/saver';
import { markUnsaved } from '@/editing/unsaved';
import { WriteQueue } from '@/editing/write-queue';
import type { Finished } from '@/editing/document';
import type { GrooveStore } from '@/storage/groove-store';
import type { PartStore } from '@/storage/part-store';
import type { GroovesChange, Stand, GroovesWork } from './work';

/** Everything that writes in the Grooves place: one queue for grooves, one saver a part, which outlives the part's time on the stand. */
export class Writers {
  private readonly savers = new Map<string, Saver>();
  private readonly followers = new Map<string, Follower>();
  private readonly states = new Map<string, SaveState>();
  /** Parts as they were last given to their savers. */
  private readonly last = new Map<string, Part>();
  private readonly grooveWrites: WriteQueue;

  constructor(
    private readonly parts: PartStore,
    private readonly grooves: GrooveStore,
    private readonly onState: (state: SaveState) => void,
    /** What follows another tab's edits of a part. */
    private readonly led: (partId: string) => Led,
  ) {
    this.grooveWrites = new WriteQueue((state) => {
      this.tell('grooves', state);
      markUnsaved(
        'grooves',
        state.kind === 'saved' ? null : { error: state.kind === 'failed' ? state.error : null, letGo: () => undefined },
      );
    });
  }

  /** No groove is still to be written. */
  get groovesKept(): boolean {
    return this.grooveWrites.idle;
  }

  /** Writes what a finished edit changed. */
  save({ label, diff: change, after, step }: Finished<GroovesWork, GroovesChange>) {
    if (change.kind === 'groove')
      return this.grooveWrites.add(() => (change.after ? this.grooves.put(change.after) : this.grooves.remove(change.id)));
    const { stand } = after;
    if (stand?.id !== change.partId) return;
    this.last.set(stand.id, stand.part);
    this.saverOf(stand).save({ label, diff: change.diff, after: stand.part, step });
  }

  /** A part comes onto the stand: what was just read is newer than what an idle saver knows, and older than what one still has to write. */
  take(stand: Stand): Stand {
    const state = this.states.get(stand.id);
    if (state && state.kind !== 'saved') return { ...stand, part: this.last.get(stand.id) ?? stand.part };
    this.savers.delete(stand.id);
    this.followers.delete(stand.id);
    return stand;
  }

  /** Nothing is half done any more: what waited for that is followed. */
  goOn() {
    for (const follower of this.followers.values()) void follower.goOn();
  }

  /** How many edits of a part are in the store for all that is known, and which are not. */
  knownOf(stand: Stand): { common: number; steps: readonly string[] } {
    const saver = this.saverOf(stand);
    return { common: saver.common, steps: saver.waiting.map((e) => e.label) };
  }

  /** Reads a part as another tab left it, and goes on from there. */
  async reread(stand: Stand): Promise<Stand> {
    const saver = this.saverOf(stand);
    await saver.idle;
    const { part, head } = await this.parts.load(stand.id);
    saver.goOnFrom(head);
    return { id: stand.id, part, head };
  }

  hear(stand: Stand, head: number | null) {
    this.saverOf(stand).hear(head);
  }

  retry() {
    this.grooveWrites.retry();
    for (const saver of this.savers.values()) saver.retry();
  }

  private saverOf({ id, head }: Stand): Saver {
    const known = this.savers.get(id);
    if (known) return known;
    const saver: Saver = new Saver(
      this.parts,
      id,
      head,
      (state) => {
        this.tell(id, state);
        markUnsaved(
          id,
          state.kind === 'saved'
            ? null
            : { part: () => this.last.get(id) as Part, error: state.kind === 'failed' ? state.error : null, letGo: () => saver.letGo() },
        );
      },
      (ahead) => follower.hear(ahead),
    );
    const follower = new Follower(this.parts, id, () => saver, this.led(id));
    this.savers.set(id, saver);
    this.followers.set(id, follower);
    return saver;
  }

  /** The gravest of what they say is what the place says. */
  private tell(writer: string, state: SaveState) {
    this.states.set(writer, state);
    const all = [...this.states.values()];
    this.onState(all.find((s) => s.kind === 'failed') ?? all.find((s) => s.kind === 'saving') ?? { kind: 'saved' });
  }
}
