import Dexie, { type EntityTable, type Table } from 'dexie';
import type { PartDiff } from '@/core/part/diff';
import type { KitOfRecordings, OwnSound, SampleId } from '@/core/model/own-sound';
import type { Guards, HatSettings, TakeEvent, Take } from '@/core/model/take';
import type { VelocityCurve } from '@/core/velocity-curve';
import type { StepKind } from '@/editing/history';
import { factory, isInMemory, keyRange } from './storage-backend';
import { markLibrary, noteLoss, noteRestored, tellLoss } from './library-mark';
import { Mirror, mirroring } from './mirror';
import { Recovery } from './recovery';
import { writeBackFromCopy } from './copy-back';
import { copying, inOwnBucket, NOT_COPIED, SecondCopy, type OpenPlace } from './second-copy';
import type { PartSummary } from './summary';
import { DATA_VERSION, TABLES, type RowsOfPart, type TableSpec } from './tables';

/** A part as the Shelf lists it. `head` is the number of its last edit: whoever writes must have seen it. */
export interface PartRow {
  id: string;
  name: string;
  createdAt: number;
  updatedAt: number;
  head: number;
  summary: PartSummary;
  /** One line on demo parts. */
  about?: string;
  tags?: string[];
  /** The loop that was set last: bars from 0, `toBar` not included. */
  loop?: KeptLoop;
  /** It is an idea of another part: not on the Shelf by itself. */
  idea?: IdeaOf;
}

/** A loop, as it was set on the Bench. */
export interface KeptLoop {
  loop: boolean;
  fromBar: number;
  toBar: number;
}

/** Which idea of a part it is. */
export interface IdeaOf {
  partId: string;
  /** A to P. */
  letter: string;
  /** How many bars it was copied from: it goes back in their place. */
  bars: number;
}

/** A whole part as of edit number `seq`; JSON data, checked when it is read. */
export interface BodyRow {
  id: string;
  seq: number;
  part: unknown;
}

/** One finished edit, written the moment it is finished. */
export interface EditRow {
  partId: string;
  seq: number;
  label: string;
  diff: PartDiff;
  /** Of the part that it was made on; part@1 without it. */
  format?: string;
  /** Something done (without it), or a step back or forward again: the history is made of these after a reload. */
  step?: StepKind;
}

/** The bytes of an imported song, kept for export. */
export interface SongRow {
  id: string;
  bytes: Uint8Array;
}

/** A key map of the user's own. */
export interface KitRow {
  name: string;
  voices: Readonly<Record<number, string>>;
}

/** A whole feel of the user's own; JSON data, checked when it is read. */
export interface FeelRow {
  name: string;
  feel: unknown;
}

/** A target of the user's own; JSON data, checked when it is read. */
export interface OutputMapRow {
  name: string;
  target: unknown;
}

/** A part as it once stood; JSON data, checked when it is read. */
export interface VersionRow {
  id: string;
  partId: string;
  name: string;
  /** Rows of before have it in their name, see version-origin.ts. */
  origin?: 'import';
  /** Milliseconds since 1970. */
  at: number;
  part: unknown;
  /** It waits for a choice between two tabs: of which part or idea it is, in which tab, and the steps that led there. */
  unchosen?: { own: string; tab: string; steps: readonly string[] };
}

/** A groove of the user's own; JSON data, checked when it is read. */
export interface GrooveRow {
  id: string;
  groove: unknown;
  tags: readonly string[];
  createdAt: number;
  updatedAt: number;
}

/** A take: how it was recorded; JSON data. */
export interface TakeRow {
  id: string;
  partId: string;
  take: Take;
}

/** Some raw events of a take, written as they came. */
export interface TakeEventsRow {
  takeId: string;
  n: number;
  events: TakeEvent[];
}

/** What is known of an input device. */
export interface InputRow {
  id: string;
  latencyMs: number;
  /** Of the measurement; undefined where the latency was typed. */
  spreadMs?: number;
  curve: VelocityCurve;
  guards: Guards;
  /** Keys with a curve of their own. */
  curves?: Readonly<Record<number, VelocityCurve>>;
  hat?: HatSettings;
  /** MIDI key that each of its keys stands for. */
  pads?: Readonly<Record<number, number>>;
  /** Keys that call a section, by its number from 1, instead of being played. */
  calls?: Readonly<Record<number, number>>;
}

/** A recording of the user's own, by what it holds: a WAV file. */
export interface SampleRow {
  id: SampleId;
  bytes: Uint8Array<ArrayBuffer>;
}

/** The recording of a break, by what it holds: a WAV file. */
export interface RecordingRow {
  id: SampleId;
  /** Stays where it is until it is read, however long it is. */
  blob: Blob;
  name: string;
  seconds: number;
  /** When it came in, in milliseconds since 1970. */
  at: number;
}

/** A pattern of the user's own; JSON data, checked when it is read. */
export interface PatternRow {
  name: string;
  pattern: unknown;
}

/** A folder that sounds are looked for in; the browser asks before it is read again. */
export interface FolderRow {
  id: string;
  name: string;
  /** The way to it, where the browser can keep that. */
  handle?: FileSystemDirectoryHandle;
  /** The sound files in it when it was last read, by path. */
  paths: readonly string[];
}

/** A part that was taken off the Shelf, as its drawer lists it. */
export interface DeletedRow {
  id: string;
  /** Milliseconds since 1970. */
  at: number;
  /** Its line of the Shelf. */
  row: PartRow;
}

/** All that belongs to it. */
export interface DeletedRowsRow {
  id: string;
  rows: RowsOfPart;
}

export interface FlagRow {
  name: string;
  at: number;
  /** Of a folder that is to be found again. */
  handle?: FileSystemDirectoryHandle;
  /** Of a write that only takes room. */
  pad?: string;
}

/** The name of the library's database. */
const LIBRARY = 'nod-sway';

/** The browser's store, made of its tables: those of each version are added to an older store when it is opened. */
export class NodSwayDatabase extends Dexie {
  parts!: EntityTable<PartRow, 'id'>;
  bodies!: EntityTable<BodyRow, 'id'>;
  edits!: Table<EditRow, [string, number]>;
  songs!: EntityTable<SongRow, 'id'>;
  flags!: EntityTable<FlagRow, 'name'>;
  kits!: EntityTable<KitRow, 'name'>;
  feels!: EntityTable<FeelRow, 'name'>;
  versions!: EntityTable<VersionRow, 'id'>;
  grooves!: EntityTable<GrooveRow, 'id'>;
  takes!: EntityTable<TakeRow, 'id'>;
  takeEvents!: Table<TakeEventsRow, [string, number]>;
  inputs!: EntityTable<InputRow, 'id'>;
  sounds!: EntityTable<OwnSound, 'id'>;
  soundKits!: EntityTable<KitOfRecordings, 'id'>;
  samples!: EntityTable<SampleRow, 'id'>;
  folders!: EntityTable<FolderRow, 'id'>;
  patterns!: EntityTable<PatternRow, 'name'>;
  targets!: EntityTable<OutputMapRow, 'name'>;
  recordings!: EntityTable<RecordingRow, 'id'>;
  deleted!: EntityTable<DeletedRow, 'id'>;
  deletedRows!: EntityTable<DeletedRowsRow, 'id'>;

  readonly mirror = new Mirror();
  readonly recovery = new Recovery(this);
  readonly copy: SecondCopy;
  /** The library was lost, and the rows in memory have not been written back yet. */
  private owesMirror = false;
  private marking: ReturnType<typeof setTimeout> | null = null;

  /** @param copyPlace where its second copy is kept */
  constructor(
    name = LIBRARY,
    readonly specs: readonly TableSpec[] = TABLES,
    copyPlace: OpenPlace | null = null,
  ) {
    // Strict: what was answered is on the disk, not in a buffer that a crash takes along.
    super(name, { indexedDB: factory, IDBKeyRange: keyRange, chromeTransactionDurability: 'strict' });
    this.use(
      mirroring(
        this.mirror,
        (a, b) => factory.cmp(a, b),
        (table) => this.changed(table),
      ),
    );
    this.copy = new SecondCopy(this, specs, copyPlace);
    this.use(copying(this.copy));
    // Before anything else is asked of a database that was just opened.
    this.on('ready', () => this.lookForLoss(), true);
    for (const version of new Set(specs.map((spec) => spec.since)))
      this.version(version).stores(
        Object.fromEntries(specs.filter((spec) => spec.since === version).map((spec) => [spec.name, spec.keys])),
      );
    this.version(DATA_VERSION).stores({});
  }

  /** A write that changes nothing, as large as an edit may be. */
  async probe(): Promise<void> {
    await this.flags.put({ name: PROBE, at: 0, pad: PAD });
    await this.flags.delete(PROBE);
  }

  /**
   * A database that is empty, though rows of it are in memory, or a library was here: the browser threw it away, as it does where a write
   * fails on a full disk, or it finds it damaged. What is in the second copy or in memory is written back, and what is gone is named.
   */
  private async lookForLoss(): Promise<void> {
    // The browser forbids storage: the library cannot be opened, but it is not lost.
    if (isInMemory()) return;
    const isEmpty = await this.isEmpty();
    if (isEmpty) {
      this.owesMirror = !this.mirror.isEmpty;
      noteRestored(await writeBackFromCopy(this), NOT_COPIED);
    }
    // If the last attempt ran out of space, the library is no longer empty now.
    if (this.owesMirror) {
      await this.writeBack();
      this.owesMirror = false;
    }
    const here = new Set(await this.parts.toCollection().primaryKeys());
    if (isEmpty) noteLoss(here);
    else tellLoss(here);
    this.copy.compareLater(COMPARE_AFTER_MS);
  }

  /** A library that has been used has at least one flag. */
  async isEmpty(): Promise<boolean> {
    return (await this.parts.count()) === 0 && (await this.flags.count()) === 0;
  }

  private async writeBack(): Promise<void> {
    const bodies = new Set(this.mirror.rowsOf('bodies').map((row) => (row as BodyRow).id));
    await this.transaction('rw', this.tables, async () => {
      for (const { name } of this.specs) {
        // A line of the Shelf without its part would be a promise that is not kept.
        const rows = this.mirror.rowsOf(name).filter((row) => name !== 'parts' || bodies.has((row as PartRow).id));
        // Rows from the second copy are newer, since all tabs write to it.
        const table = this.table<unknown, unknown>(name);
        const keyOf = table.core.schema.primaryKey.extractKey;
        const known = new Set((await table.toCollection().primaryKeys()).map((key) => JSON.stringify(key)));
        await table.bulkPut(rows.filter((row) => !known.has(JSON.stringify(keyOf?.(row)))));
      }
    });
  }

  /** What the library holds is noted a moment after it changed. */
  private changed(table: string): void {
    // The mark is of the library alone.
    if (
      isInMemory() ||
      this.name !== LIBRARY ||
      typeof localStorage === 'undefined' ||
      this.marking !== null ||
      table === 'edits' ||
      table === 'bodies' ||
      table === 'takeEvents'
    )
      return;
    this.marking = setTimeout(() => {
      this.marking = null;
      this.mark().catch(() => undefined);
    }, MARK_AFTER_MS);
  }

  private async mark(): Promise<void> {
    const rows = await this.parts.toArray();
    const shown = rows.filter((row) => !row.idea);
    const owned = this.specs.filter((spec) => spec.owner === 'library' && spec.carried !== null && spec.carried !== 'setting');
    const others = Object.fromEntries(await Promise.all(owned.map(async ({ name }) => [name, await this.table(name).count()] as const)));
    markLibrary({ parts: shown.map((row) => [row.id, row.name]), others });
    tellLoss(new Set(rows.map((row) => row.id)));
  }
}

const PROBE = 'probe';
const PAD = 'x'.repeat(64 * 1024);
const MARK_AFTER_MS = 500;
/** The comparison must not slow down a page that has just opened. */
const COMPARE_AFTER_MS = 5000;

export const database = new NodSwayDatabase(LIBRARY, TABLES, inOwnBucket);
