import type * as Comlink from 'comlink';
import { storeHealth } from '@/storage/storage-backend';
import { database } from '@/storage/database';
import { resultOf, type Outcome } from '@/workers/outcome';
import { runIn, tellingHowFar } from '@/workers/run-in';
import type { Backup } from './backup';
import type { Here, How } from './kinds/kind';
import type { LibraryApi } from './library.worker';
import { remember, remembered } from './remembered';
import type { Preview, Restored } from './restore';

type Progress = (done: number) => void;

const inWorker = async <T>(
  job: (api: Comlink.Remote<LibraryApi>, tell: Progress) => Promise<Outcome<T>>,
  onProgress: Progress,
  signal: AbortSignal,
): Promise<T> =>
  resultOf(
    await tellingHowFar(onProgress, (tell) =>
      runIn<LibraryApi, Outcome<T>>(
        new Worker(new URL('./library.worker.ts', import.meta.url), { type: 'module' }),
        (api) => job(api, tell),
        signal,
      ),
    ),
  );

/** What is kept in this tab's memory alone no worker sees. */
const isInMemory = (): boolean => storeHealth.getState().keeping === 'memory';
const here = (): Here => ({ db: database, remembered: remembered(), remember });

/** Writes the library, or some parts. Aborting ends it. @throws NamedError library-too-large, store-refused */
export async function backUp(parts: readonly string[] | null, onProgress: Progress, signal: AbortSignal): Promise<Backup> {
  if (isInMemory()) return (await import('./backup')).makeBackup(here(), parts, onProgress);
  return inWorker((api, tell) => api.backUp(remembered(), parts, tell) as Promise<Outcome<Backup>>, onProgress, signal);
}

/** Looks at a library file. @throws NamedError bad-library, newer-format, library-too-large */
export async function look(file: Blob, onProgress: Progress, signal: AbortSignal): Promise<Preview> {
  if (isInMemory()) return (await import('./restore')).lookAtLibrary(here(), file, onProgress);
  return inWorker((api, tell) => api.look(remembered(), file, tell) as Promise<Outcome<Preview>>, onProgress, signal);
}

/** Takes things of it in. Aborting keeps what is in already, each thing as a whole. @throws NamedError store-full */
export async function restore(file: Blob, wishes: ReadonlyMap<number, How>, onProgress: Progress, signal: AbortSignal): Promise<Restored> {
  if (isInMemory()) return (await import('./restore')).restoreLibrary(here(), file, wishes, onProgress);
  const { toRemember, ...restored } = await inWorker(
    (api, tell) => api.restore(remembered(), file, wishes, tell) as Promise<Outcome<Restored & { toRemember: Record<string, string> }>>,
    onProgress,
    signal,
  );
  remember(toRemember);
  return restored;
}
