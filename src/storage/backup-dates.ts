import { isPlausible } from '@/core/dates';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';

/** When the last backup of everything was made, and when "later" was last said; milliseconds since 1970. */
export interface BackupDates {
  last: number | null;
  later: number | null;
}

const DONE = 'backup';
const LATER = 'backup-later';

/** Keeps when backups were made and put off. */
export class BackupDatesStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  get(): Promise<BackupDates> {
    return named(async () => {
      const [done, later] = await this.db.flags.bulkGet([DONE, LATER]);
      return { last: done?.at ?? null, later: later?.at ?? null };
    });
  }

  done(at = Date.now()): Promise<void> {
    return named(async () => void (await this.db.flags.put({ name: DONE, at })));
  }

  putOff(at = Date.now()): Promise<void> {
    return named(async () => void (await this.db.flags.put({ name: LATER, at })));
  }
}

export const backupDates = new BackupDatesStore();

const DAY_MS = 86_400_000;
/** A backup older than this is old. */
const OLD_MS = 30 * DAY_MS;
/** So long "later" holds. */
const LATER_MS = 7 * DAY_MS;

/**
 * How many days ago the last backup was made, where it is old and something was changed since; null where nothing need be said.
 * Without a backup it is counted from the first part that is the user's own.
 * @param parts the parts of the Shelf; demo parts that nobody changed need no backup
 */
export function daysWithout(
  { last, later }: BackupDates,
  parts: readonly { createdAt: number; updatedAt: number; head: number; about?: string }[],
  now = Date.now(),
): number | null {
  const own = parts.filter((p) => p.head > 0 || !p.about);
  const since =
    last ??
    own
      .map((p) => p.createdAt)
      .filter((at) => isPlausible(at, now))
      .reduce((first, at) => Math.min(first, at), now);
  const isChanged = own.some((p) => p.updatedAt > (last ?? 0));
  if (!isChanged || now - since < OLD_MS || (later !== null && now - later < LATER_MS)) return null;
  return Math.floor((now - since) / DAY_MS);
}
