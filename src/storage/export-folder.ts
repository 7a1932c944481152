import { database, type NodSwayDatabase } from './database';
import { named } from './named';

const NAME = 'export-folder';

/** Keeps the way to the folder that exports go to, where the user gave one. */
export class ExportFolder {
  constructor(private readonly db: NodSwayDatabase = database) {}

  get(): Promise<FileSystemDirectoryHandle | undefined> {
    return named(async () => (await this.db.flags.get(NAME))?.handle);
  }

  /** @param handle null: exports are downloaded again */
  set(handle: FileSystemDirectoryHandle | null): Promise<void> {
    return named(
      async () => void (handle ? await this.db.flags.put({ name: NAME, at: Date.now(), handle }) : await this.db.flags.delete(NAME)),
    );
  }
}

export const exportFolder = new ExportFolder();
