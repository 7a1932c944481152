import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { HttpError } from './form';
import type { ListenJob, ListenResult } from './listen-job';
import type { RenderJob, RenderResult } from './render-job';

/** What a thread does. */
export type Task = { kind: 'render'; job: RenderJob } | { kind: 'listen'; job: ListenJob };

/** So many calls with sound at once; more are asked to come again. */
const MOST_AT_ONCE = 2;
const LONGEST_MS = 60_000;
const MOST_MB = 1024;
const AGAIN_SECONDS = 2;

interface Pool {
  idle: Worker[];
  busy: number;
}

/** One for the whole server: each route's bundle has a copy of this file. */
const POOL = Symbol.for('nod-sway/sound-pool');
const pool = ((globalThis as { [POOL]?: Pool })[POOL] ??= { idle: [], busy: 0 });

/** The thread's code, bundled by the build. */
const CODE = (): string => join(process.cwd(), 'server', 'generated', 'sound-worker.cjs');

/** Renders in a thread; see {@link inThread}. */
export const renderInThread = (job: RenderJob): Promise<RenderResult> => inThread<RenderResult>({ kind: 'render', job });

/** Listens in a thread; see {@link inThread}. */
export const listenInThread = (job: ListenJob): Promise<ListenResult> => inThread<ListenResult>({ kind: 'listen', job });

/**
 * Works on sound in a thread, so that the server answers others meanwhile.
 * @throws HttpError 429 where two are at work already; 422 where one takes too long or needs too much room
 */
async function inThread<R>(task: Task): Promise<R> {
  if (pool.busy >= MOST_AT_ONCE) throw new HttpError(429, 'busy', 'Two calls with sound are under way: try again in a moment.', { retryAfter: AGAIN_SECONDS }, { 'Retry-After': String(AGAIN_SECONDS) });
  pool.busy++;
  const worker = pool.idle.pop() ?? started();
  worker.ref();
  try {
    const result = await asked<R>(worker, task);
    worker.unref();
    pool.idle.push(worker);
    return result;
  } catch (e) {
    void worker.terminate();
    throw e;
  } finally {
    pool.busy--;
  }
}

/** A thread; one that ends while it waits is not asked again. */
function started(): Worker {
  const worker = new Worker(CODE(), { resourceLimits: { maxOldGenerationSizeMb: MOST_MB } });
  worker.once('exit', () => (pool.idle = pool.idle.filter((w) => w !== worker)));
  return worker;
}

/** What a thread makes of a task. Of its listeners none but these are taken off: those of its own keep it going. */
function asked<R>(worker: Worker, task: Task): Promise<R> {
  return new Promise<R>((done, failed) => {
    const tooLarge = (cause?: unknown) => new HttpError(422, 'too-large', 'The work needed too much room.', cause === undefined ? undefined : { cause: String(cause).slice(0, 100) });
    const over = (end: () => void) => {
      clearTimeout(timer);
      worker.off('message', onMessage).off('error', onError).off('exit', onExit);
      end();
    };
    const onMessage = ({ result, error }: { result?: R; error?: string }) => over(() => (result === undefined ? failed(new Error(error)) : done(result)));
    const onError = (e: unknown) => over(() => failed(tooLarge(e)));
    const onExit = () => over(() => failed(tooLarge()));
    const timer = setTimeout(() => over(() => failed(new HttpError(422, 'too-slow', 'The work took over 60 s and was ended.'))), LONGEST_MS);
    worker.on('message', onMessage).on('error', onError).on('exit', onExit);
    worker.postMessage(task);
  });
}
