import * as Comlink from 'comlink';
import { errorFromReport } from '@/core/errors';
import type { ImportedPart } from '@/core/smf/import-part';
import type { LaneContent } from '@/core/smf/lanes';
import type { Lane } from '@/core/model/part';
import type { Stroke } from '@/core/synth/stroke';
import type { ImportApi, Outcome } from './import.worker';
import type { KitApi, StrokeWish } from './kit.worker';
import type { RenderApi, RenderedFiles, RenderWish } from './render.worker';

/** Runs one job in a fresh worker; aborting ends the worker, and with it the job. */
async function runImport<T>(job: (api: Comlink.Remote<ImportApi>) => Promise<Outcome<T>>, signal?: AbortSignal): Promise<T> {
  const worker = new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' });
  try {
    const aborted = new Promise<never>((_, reject) => signal?.addEventListener('abort', () => reject(signal.reason as Error), { once: true }));
    const failed = new Promise<never>((_, reject) => worker.addEventListener('error', (e) => reject(new Error(e.message)), { once: true }));
    const result = await Promise.race([job(Comlink.wrap<ImportApi>(worker)), aborted, failed]);
    if (!result.ok) throw errorFromReport(result.error);
    return result.value;
  } finally {
    worker.terminate();
  }
}

export const readLanes = (bytes: Uint8Array, signal?: AbortSignal): Promise<{ format: number; lanes: LaneContent[] }> => runImport((api) => api.lanes(bytes), signal);

export const readPart = (bytes: Uint8Array, name: string, fileName: string, lanes: Lane[], signal?: AbortSignal): Promise<ImportedPart> =>
  runImport((api) => api.part(bytes, name, fileName, lanes), signal);

let kitWorker: Comlink.Remote<KitApi> | null = null;

/** Renders strokes in one worker, that stays: they come in small batches. */
export function renderStrokes(wishes: StrokeWish[], sampleRate: number): Promise<Stroke[]> {
  kitWorker ??= Comlink.wrap<KitApi>(new Worker(new URL('./kit.worker.ts', import.meta.url), { type: 'module' }));
  return kitWorker.render(wishes, sampleRate);
}

/** Renders audio in a worker of its own; aborting ends it. */
export async function renderAudio(wish: RenderWish, onProgress: (done: number) => void, signal: AbortSignal): Promise<RenderedFiles> {
  const worker = new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' });
  try {
    const aborted = new Promise<never>((_, reject) => signal.addEventListener('abort', () => reject(signal.reason as Error), { once: true }));
    const failed = new Promise<never>((_, reject) => worker.addEventListener('error', (e) => reject(new Error(e.message)), { once: true }));
    return await Promise.race([Comlink.wrap<RenderApi>(worker).render(wish, Comlink.proxy(onProgress)), aborted, failed]);
  } finally {
    worker.terminate();
  }
}
