import { createStore } from 'zustand/vanilla';

/**
 * What the library holds, kept outside of the database: where the browser throws that away, for instance because its disk is full, it can
 * be said what is gone.
 */
export interface LibraryMark {
  /** Parts by id and name. */
  parts: [id: string, name: string][];
  /** How many rows the library's other tables have, by table. */
  others: Readonly<Record<string, number>>;
}

const MARK = 'nod-sway:library';
const LOST = 'nod-sway:lost';

/** How many parts were restored from the second copy, and how many recordings and samples were not. */
export interface CameBack {
  parts: number;
  files: number;
}

/** What was lost, until the user dismisses or restores it; and what was restored automatically. */
export const libraryLoss = createStore<{ lost: LibraryMark | null; restored: CameBack | null }>(() => ({ lost: null, restored: null }));

function read(name: string): LibraryMark | null {
  try {
    const mark = JSON.parse(globalThis.localStorage?.getItem(name) ?? 'null') as LibraryMark | null;
    return mark && Array.isArray(mark.parts) ? mark : null;
  } catch {
    // Where pages may keep nothing there is no mark either.
    return null;
  }
}

function write(name: string, mark: LibraryMark | null): void {
  try {
    if (mark) globalThis.localStorage?.setItem(name, JSON.stringify(mark));
    else globalThis.localStorage?.removeItem(name);
  } catch {
    // The same.
  }
}

export const markLibrary = (mark: LibraryMark): void => write(MARK, mark);

/** The database was found empty: what the mark names and was not written back is lost. */
export function noteLoss(here: ReadonlySet<string>): void {
  const mark = read(MARK);
  if (!mark) return;
  const parts = mark.parts.filter(([id]) => !here.has(id));
  const before = read(LOST);
  if (parts.length > 0)
    write(LOST, {
      parts: [...(before?.parts ?? []).filter(([id]) => !mark.parts.some(([other]) => other === id)), ...parts],
      others: mark.others,
    });
  tellLoss(here);
}

/** The database was found empty, and parts of it came back from the second copy. @param notCopied the tables that are not in it */
export function noteRestored(parts: number, notCopied: readonly string[]): void {
  if (parts === 0) return;
  const others = read(MARK)?.others ?? {};
  libraryLoss.setState({ restored: { parts, files: notCopied.reduce((n, table) => n + (others[table] ?? 0), 0) } });
}

/** Tells what is still lost; what is here again, by a restore, is not. */
export function tellLoss(here: ReadonlySet<string>): void {
  const lost = read(LOST);
  const parts = lost?.parts.filter(([id]) => !here.has(id)) ?? [];
  const left = lost && parts.length > 0 ? { ...lost, parts } : null;
  if (lost) write(LOST, left);
  libraryLoss.setState({ lost: left });
}

/** It was read: nothing is said of it any more. */
export function dismissLoss(): void {
  write(LOST, null);
  libraryLoss.setState({ lost: null, restored: null });
}

/** Whether the database must not be taken for a first visit's. */
export const isLossOpen = (): boolean => libraryLoss.getState().lost !== null;
