import { newTakeId, newIdInPart } from '@/editing/ids';
import type { Part } from '@/core/model/part';
import { takesOf, withTakeIds } from '@/core/take/use-take';
import type { PartFile } from '@/formats/part-file';
import type { NodSwayDatabase } from './database';
import { PartStore, type NewPart } from './part-store';
import { TakeStore } from './take-store';
import { VersionStore } from './version-store';

/** A part with all that is its own, as it goes into files and comes out of them. */
export class WholeParts {
  readonly parts: PartStore;
  private readonly versions: VersionStore;
  private readonly takes: TakeStore;

  constructor(db?: NodSwayDatabase) {
    this.parts = new PartStore(db);
    this.versions = new VersionStore(db);
    this.takes = new TakeStore(db);
  }

  /** All of it. @param now how it stands, where that is newer than the store @throws NamedError not-found, bad-part, store-refused */
  async read(id: string, now?: Part): Promise<PartFile> {
    const part = now ?? (await this.parts.load(id)).part;
    const [song, versions, takes, ideas] = await Promise.all([
      this.parts.song(id),
      this.versions.list(id),
      this.takes.list(id),
      this.parts.ideas(id),
    ]);
    return { part, versions, takes: takesOf(part, takes, (t) => t.take.id), ideas, ...(song ? { song } : {}) };
  }

  /**
   * Puts it on the Shelf. Its takes get numbers of their own, so that a file may come in twice, but where `extra.id` asks for the part as
   * it was. @returns its id @throws NamedError store-full, store-refused
   */
  async create({ part, song, versions = [], takes = [], ideas = [] }: PartFile, extra: NewPart = {}): Promise<string> {
    const known = extra.id === undefined ? null : await this.takes.known(takes.map(({ take }) => take.id));
    const ids = new Map(takes.flatMap(({ take }) => (known && !known.has(take.id) ? [] : [[take.id, newTakeId()] as const])));
    const own = (some: Part): Part => (ids.size > 0 ? withTakeIds(some, ids) : some);
    const id = await this.parts.create(own(part), { ...extra, ...(song ? { song } : {}) });
    // Versions of the same moment stay in their order.
    const series = newIdInPart();
    for (const [i, v] of versions.entries())
      await this.versions.keep(id, { ...v, id: `${series}-${String(i).padStart(4, '0')}`, part: own(v.part) });
    for (const { take, events } of takes) await this.takes.put(id, { ...take, id: ids.get(take.id) ?? take.id }, events);
    for (const { letter, bars, part: idea } of ideas) await this.parts.createIdea(own(idea), { partId: id, letter, bars });
    return id;
  }
}

export const wholeParts = new WholeParts();
