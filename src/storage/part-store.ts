import { Dexie, liveQuery } from 'dexie';
import { newId, newIdInPart } from '@/editing/ids';
import { NamedError } from '@/core/errors';
import { applyDiff } from '@/core/part/diff';
import { isOlderFormat as isOlder, PART_FORMAT, type Part } from '@/core/model/part';
import type { FinishedEdit } from '@/editing/saver';
import { askToStay } from './storage-backend';
import { database, type EditRow, type IdeaOf, type KeptLoop, type NodSwayDatabase, type PartRow } from './database';
import { named } from './named';
import { UnchosenStore } from './unchosen-store';
import type { PartSummary } from './summary';
import { IDEA_MARK, ideasRange, removeOfPart } from './tables';

/** A part with the number of the last edit in it. */
export interface StoredPart {
  part: Part;
  head: number;
  /** The loop that was set last. */
  loop?: KeptLoop;
  /** It was kept in an older format until now. */
  wasOlder?: true;
}

export interface NewPart {
  id?: string;
  about?: string;
  song?: Uint8Array;
  idea?: IdeaOf;
  /**
   * Number of its last edit: where a part of this id was here before, its numbers go on, so that a tab that has that one open sees another.
   */
  head?: number;
  /** Where it is known already: within a transaction it has to be. */
  summary?: PartSummary;
}

/** What makes summaries performs parts: it is loaded with the first part that is written. */
let summarizing: ((part: Part) => PartSummary) | null = null;
export const summaryOf = async (part: Part): Promise<PartSummary> => (summarizing ??= (await import('./summary')).summarize)(part);

/** An idea as it is kept. */
export interface StoredIdea extends StoredPart, IdeaOf {
  id: string;
}

/** After this many edits the whole part is written once, so that opening it stays quick. */
const EDITS_BEFORE_BODY = 60;
/** So many edits are kept for going back after a reload. */
const EDITS_KEPT = 200;
/** Or fewer, where they changed more hits than this in all. */
const MOST_KEPT_HITS = 100_000;

/**
 * Keeps parts. A finished edit is one small record, written at once, so a killed tab loses nothing; its number must follow the
 * last one in the store, so two tabs cannot overwrite each other.
 */
export class PartStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** @throws NamedError store-full, store-refused */
  async create(part: Part, extra: NewPart = {}): Promise<string> {
    const id = extra.id ?? newId();
    const now = Date.now();
    const head = extra.head ?? 0;
    const row: PartRow = {
      id,
      name: part.name,
      createdAt: now,
      updatedAt: now,
      head,
      summary: extra.summary ?? (await summaryOf(part)),
      ...(extra.about ? { about: extra.about } : {}),
      ...(extra.idea ? { idea: extra.idea } : {}),
    };
    return named(() =>
      this.db.transaction('rw', this.db.parts, this.db.bodies, this.db.songs, async () => {
        await this.db.parts.add(row);
        await this.db.bodies.add({ id, seq: head, part });
        if (extra.song) await this.db.songs.add({ id, bytes: extra.song });
        return id;
      }),
    );
  }

  /** Reads a part: its last whole body and the edits since. @throws NamedError not-found, bad-part, store-refused */
  load(id: string): Promise<StoredPart> {
    return named(async () => {
      const [row, body, edits] = await this.db.transaction('r', this.db.parts, this.db.bodies, this.db.edits, async () => {
        const [row, body] = await Promise.all([this.db.parts.get(id), this.db.bodies.get(id)]);
        return [row, body, body ? await this.editsOf(id, body.seq + 1).toArray() : []] as const;
      });
      if (!row || !body) throw new NamedError('not-found', { id });
      // Edits may be ahead of the row, where a tab was killed between the two. What lies behind a gap led nowhere.
      const gap = edits.findIndex((e, i) => e.seq !== body.seq + 1 + i);
      const following = gap < 0 ? edits : edits.slice(0, gap);
      const head = body.seq + following.length;
      const part = await this.read(body.part, following);
      if (edits.length > following.length) await this.dropStrays(id);
      const isNewest = (body.part as Partial<Part> | null)?.format === PART_FORMAT;
      if (edits.length > EDITS_BEFORE_BODY || !isNewest) void this.compact(id, part, head);
      return { part, head, ...(row.loop ? { loop: row.loop } : {}), ...(isOlder(body.part) ? { wasOlder: true as const } : {}) };
    });
  }

  /** Keeps the loop of a part: how it is worked on, no edit of it. */
  keepLoop(id: string, loop: KeptLoop): Promise<void> {
    return named(async () => void (await this.db.parts.update(id, { loop })));
  }

  /**
   * What the store gives back was checked when it came in; the full check is loaded where the data has lost its shape, or is of an older
   * format.
   */
  private async read(data: unknown, edits: readonly EditRow[]): Promise<Part> {
    const { looksLikePart } = await import('@/formats/hit-rules');
    if (looksLikePart(data) && !edits.some(isOlder)) return edits.reduce((part, { diff }) => applyDiff(part, diff), data as Part);
    if (isOlder(data) || edits.some(isOlder)) return (await import('@/formats/older-edits')).replayed(data, edits);
    return edits.reduce((part, { diff }) => applyDiff(part, diff), (await import('@/formats/part-format')).parsePart(data));
  }

  song(id: string): Promise<Uint8Array | undefined> {
    return named(async () => (await this.db.songs.get(id))?.bytes);
  }

  /**
   * Writes finished edits in one go, the first as number `seq`: all of them or none. The whole transaction is handed over at once and
   * closed, so that it reaches the disk even where the page is too busy to hear of it, or is killed. {@link settleHead} must follow.
   * @throws NamedError changed-elsewhere where another tab has an edit of that number, store-full, store-refused
   */
  appendEdits(id: string, seq: number, edits: readonly FinishedEdit[]): Promise<void> {
    const rows = edits.map(({ label, diff, after, step }, i): EditRow => ({
      partId: id,
      seq: seq + i,
      label,
      diff,
      format: after.format,
      ...(step === 'do' ? {} : { step }),
    }));
    return named(async () => {
      if (!this.db.isOpen()) await this.db.open();
      try {
        await addAtOnce(this.db.backendDB(), 'edits', rows);
      } catch (e) {
        throw (e as { name?: string } | null)?.name === 'ConstraintError' ? new NamedError('changed-elsewhere', { seq }) : e;
      }
      for (const row of rows) this.db.mirror.saw('edits', [row.partId, row.seq], row);
      this.db.copy.written([{ table: 'edits', keys: rows.map((row) => [row.partId, row.seq]) }]);
    });
  }

  /**
   * Brings the part's row up to edits that were written, from number `seq` to `last`; `after` is the part that they lead to.
   * Where another tab has read these edits already and gone on from them, its row stands: they are part of the history.
   * @throws NamedError changed-elsewhere (they were made on a state that is long past), deleted-elsewhere: the edits are taken out again;
   *   store-full, store-refused
   */
  async settleHead(id: string, seq: number, last: number, after: Part): Promise<void> {
    const change = { head: last, name: after.name, updatedAt: Date.now(), summary: await summaryOf(after) };
    return named(async () => {
      const foreign = await this.db.transaction('rw', this.db.parts, this.db.bodies, this.db.edits, async () => {
        const [row, body] = await Promise.all([this.db.parts.get(id), this.db.bodies.get(id)]);
        if (row && row.head < seq) return void (await this.db.parts.put({ ...row, ...change }));
        if (row && body && body.seq < seq) return;
        await this.editsOf(id, seq, last).delete();
        return row ? new NamedError('changed-elsewhere', { head: row.head }) : new NamedError('deleted-elsewhere', { id });
      });
      if (foreign) throw foreign;
      askToStay();
    });
  }

  /** Calls back once, when a store that refused takes writes again. */
  whenBack(hear: () => void): void {
    this.db.recovery.whenBack(hear);
  }

  /** What is refused here stands in memory as well: that is no reason to stop. */
  keepUnchosen(id: string, part: Part, steps: readonly string[]): void {
    new UnchosenStore(this.db).keep(id, part, steps).catch((e: unknown) => console.error(e));
  }

  dropUnchosen(id: string): void {
    new UnchosenStore(this.db).drop(id).catch((e: unknown) => console.error(e));
  }

  /** Takes out edits that lie behind a gap; looked for anew, since a tab that works on the part may just have filled it. */
  private dropStrays(id: string): Promise<unknown> {
    return this.db.transaction('rw', this.db.bodies, this.db.edits, async () => {
      const body = await this.db.bodies.get(id);
      if (!body) return;
      let head = body.seq;
      for (const { seq } of await this.editsOf(id, body.seq + 1).toArray()) if (seq === head + 1) head++;
      await this.editsOf(id, head + 1).delete();
    });
  }

  /** Takes out edits that were written behind one that was not. */
  dropEdits(id: string, seq: number, last: number): Promise<void> {
    return named(async () => {
      await this.editsOf(id, seq, last).delete();
    });
  }

  /** Tells of every change of a part's head, in this tab or another, and (null) of its deletion; the result ends it. */
  follow(id: string, hear: (head: number | null) => void): () => void {
    // A store that refuses is told by whoever asks it for something.
    const subscription = liveQuery(() => this.db.parts.get(id)).subscribe({
      next: (row) => hear(row?.head ?? null),
      error: () => undefined,
    });
    return () => subscription.unsubscribe();
  }

  /** Tells which ideas a part has, again with each change; the result ends it. */
  followIdeas(partId: string, hear: (ids: readonly string[]) => void): () => void {
    const subscription = liveQuery(() =>
      this.db.parts
        .where(':id')
        .between(...ideasRange(partId))
        .primaryKeys(),
    ).subscribe({ next: hear, error: () => undefined });
    return () => subscription.unsubscribe();
  }

  /** The last edits up to `head`, oldest first, for going back after a reload. */
  recentEdits(id: string, head: number): Promise<EditRow[]> {
    return named(async () => {
      // Edits made since it was opened may be written already; of a store that was lost only some are left.
      const { edits } = await this.inNewest(id, head - EDITS_KEPT + 1, head);
      let hits = 0;
      let first = edits.length;
      while (first > 0) {
        const { diff, seq } = edits[first - 1] as EditRow;
        hits += diff.removed.length + diff.added.length;
        if (hits > MOST_KEPT_HITS || seq !== head - (edits.length - first)) break;
        first--;
      }
      return edits.slice(first);
    });
  }

  /** Edits of a part from number `first` to `last`, oldest first. @throws NamedError not-found where some are no longer there */
  editsFrom(id: string, first: number, last: number): Promise<EditRow[]> {
    return named(async () => {
      const { edits } = await this.inNewest(id, first, last);
      if (edits.length !== last - first + 1) throw new NamedError('not-found', { id });
      return edits;
    });
  }

  /**
   * Edits of a part from number `first` to `last`, in the newest format: older ones are told from state to state, which what tells them is
   * loaded for. What they are told from is read with them, since another may write the part in the newest format meanwhile.
   */
  private async inNewest(id: string, first: number, last = Infinity): Promise<{ edits: EditRow[]; older: ReadonlySet<number> }> {
    const { edits, body, between } = await this.db.transaction('r', this.db.bodies, this.db.edits, async () => {
      const edits = await this.editsOf(id, first, last).toArray();
      if (!edits.some(isOlder)) return { edits, body: undefined, between: [] };
      const body = await this.db.bodies.get(id);
      // From the body to the first of them, states are led through all edits between.
      const between = body
        ? await this.editsOf(id, Math.min(body.seq + 1, edits[0]?.seq ?? 0), Math.max(body.seq, edits.at(-1)?.seq ?? 0)).toArray()
        : [];
      return { edits, body, between };
    });
    const older = new Set(edits.filter(isOlder).map((e) => e.seq));
    if (!body) return { edits: older.size === 0 ? edits : [], older };
    const { editsInNewest } = await import('@/formats/older-edits');
    const told = new Map(editsInNewest(body.part, body.seq, between).map((e) => [e.seq, e]));
    return { edits: edits.map((e) => told.get(e.seq) ?? e), older };
  }

  /** Writes the whole part; of the edits that are in it the last ones stay, in the format of the part. */
  private async compact(id: string, part: Part, head: number): Promise<void> {
    const { edits, older } = await this.inNewest(id, head - EDITS_KEPT + 1, head);
    await this.db.transaction('rw', this.db.parts, this.db.bodies, this.db.edits, async () => {
      if (((await this.db.parts.get(id))?.head ?? Infinity) > head) return;
      await this.db.bodies.put({ id, seq: head, part });
      await this.editsOf(id, -Infinity, head - EDITS_KEPT).delete();
      await this.db.edits.bulkPut(edits.filter((e) => older.has(e.seq)));
    });
  }

  private editsOf(id: string, from = -Infinity, to = Infinity) {
    return this.db.edits
      .where('[partId+seq]')
      .between([id, from === -Infinity ? Dexie.minKey : from], [id, to === Infinity ? Dexie.maxKey : to], true, true);
  }

  /** The parts of the Shelf, the last changed first. */
  list(): Promise<PartRow[]> {
    return named(() =>
      this.db.parts
        .orderBy('updatedAt')
        .reverse()
        .filter((row) => !row.idea)
        .toArray(),
    );
  }

  /** Keeps an idea of a part; it goes with the part. @throws NamedError store-full, store-refused */
  createIdea(part: Part, idea: IdeaOf): Promise<string> {
    return this.create(part, { id: `${idea.partId}${IDEA_MARK}${newIdInPart()}`, idea });
  }

  /** The ideas of a part by their letters; one that no longer reads is left out. */
  ideas(partId: string): Promise<StoredIdea[]> {
    return named(async () => {
      const rows = await this.db.parts
        .where(':id')
        .between(...ideasRange(partId))
        .toArray();
      const found = await Promise.all(
        rows
          .map(async (row): Promise<StoredIdea | null> => (row.idea ? { id: row.id, ...row.idea, ...(await this.load(row.id)) } : null))
          .map((idea) => idea.catch(() => null)),
      );
      return found.filter((idea) => idea !== null).sort((a, b) => (a.letter < b.letter ? -1 : 1));
    });
  }

  /** Takes a part off the Shelf, with everything that belongs to it; the result puts it back. */
  remove(id: string): Promise<() => Promise<void>> {
    return named(() => removeOfPart(this.db, id, this.db.specs));
  }

  /** Does several things to parts as one: all of it or nothing, and one wait for the disk. */
  together<T>(work: () => Promise<T>): Promise<T> {
    const { parts, bodies, songs, flags } = this.db;
    return named(() => this.db.transaction('rw', [parts, bodies, songs, flags], work));
  }

  has(id: string): Promise<boolean> {
    return named(async () => (await this.db.parts.get(id)) !== undefined);
  }

  hasFlag(name: string): Promise<boolean> {
    return named(async () => (await this.db.flags.get(name)) !== undefined);
  }

  setFlag(name: string): Promise<unknown> {
    return named(() => this.db.flags.put({ name, at: Date.now() }));
  }
}

/** Adds rows in a transaction that is closed in the same breath; the promise ends with it. */
function addAtOnce(db: IDBDatabase, table: string, rows: readonly unknown[]): Promise<void> {
  return new Promise((done, failed) => {
    const work = db.transaction([table], 'readwrite', { durability: 'strict' });
    let cause: unknown = null;
    work.oncomplete = () => done();
    work.onabort = () => failed(cause ?? work.error);
    work.onerror = (e) => (cause ??= (e.target as IDBRequest | null)?.error);
    try {
      for (const row of rows) work.objectStore(table).add(row);
      work.commit();
    } catch (e) {
      cause = e;
      work.abort();
    }
  });
}

export const partStore = new PartStore();
