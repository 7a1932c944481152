import * as Comlink from 'comlink';
import { whenReady } from './ready';

/** Runs one job in a fresh worker; aborting ends the worker, and with it the job. */
export async function runIn<Api, T>(worker: Worker, job: (api: Comlink.Remote<Api>) => Promise<T>, signal?: AbortSignal): Promise<T> {
  try {
    const aborted = new Promise<never>((_, reject) =>
      signal?.addEventListener('abort', () => reject(signal.reason as Error), { once: true }),
    );
    const failed = new Promise<never>((_, reject) => worker.addEventListener('error', (e) => reject(new Error(e.message)), { once: true }));
    return await Promise.race([whenReady(worker).then(() => job(Comlink.wrap<Api>(worker))), aborted, failed]);
  } finally {
    worker.terminate();
  }
}

/** Runs a job that tells how far it is; what it tells after its end, on its own way, is not heard any more. */
export async function tellingHowFar<T>(onProgress: (done: number) => void, job: (tell: (done: number) => void) => Promise<T>): Promise<T> {
  let isOver = false;
  try {
    return await job(Comlink.proxy((done: number) => isOver || onProgress(done)));
  } finally {
    isOver = true;
  }
}
