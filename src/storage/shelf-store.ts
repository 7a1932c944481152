import { nanoid } from 'nanoid';
import { renamePart } from '@/core/commands/settings';
import { diffParts } from '@/core/part/diff';
import { withTakeIds } from '@/core/take/use-take';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';
import { PartStore } from './part-store';
import { TakeStore } from './take-store';
import { VersionStore } from './version-store';

/** What is done to parts on the Shelf without opening them. */
export class ShelfStore {
  private readonly parts: PartStore;
  private readonly versions: VersionStore;
  private readonly takes: TakeStore;

  constructor(private readonly db: NodSwayDatabase = database) {
    this.parts = new PartStore(db);
    this.versions = new VersionStore(db);
    this.takes = new TakeStore(db);
  }

  /** Gives a part another name, as an edit of it: tabs that have it open follow, and it can be undone there. @throws NamedError */
  async rename(id: string, name: string): Promise<void> {
    const { part, head } = await this.parts.load(id);
    const after = renamePart(part, name);
    const diff = diffParts(part, after);
    if (!diff) return;
    await this.parts.appendEdits(id, head + 1, [{ label: 'Rename the part', diff, after, step: 'do' }]);
    await this.parts.settleHead(id, head + 1, head + 1, after);
  }

  /** Copies a part with its song, versions, takes, ideas and tags. @returns the copy's id */
  async duplicate(id: string, nameOf: (name: string) => string): Promise<string> {
    const [{ part }, song, row, versions, takes, ideas] = await Promise.all([this.parts.load(id), this.parts.song(id), named(() => this.db.parts.get(id)), this.versions.list(id), this.takes.list(id), this.parts.ideas(id)]);
    // Takes of its own: one that is deleted of the copy stays with this.
    const ids = new Map(takes.map(({ take }) => [take.id, nanoid(10)]));
    const copy = await this.parts.create({ ...withTakeIds(part, ids), name: nameOf(part.name) }, song ? { song } : {});
    for (const v of [...versions].reverse()) await this.versions.keep(copy, v.name, withTakeIds(v.part, ids), v.at);
    for (const { take, events } of takes) await this.takes.put(copy, { ...take, id: ids.get(take.id) ?? take.id }, events);
    for (const { part: idea, letter, bars } of ideas) await this.parts.createIdea(withTakeIds(idea, ids), { partId: copy, letter, bars });
    if (row?.tags) await this.tag([copy], { add: row.tags });
    return copy;
  }

  /** Puts tags on parts and takes others off. @returns what puts all back */
  tag(ids: readonly string[], { add = [], remove = [] }: { add?: readonly string[]; remove?: readonly string[] }): Promise<() => Promise<void>> {
    return named(async () => {
      const before = await this.db.transaction('rw', this.db.parts, async () => {
        const rows = (await this.db.parts.bulkGet([...ids])).filter((row) => row !== undefined);
        await this.db.parts.bulkPut(rows.map((row) => ({ ...row, tags: tagsWith(row.tags ?? [], add, remove) })));
        return rows.map(({ id, tags = [] }) => ({ id, tags }));
      });
      return () => named(() => this.db.transaction('rw', this.db.parts, async () => {
        for (const { id, tags } of before) await this.db.parts.update(id, { tags });
      }));
    });
  }
}

/** @example tagsWith(['late', 'verse'], ['loud'], ['late']) // ['loud', 'verse'] */
export const tagsWith = (tags: readonly string[], add: readonly string[], remove: readonly string[]): string[] => [...new Set([...tags, ...add])].filter((t) => !remove.includes(t)).sort();

export const shelfStore = new ShelfStore();
