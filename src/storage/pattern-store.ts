import type { HitPattern } from '@/core/model/pattern';
import { database, type NodSwayDatabase, type PatternRow } from './database';
import { NamedStore } from './named-store';

/** A pattern under its name. */
export interface KeptPattern {
  name: string;
  pattern: HitPattern;
}

async function read(rows: readonly PatternRow[]): Promise<KeptPattern[]> {
  // Loaded with the first pattern that is kept: most visits need no checker here.
  if (rows.length === 0) return [];
  const { parsePattern } = await import('@/formats/pattern-format');
  return rows.flatMap(({ name, pattern }) => {
    try {
      return [{ name, pattern: parsePattern(pattern) }];
    } catch {
      return [];
    }
  });
}

/** The pattern book: patterns by name, for every part. */
export class PatternStore extends NamedStore<KeptPattern> {
  constructor(db: NodSwayDatabase = database) {
    super(
      db,
      'patterns',
      (rows) => read(rows as readonly PatternRow[]),
      ({ name, pattern }): PatternRow => ({ name, pattern: { ...pattern, name } }),
    );
  }
}

export const patternStore = new PatternStore();
