import * as Comlink from 'comlink';
import { isNamedError, NamedError } from '@/core/errors';
import { MAX_FILE_BYTES } from '@/core/smf/read';
import { whenReady } from '@/workers/ready';
import { resultOf } from '@/workers/outcome';
import type { BatchApi, Written } from './batch.worker';
import type { Given } from './perform-file';

/** How one file of a batch came out. */
export type FileOutcome = { written: Written } | { error: NamedError };

/** A worker for files of a batch: it stays while their dialog is open. */
export class BatchWorker {
  private readonly worker = new Worker(new URL('./batch.worker.ts', import.meta.url), { type: 'module' });
  private readonly ready = whenReady(this.worker);
  private readonly api = Comlink.wrap<BatchApi>(this.worker);

  /** Writes files one after another, and tells of each as it is done; aborting ends it behind the file that is under way. */
  async perform(
    files: readonly File[],
    given: Given,
    song: boolean,
    tell: (n: number, outcome: FileOutcome) => void,
    signal: AbortSignal,
  ): Promise<void> {
    await this.ready;
    for (const [n, file] of files.entries()) {
      if (signal.aborted) return;
      const outcome = await this.one(file, given, song);
      if (!signal.aborted) tell(n, outcome);
    }
  }

  private async one(file: File, given: Given, song: boolean): Promise<FileOutcome> {
    try {
      if (file.size > MAX_FILE_BYTES) throw new NamedError('file-too-large', { bytes: file.size });
      return { written: resultOf(await this.api.perform(new Uint8Array(await file.arrayBuffer()), file.name, given, song)) };
    } catch (e) {
      if (isNamedError(e)) return { error: e };
      console.error(e);
      return { error: new NamedError('not-midi') };
    }
  }

  zip(files: Readonly<Record<string, Uint8Array>>): Promise<Uint8Array> {
    return this.api.zip(files);
  }

  dispose(): void {
    this.worker.terminate();
  }
}
