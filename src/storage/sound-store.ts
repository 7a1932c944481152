import { compareNames } from '@/core/natural-order';
import { samplesOf, type KitOfRecordings, type OwnSound, type SampleId } from '@/core/model/own-sound';
import { database, type FolderRow, type NodSwayDatabase } from './database';
import { named } from './named';

/** What there is of the user's own sounds. */
export interface KeptSounds {
  kits: KitOfRecordings[];
  /** Those alone whose recordings are all here. */
  sounds: OwnSound[];
  folders: FolderRow[];
}

/** What is kept together, all of it or nothing. */
export interface NewSounds {
  kit?: KitOfRecordings;
  sounds: readonly OwnSound[];
  samples: ReadonlyMap<SampleId, Uint8Array<ArrayBuffer>>;
}

const byName = (a: { name: string }, b: { name: string }): number => compareNames(a.name, b.name);

/** Keeps the user's own sounds: kits of them, their recordings, and the folders that more are looked for in. */
export class SoundStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  private get tables() {
    return [this.db.sounds, this.db.soundKits, this.db.samples];
  }

  /** By name. @throws NamedError store-refused */
  list(): Promise<KeptSounds> {
    return named(() =>
      this.db.transaction('r', [...this.tables, this.db.folders], async () => {
        const [sounds, kits, folders, samples] = await Promise.all([
          this.db.sounds.toArray(),
          this.db.soundKits.toArray(),
          this.db.folders.toArray(),
          this.db.samples.toCollection().primaryKeys(),
        ]);
        const here = new Set(samples);
        return {
          kits: kits.sort(byName),
          sounds: sounds.filter((s) => samplesOf([s]).every((id) => here.has(id))).sort(byName),
          folders: folders.sort(byName),
        };
      }),
    );
  }

  /** Keeps sounds with their recordings; what is kept already stays as it is. @throws NamedError store-full, store-refused */
  keep({ kit, sounds, samples }: NewSounds): Promise<void> {
    return named(() =>
      this.db.transaction('rw', this.tables, async () => {
        const known = new Set(await this.db.samples.toCollection().primaryKeys());
        await this.db.samples.bulkAdd([...samples].filter(([id]) => !known.has(id)).map(([id, bytes]) => ({ id, bytes })));
        if (kit) await this.db.soundKits.put(kit);
        await this.db.sounds.bulkPut([...sounds]);
      }),
    );
  }

  /** The bytes of a recording, a WAV file; undefined where it is not here. */
  read(sample: SampleId): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return named(async () => (await this.db.samples.get(sample))?.bytes);
  }

  /** Recordings by name. @throws NamedError store-refused */
  readAll(samples: readonly SampleId[]): Promise<Map<SampleId, Uint8Array<ArrayBuffer>>> {
    return named(
      async () => new Map((await this.db.samples.bulkGet([...samples])).flatMap((row) => (row ? [[row.id, row.bytes] as const] : []))),
    );
  }

  /** Changes a sound, or gives a kit another name. */
  put(change: { sound: OwnSound } | { kit: KitOfRecordings }): Promise<void> {
    return named(async () => void ('sound' in change ? await this.db.sounds.put(change.sound) : await this.db.soundKits.put(change.kit)));
  }

  /** Takes a kit away with its sounds, or a sound; with them the recordings that nothing else has. The result puts all back. */
  remove(what: { kit: KitOfRecordings } | { sound: OwnSound }): Promise<() => Promise<void>> {
    return named(async () => {
      const gone = await this.db.transaction('rw', this.tables, async () => {
        const all = await this.db.sounds.toArray();
        const sounds = 'sound' in what ? [what.sound] : all.filter((s) => s.kit === what.kit.id);
        const ids = new Set(sounds.map((s) => s.id));
        const needed = new Set(samplesOf(all.filter((s) => !ids.has(s.id))));
        const unneeded = samplesOf(sounds).filter((id) => !needed.has(id));
        const samples = (await this.db.samples.bulkGet(unneeded)).filter((row) => row !== undefined);
        await this.db.sounds.bulkDelete([...ids]);
        await this.db.samples.bulkDelete(unneeded);
        if ('kit' in what) await this.db.soundKits.delete(what.kit.id);
        return { sounds, samples: new Map(samples.map((s) => [s.id, s.bytes])) };
      });
      return () => this.keep({ ...gone, ...('kit' in what ? { kit: what.kit } : {}) });
    });
  }

  /** Remembers a folder that sounds are looked for in. */
  attach(folder: FolderRow): Promise<void> {
    return named(async () => void (await this.db.folders.put(folder)));
  }

  detach(id: string): Promise<void> {
    return named(() => this.db.folders.delete(id));
  }
}

export const soundStore = new SoundStore();
