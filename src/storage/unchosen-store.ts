import { newIdInPart } from '@/editing/ids';
import type { Part } from '@/core/model/part';
import { database, type NodSwayDatabase, type VersionRow } from './database';
import { named } from './named';
import { IDEA_MARK } from './tables';

/** This tab, as long as it is open: it holds a lock of this name. */
const TAB = newIdInPart();
const lockOf = (tab: string): string => `nod-sway-tab-${tab}`;
let locked = false;

function holdLock(): void {
  if (locked || typeof navigator === 'undefined' || !navigator.locks) return;
  locked = true;
  // Held until the tab is gone, however it goes.
  void navigator.locks.request(lockOf(TAB), () => new Promise(() => undefined)).catch(() => undefined);
}

/** Tabs that are open; null where the browser does not tell. */
async function openTabs(): Promise<ReadonlySet<string> | null> {
  if (typeof navigator === 'undefined' || !navigator.locks) return null;
  const { held = [] } = await navigator.locks.query();
  return new Set(held.map((lock) => lock.name ?? ''));
}

/** Name of a state that was left without a choice. */
const NAME = 'From a tab that was closed';

/** A part as a tab had it that was closed before one of two states was chosen. */
export interface Unchosen {
  id: string;
  part: Part;
  steps: readonly string[];
}

/** States of parts that wait for a choice between two tabs: kept as versions at once, so that a killed tab loses nothing. */
export class UnchosenStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  private idOf = (own: string): string => `unchosen-${own}-${TAB}`;

  /** Keeps how a part, or an idea, stands in this tab, in place of what was kept of it before. */
  keep(own: string, part: Part, steps: readonly string[]): Promise<void> {
    holdLock();
    const partId = own.split(IDEA_MARK)[0] as string;
    const row: VersionRow = {
      id: this.idOf(own),
      partId,
      name: NAME,
      at: Date.now(),
      part,
      unchosen: { own, tab: TAB, steps: [...steps] },
    };
    return named(async () => void (await this.db.versions.put(row)));
  }

  /** A state that no tab holds, such as one that was kept outside of the database. */
  put(partId: string, part: Part): Promise<void> {
    return named(
      async () =>
        void (await this.db.versions.put({
          id: `unchosen-${newIdInPart()}`,
          partId,
          name: NAME,
          at: Date.now(),
          part,
          unchosen: { own: partId, tab: '', steps: [] },
        })),
    );
  }

  /** It was chosen in this tab, or kept elsewhere. */
  drop(own: string): Promise<void> {
    return named(() => this.db.versions.delete(this.idOf(own)));
  }

  /** What a part's tabs left that were closed before a choice; nothing of tabs that are still open. */
  left(partId: string): Promise<Unchosen[]> {
    return named(async () => {
      const rows = (await this.db.versions.where('partId').equals(partId).toArray()).filter((row) => row.unchosen?.own === partId);
      if (rows.length === 0) return [];
      const open = await openTabs();
      const { parsePart } = await import('@/formats/part-format');
      return rows
        .filter(({ unchosen }) => !open?.has(lockOf(unchosen?.tab ?? '')))
        .map(({ id, part, unchosen }) => ({ id, part: parsePart(part), steps: unchosen?.steps ?? [] }));
    });
  }

  /** A choice was made: it stays a version like others, or goes. */
  settle(id: string, stays: boolean): Promise<void> {
    return named(
      async () =>
        void (stays
          ? await this.db.versions
              .where('id')
              .equals(id)
              .modify((row: VersionRow) => delete row.unchosen)
          : await this.db.versions.delete(id)),
    );
  }
}

export const unchosenStore = new UnchosenStore();
