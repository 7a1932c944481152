import { isNamedError } from '@/core/errors';
import { tell } from '@/ui/notify';
import { importFile } from './import-flow';

/** Brings several files in, one after another; what could not be is named. Those that are in stay where it is cancelled. */
export async function importMany(files: readonly File[], onFile: (name: string, nth: number) => void, signal: AbortSignal): Promise<void> {
  const failed: string[] = [];
  let count = 0;
  for (const [n, file] of files.entries()) {
    if (signal.aborted) break;
    onFile(file.name, n + 1);
    try {
      const step = await importFile(file, signal);
      if (step.kind === 'done') count++;
      else failed.push(`${file.name}: open it by itself to say which tracks are drums`);
    } catch (e) {
      if (signal.aborted) break;
      failed.push(`${file.name}: ${isNamedError(e) ? e.message : String(e)}`);
    }
  }
  tell(`${count} of ${files.length} files were imported.${failed.length > 0 ? ` ${failed.join(' ')}` : ''}`);
}
