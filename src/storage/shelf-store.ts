import { renamePart } from '@/core/commands/settings';
import { diffParts } from '@/core/part/diff';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';
import { WholeParts } from './whole-part';

/** What is done to parts on the Shelf without opening them. */
export class ShelfStore {
  private readonly parts: WholeParts;

  constructor(private readonly db: NodSwayDatabase = database) {
    this.parts = new WholeParts(db);
  }

  /** Gives a part another name, as an edit of it: tabs that have it open follow, and it can be undone there. @throws NamedError */
  async rename(id: string, name: string): Promise<void> {
    const { part, head } = await this.parts.parts.load(id);
    const after = renamePart(part, name);
    const diff = diffParts(part, after);
    if (!diff) return;
    await this.parts.parts.appendEdits(id, head + 1, [{ label: 'Rename the part', diff, after, step: 'do' }]);
    await this.parts.parts.settleHead(id, head + 1, head + 1, after);
  }

  /** Copies a part with its song, versions, takes, ideas and tags. @returns the copy's id */
  async duplicate(id: string, nameOf: (name: string) => string): Promise<string> {
    const [whole, row] = await Promise.all([this.parts.read(id), named(() => this.db.parts.get(id))]);
    const copy = await this.parts.create({ ...whole, part: { ...whole.part, name: nameOf(whole.part.name) } });
    if (row?.tags) await this.tag([copy], { add: row.tags });
    return copy;
  }

  /** Puts tags on parts and takes others off. @returns what puts all back */
  tag(
    ids: readonly string[],
    { add = [], remove = [] }: { add?: readonly string[]; remove?: readonly string[] },
  ): Promise<() => Promise<void>> {
    return named(async () => {
      const before = await this.db.transaction('rw', this.db.parts, async () => {
        const rows = (await this.db.parts.bulkGet([...ids])).filter((row) => row !== undefined);
        await this.db.parts.bulkPut(rows.map((row) => ({ ...row, tags: tagsWith(row.tags ?? [], add, remove) })));
        return rows.map(({ id, tags = [] }) => ({ id, tags }));
      });
      return () =>
        named(() =>
          this.db.transaction('rw', this.db.parts, async () => {
            for (const { id, tags } of before) await this.db.parts.update(id, { tags });
          }),
        );
    });
  }
}

/** @example tagsWith(['late', 'verse'], ['loud'], ['late']) // ['loud', 'verse'] */
export const tagsWith = (tags: readonly string[], add: readonly string[], remove: readonly string[]): string[] =>
  [...new Set([...tags, ...add])].filter((t) => !remove.includes(t)).sort();

export const shelfStore = new ShelfStore();
