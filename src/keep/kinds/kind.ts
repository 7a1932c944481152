import type { EntryKind, LibraryEntry } from '@/formats/library-file';
import type { OpenLibrary } from '@/formats/library-zip';
import type { NodSwayDatabase } from '@/storage/database';

/** What is here beside the store: settings that the page remembers, by their names. */
export interface Here {
  db: NodSwayDatabase;
  remembered: Readonly<Record<string, string>>;
  /** Settings that were taken in, for the page to remember. */
  remember(values: Readonly<Record<string, string>>): void;
}

/** A thing that goes into a library file. */
export interface Packed {
  entry: Omit<LibraryEntry, 'file'>;
  folder: string;
  ending: string;
  /** Its file; what it needs beside itself comes as files of the paths that it names. */
  data(): Promise<{ file: string | Blob; beside?: readonly { path: string; blob: Blob }[] }>;
}

/** How a thing of a library file stands to what is here. */
export type Standing = 'new' | 'same' | 'different';

/** What is done with it: put where nothing is, put in the place of what is here, or put beside that under another name. */
export type How = 'add' | 'replace' | 'beside';

/** One kind of things that go into library files and come out of them: an object a kind, in `kinds/all.ts`. */
export interface Kind {
  kind: EntryKind;
  /** All that is here. @param parts ids: only what these parts are and need */
  here(here: Here, parts: ReadonlySet<string> | null): Promise<Packed[]>;
  /** How it stands to what is here; when that was last changed, and what differs, in words. */
  look(here: Here, entry: LibraryEntry, from: OpenLibrary): Promise<{ standing: Standing; updatedAt?: number; differs?: string }>;
  /** @throws NamedError where it does not read, or the store has no room */
  take(here: Here, entry: LibraryEntry, from: OpenLibrary, how: How): Promise<void>;
}

/** @example besideName('Late', (name) => name === 'Late (backup)') // 'Late (backup 2)' */
export function besideName(name: string, isTaken: (name: string) => boolean): string {
  for (let n = 1; ; n++) {
    const called = `${name.slice(0, 100)} (backup${n > 1 ? ` ${n}` : ''})`;
    if (!isTaken(called)) return called;
  }
}

/** Whether two values say the same as JSON, whatever the order of their members. */
export const saysTheSame = (a: unknown, b: unknown): boolean => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => [k, sorted(v)]),
  );
}
