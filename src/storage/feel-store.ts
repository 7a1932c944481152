import type { Feel } from '@/core/model/feel';
import { database, type FeelRow, type NodSwayDatabase } from './database';
import { NamedStore } from './named-store';

/** A whole feel under a name. */
export interface KeptFeel {
  name: string;
  feel: Feel;
}

async function read(rows: readonly FeelRow[]): Promise<KeptFeel[]> {
  // Loaded with the first feel that is kept: most visits need no checker here.
  if (rows.length === 0) return [];
  const { parseFeel } = await import('@/formats/feel-format');
  return rows.flatMap(({ name, feel }) => {
    try {
      return [{ name, feel: parseFeel(feel) }];
    } catch {
      return [];
    }
  });
}

const rowOf = ({ name, feel }: KeptFeel): FeelRow => ({ name, feel });

/** Keeps whole feels by name, for every part. */
export class FeelStore extends NamedStore<KeptFeel> {
  constructor(db: NodSwayDatabase = database) {
    super(db, 'feels', (rows) => read(rows as readonly FeelRow[]), rowOf);
  }
}

export const feelStore = new FeelStore();
