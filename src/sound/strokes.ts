import type { KitName } from '@/core/model/sound';
import { ALTERNATES } from '@/core/synth/classes';
import type { Stroke } from '@/core/synth/stroke';
import type { VoiceName } from '@/core/row-names';
import type { StrokeWish } from '@/workers/kit.worker';

/** A voice of a kit, by one name. */
export const sourceOf = (kit: KitName, sound: VoiceName): string => `${kit}|${sound}`;

export interface MadeStroke {
  source: string;
  index: number;
  take: number;
  stroke: Stroke;
}

/** At most so many bytes of strokes are kept. */
const MOST_BYTES = 64 * 2 ** 20;
/** So many are asked for at once: what is needed most comes soon. */
const BATCH = 4;

interface Wish extends StrokeWish {
  source: string;
  rank: number;
}

/**
 * Which strokes are needed, which are being made, which are ready. The first of each sound comes first, then one of each class, then the
 * other takes. Strokes that nothing needs any more go when room is short.
 */
export class Strokes {
  private readonly wishes = new Map<string, Wish>();
  private readonly ready = new Map<string, number>();
  private readonly sources = new Set<string>();
  private needed = new Set<string>();
  private bytes = 0;
  private working: Promise<void> | null = null;
  private waiting: { until: () => boolean; done: () => void; failed: (e: unknown) => void }[] = [];

  constructor(
    private readonly make: (wishes: StrokeWish[]) => Promise<Stroke[]>,
    private readonly onMade: (made: readonly MadeStroke[]) => void,
    private readonly onForget: (source: string, index: number, take: number) => void,
  ) {}

  /** How many are still to come. */
  get left(): number {
    return this.wishes.size;
  }

  /** Asks for takes of some classes, the first class before all others. `only` forgets that anything else was needed. */
  need(list: readonly { kit: KitName; sound: VoiceName; classes: readonly number[] }[], { only = false, takes = ALTERNATES } = {}): void {
    if (only) {
      this.needed = new Set();
      this.wishes.clear();
    }
    for (const { kit, sound, classes } of list) {
      const source = sourceOf(kit, sound);
      classes.forEach((index, nth) => {
        for (let take = 0; take < takes; take++) {
          const key = `${source}|${index}|${take}`;
          this.needed.add(key);
          const rank = take > 0 ? 2 : nth > 0 ? 1 : 0;
          if (!this.ready.has(key) && !((this.wishes.get(key)?.rank ?? 3) <= rank)) this.wishes.set(key, { source, kit, voice: sound, index, take, rank });
        }
      });
    }
    if (this.wishes.size > 0) this.working ??= this.work();
  }

  private async work() {
    try {
      // What is asked for in this breath goes by rank.
      await Promise.resolve();
      while (this.wishes.size > 0) {
        const batch = [...this.wishes].sort((a, b) => a[1].rank - b[1].rank).slice(0, BATCH);
        const strokes = await this.make(batch.map(([, { kit, voice, index, take }]) => ({ kit, voice, index, take })));
        const made = batch.map(([, { source, index, take }], i): MadeStroke => ({ source, index, take, stroke: strokes[i] as Stroke }));
        batch.forEach(([key], i) => {
          this.wishes.delete(key);
          this.ready.set(key, (strokes[i] as Stroke).samples.byteLength);
          this.bytes += (strokes[i] as Stroke).samples.byteLength;
        });
        made.forEach((m) => this.sources.add(m.source));
        this.onMade(made);
        this.makeRoom();
        this.tell();
      }
      this.working = null;
      this.tell();
    } catch (e) {
      this.working = null;
      this.wishes.clear();
      for (const w of this.waiting.splice(0)) w.failed(e);
    }
  }

  private makeRoom() {
    for (const [key, bytes] of this.ready) {
      if (this.bytes <= MOST_BYTES) return;
      if (this.needed.has(key)) continue;
      this.forget(key, bytes);
    }
    // More is needed than there is room for: further takes are left out, and the nearest stroke stands in.
    if (this.bytes > MOST_BYTES) for (const [key, wish] of this.wishes) if (wish.rank > 0) this.wishes.delete(key);
  }

  private forget(key: string, bytes: number) {
    this.ready.delete(key);
    this.bytes -= bytes;
    const [kit, sound, index, take] = key.split('|') as [string, string, string, string];
    this.onForget(`${kit}|${sound}`, Number(index), Number(take));
  }

  private tell() {
    const due = this.waiting.filter((w) => w.until());
    this.waiting = this.waiting.filter((w) => !due.includes(w));
    for (const w of due) w.done();
  }

  private until(test: () => boolean): Promise<void> {
    return test() ? Promise.resolve() : new Promise((done, failed) => this.waiting.push({ until: test, done, failed }));
  }

  /** Every sound that is needed has a stroke: it can be heard. */
  firstReady(): Promise<void> {
    return this.until(() => [...this.wishes.values()].every((w) => this.sources.has(w.source)));
  }

  /** All that is needed is ready: what is heard is what an export has. */
  allReady(): Promise<void> {
    return this.until(() => this.wishes.size === 0);
  }
}
