import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { HttpError } from './form';
import type { RenderJob, RenderResult } from './render-job';

/** So many renders at once; more are asked to come again. */
const MOST_AT_ONCE = 2;
const LONGEST_MS = 60_000;
const MOST_MB = 1024;
const AGAIN_SECONDS = 2;

const idle: Worker[] = [];
let busy = 0;

/** The thread's code, bundled by the build. */
const CODE = (): string => join(process.cwd(), 'server', 'generated', 'render-worker.cjs');

/**
 * Renders in a thread, so that the server answers others meanwhile.
 * @throws HttpError 429 where two are at work already; 422 where one takes too long or needs too much room
 */
export async function inThread(job: RenderJob): Promise<RenderResult> {
  if (busy >= MOST_AT_ONCE) throw new HttpError(429, 'busy', 'Two renders are under way: try again in a moment.', { retryAfter: AGAIN_SECONDS }, { 'Retry-After': String(AGAIN_SECONDS) });
  busy++;
  const worker = idle.pop() ?? new Worker(CODE(), { resourceLimits: { maxOldGenerationSizeMb: MOST_MB } });
  worker.ref();
  try {
    const result = await new Promise<RenderResult>((done, failed) => {
      const timer = setTimeout(() => failed(new HttpError(422, 'too-slow', 'The render took over 60 s and was ended.')), LONGEST_MS);
      const over = (run: () => void) => () => {
        clearTimeout(timer);
        run();
      };
      worker.once('message', ({ result: made, error }: { result?: RenderResult; error?: string }) => over(() => (made ? done(made) : failed(new Error(error))))());
      worker.once('error', (e) => over(() => failed(new HttpError(422, 'too-large', 'The render needed too much room.', { cause: String(e).slice(0, 100) })))());
      worker.once('exit', () => over(() => failed(new HttpError(422, 'too-large', 'The render needed too much room.')))());
      worker.postMessage(job);
    });
    worker.removeAllListeners();
    worker.unref();
    idle.push(worker);
    return result;
  } catch (e) {
    worker.removeAllListeners();
    void worker.terminate();
    throw e;
  } finally {
    busy--;
  }
}
