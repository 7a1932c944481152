import { layersOfSource, nameOfSource, type RowSource } from '@/core/playback/sources';
import { bytesOfStroke, type RenderedStroke } from '@/core/synth/stroke';

export interface MadeStroke {
  /** Name of its source. */
  source: string;
  layer: number;
  take: number;
  stroke: RenderedStroke;
}

/** A stroke that is needed. */
export interface NeededStroke {
  source: RowSource;
  layer: number;
  take: number;
}

/** At most so many bytes of strokes are kept. */
const MOST_BYTES = 64 * 2 ** 20;
/** So many are asked for at once: what is needed most comes soon. */
const BATCH = 4;

interface Wish extends NeededStroke {
  name: string;
  rank: number;
}

/**
 * Which strokes are needed, which are being made, which are ready. The first of each sound comes first, then one of each layer, then the
 * other takes. Strokes that nothing needs any more go when room is short.
 */
export class StrokeCache {
  private readonly wishes = new Map<string, Wish>();
  private readonly ready = new Map<string, Pick<MadeStroke, 'source' | 'layer' | 'take'> & { bytes: number }>();
  private readonly sources = new Set<string>();
  private needed = new Set<string>();
  private bytes = 0;
  private working: Promise<void> | null = null;
  private waiting: { until: () => boolean; done: () => void; failed: (e: unknown) => void }[] = [];

  constructor(
    private readonly make: (wishes: readonly NeededStroke[]) => Promise<RenderedStroke[]>,
    private readonly onMade: (made: readonly MadeStroke[]) => void,
    private readonly onForget: (source: string, layer: number, take: number) => void,
  ) {}

  /** How many are still to come. */
  get left(): number {
    return this.wishes.size;
  }

  /** Asks for takes of some layers, the first of each before all others. `only` forgets that anything else was needed. */
  need(list: readonly { source: RowSource; layers: readonly number[] }[], { only = false, takes = Infinity } = {}): void {
    if (only) {
      this.needed = new Set();
      this.wishes.clear();
    }
    for (const { source, layers } of list) {
      const name = nameOfSource(source);
      const shapes = layersOfSource(source);
      layers.forEach((layer, nth) => {
        for (let take = 0; take < Math.min(takes, shapes[layer]?.takes ?? 0); take++) {
          const key = `${name}|${layer}|${take}`;
          this.needed.add(key);
          const rank = take > 0 ? 2 : nth > 0 ? 1 : 0;
          if (!this.ready.has(key) && !((this.wishes.get(key)?.rank ?? 3) <= rank))
            this.wishes.set(key, { name, source, layer, take, rank });
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
        const strokes = await this.make(batch.map(([, wish]) => wish));
        const made = batch.map(([, { name, layer, take }], i): MadeStroke => ({
          source: name,
          layer,
          take,
          stroke: strokes[i] as RenderedStroke,
        }));
        batch.forEach(([key, { name, layer, take }], i) => {
          const bytes = bytesOfStroke(strokes[i] as RenderedStroke);
          this.wishes.delete(key);
          this.ready.set(key, { source: name, layer, take, bytes });
          this.bytes += bytes;
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
    for (const [key, { source, layer, take, bytes }] of this.ready) {
      if (this.bytes <= MOST_BYTES) return;
      if (this.needed.has(key)) continue;
      this.ready.delete(key);
      this.bytes -= bytes;
      this.onForget(source, layer, take);
    }
    // More is needed than there is room for: further takes are left out, and the nearest stroke stands in.
    if (this.bytes > MOST_BYTES) for (const [key, wish] of this.wishes) if (wish.rank > 0) this.wishes.delete(key);
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
    return this.until(() => [...this.wishes.values()].every((w) => this.sources.has(w.name)));
  }

  /** All that is needed is ready: what is heard is what an export has. */
  allReady(): Promise<void> {
    return this.until(() => this.wishes.size === 0);
  }
}
