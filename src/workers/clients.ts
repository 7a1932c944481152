import * as Comlink from 'comlink';
import { LONGEST_SAMPLE } from '@/core/audio/read-wav';
import { errorFromReport, NamedError, reportError } from '@/core/errors';
import type { ImportedPart } from '@/core/smf/import-part';
import type { LaneContent } from '@/core/smf/lanes';
import type { Lane } from '@/core/model/part';
import type { Stroke } from '@/core/synth/stroke';
import { whenReady } from './ready';
import type { ImportApi, Outcome } from './import.worker';
import type { KitApi, StrokeWish } from './kit.worker';
import type { ChosenFile, ReadSounds, SoundsApi } from './sounds.worker';
import type { RenderApi, RenderedFiles, RenderWish } from './render.worker';

/** Runs one job in a fresh worker; aborting ends the worker, and with it the job. */
async function runIn<Api, T>(worker: Worker, job: (api: Comlink.Remote<Api>) => Promise<T>, signal?: AbortSignal): Promise<T> {
  try {
    const aborted = new Promise<never>((_, reject) => signal?.addEventListener('abort', () => reject(signal.reason as Error), { once: true }));
    const failed = new Promise<never>((_, reject) => worker.addEventListener('error', (e) => reject(new Error(e.message)), { once: true }));
    return await Promise.race([whenReady(worker).then(() => job(Comlink.wrap<Api>(worker))), aborted, failed]);
  } finally {
    worker.terminate();
  }
}

async function runImport<T>(job: (api: Comlink.Remote<ImportApi>) => Promise<Outcome<T>>, signal?: AbortSignal): Promise<T> {
  const result = await runIn<ImportApi, Outcome<T>>(new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }), job, signal);
  if (!result.ok) throw errorFromReport(result.error);
  return result.value;
}

export const readLanes = (bytes: Uint8Array, signal?: AbortSignal): Promise<{ format: number; lanes: LaneContent[] }> => runImport((api) => api.lanes(bytes), signal);

export const readPart = (bytes: Uint8Array, name: string, fileName: string, lanes: Lane[], signal?: AbortSignal): Promise<ImportedPart> =>
  runImport((api) => api.part(bytes, name, fileName, lanes), signal);

let kitWorker: Promise<{ api: Comlink.Remote<KitApi> }> | null = null;

/** Renders strokes in one worker, that stays: they come in small batches. */
export async function renderStrokes(wishes: StrokeWish[], sampleRate: number): Promise<Stroke[]> {
  kitWorker ??= (() => {
    const worker = new Worker(new URL('./kit.worker.ts', import.meta.url), { type: 'module' });
    // Within an object: a remote is awaited by itself otherwise.
    return whenReady(worker).then(() => ({ api: Comlink.wrap<KitApi>(worker) }));
  })();
  const { api } = await kitWorker;
  return api.render(wishes, sampleRate);
}

/** Runs a job that tells how far it is; what it tells after its end, on its own way, is not heard any more. */
async function tellingHowFar<T>(onProgress: (done: number) => void, job: (tell: (done: number) => void) => Promise<T>): Promise<T> {
  let isOver = false;
  try {
    return await job(Comlink.proxy((done: number) => isOver || onProgress(done)));
  } finally {
    isOver = true;
  }
}

/** Renders audio in a worker of its own; aborting ends it. */
export const renderAudio = (wish: RenderWish, onProgress: (done: number) => void, signal: AbortSignal): Promise<RenderedFiles> =>
  tellingHowFar(onProgress, (tell) => runIn<RenderApi, RenderedFiles>(new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' }), (api) => api.render(wish, tell), signal));

/**
 * Reads chosen files as recordings in a worker; what it cannot read itself the browser decodes. Aborting ends the worker.
 * @throws NamedError bad-zip, bad-sound-kit, too-many-sounds
 */
export const readSounds = (files: readonly ChosenFile[], onProgress: (done: number) => void, signal: AbortSignal): Promise<ReadSounds> =>
  tellingHowFar(onProgress, (tell) => runIn<SoundsApi, ReadSounds>(new Worker(new URL('./sounds.worker.ts', import.meta.url), { type: 'module' }), (api) => readAndDecode(api, files, tell), signal));

/** The rate that the browser decodes to. */
const DECODED_RATE = 48_000;

async function readAndDecode(api: Comlink.Remote<SoundsApi>, files: readonly ChosenFile[], tell: (done: number) => void): Promise<ReadSounds> {
  const answer = await api.read([...files], tell);
  if ('error' in answer) throw errorFromReport(answer.error);
  for (const { path, bytes } of answer.undecoded) {
    let decoded: AudioBuffer;
    try {
      decoded = await new OfflineAudioContext(2, 1, DECODED_RATE).decodeAudioData(bytes.buffer);
    } catch {
      answer.refused.push({ path, error: reportError(new NamedError('bad-sound')) });
      continue;
    }
    if (decoded.duration > LONGEST_SAMPLE) {
      answer.refused.push({ path, error: reportError(new NamedError('sound-too-long', { seconds: Math.round(decoded.duration), most: LONGEST_SAMPLE })) });
      continue;
    }
    const channels = Array.from({ length: Math.min(2, decoded.numberOfChannels) }, (_, c) => decoded.getChannelData(c));
    const made = await api.decoded(path, { rate: decoded.sampleRate, channels });
    if ('error' in made) answer.refused.push({ path, error: made.error });
    else answer.recordings.push(made);
  }
  return { ...answer, undecoded: [] };
}
