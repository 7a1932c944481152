import type { DBCore, DBCoreKeyRange, DBCoreMutateRequest, DBCoreTable, Middleware } from 'dexie';

/** Recordings are read from the disk piece by piece: the browser keeps them with what it throws away. */
const NOT_MIRRORED: readonly string[] = ['recordings', 'deletedRows'];
/** Whole parts take room: of these the rows seen last are kept. */
const MOST_ROWS: Readonly<Record<string, number>> = { bodies: 24, versions: 200, songs: 24, samples: 400 };
const MOST_OF_OTHERS = 20_000;

interface Seen {
  key: unknown;
  row: unknown;
}

/**
 * The rows of the store that this tab has read or written, in memory. A browser whose disk is full may throw the whole database away:
 * what is here is then written back.
 */
export class Mirror {
  private readonly tables = new Map<string, Map<string, Seen>>();

  /** @example [...mirror.rowsOf('parts')] */
  rowsOf(table: string): unknown[] {
    return [...(this.tables.get(table)?.values() ?? [])].map((seen) => seen.row);
  }

  rowOf(table: string, key: unknown): unknown {
    return this.tables.get(table)?.get(nameOf(key))?.row;
  }

  get isEmpty(): boolean {
    return [...this.tables.values()].every((rows) => rows.size === 0);
  }

  saw(table: string, key: unknown, row: unknown): void {
    if (NOT_MIRRORED.includes(table) || row === undefined || row === null) return;
    let rows = this.tables.get(table);
    if (!rows) this.tables.set(table, (rows = new Map()));
    const name = nameOf(key);
    rows.delete(name);
    rows.set(name, { key, row });
    if (rows.size > (MOST_ROWS[table] ?? MOST_OF_OTHERS)) rows.delete(rows.keys().next().value as string);
  }

  gone(table: string, key: unknown): void {
    this.tables.get(table)?.delete(nameOf(key));
  }

  goneWithin(
    table: string,
    { lower, upper, lowerOpen, upperOpen, type }: DBCoreKeyRange,
    compare: (a: unknown, b: unknown) => number,
  ): void {
    const rows = this.tables.get(table);
    // Ranges: 1 equal, 2 between, 3 any, 4 never.
    if (!rows || type === 4) return;
    for (const [name, { key }] of rows) {
      const below = type !== 3 && lower !== undefined && (compare(key, lower) < 0 || (lowerOpen === true && compare(key, lower) === 0));
      const above = type !== 3 && upper !== undefined && (compare(key, upper) > 0 || (upperOpen === true && compare(key, upper) === 0));
      if (!below && !above) rows.delete(name);
    }
  }
}

const nameOf = (key: unknown): string => JSON.stringify(key);

/** Lets a mirror see what is read from and written to a database. @param onWrite hears of rows that came, changed or went */
export function mirroring(
  mirror: Mirror,
  compare: (a: unknown, b: unknown) => number,
  onWrite: (table: string) => void,
): Middleware<DBCore> {
  return {
    stack: 'dbcore',
    name: 'mirror',
    create: (core) => ({ ...core, table: (name) => mirrored(core.table(name), mirror, compare, onWrite) }),
  };
}

function mirrored(
  table: DBCoreTable,
  mirror: Mirror,
  compare: (a: unknown, b: unknown) => number,
  onWrite: (table: string) => void,
): DBCoreTable {
  const { name, schema } = table;
  const keyOf = (row: unknown): unknown => schema.primaryKey.extractKey?.(row);
  const see = (row: unknown) => mirror.saw(name, keyOf(row), row);
  const wrote = (request: DBCoreMutateRequest) => {
    if (request.type === 'add' || request.type === 'put') request.values.forEach(see);
    else if (request.type === 'delete') request.keys.forEach((key: unknown) => mirror.gone(name, key));
    else mirror.goneWithin(name, request.range, compare);
  };
  return {
    ...table,
    async mutate(request) {
      const isRenaming =
        request.type !== 'put' ||
        request.values.some(
          (row) => (mirror.rowOf(name, keyOf(row)) as { name?: string } | undefined)?.name !== (row as { name?: string }).name,
        );
      const answer = await table.mutate(request);
      if (answer.numFailures === 0) wrote(request);
      if (isRenaming) onWrite(name);
      return answer;
    },
    async get(request) {
      const row: unknown = await table.get(request);
      if (row !== undefined) see(row);
      return row;
    },
    async getMany(request) {
      const rows: unknown[] = await table.getMany(request);
      for (const row of rows) if (row !== undefined) see(row);
      return rows;
    },
    async query(request) {
      const answer = await table.query(request);
      if (request.values) answer.result.forEach(see);
      return answer;
    },
  };
}
