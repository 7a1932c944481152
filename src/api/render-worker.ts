import { parentPort } from 'node:worker_threads';
import { runRender, type RenderJob } from './render-job';

/** A thread that renders one job after the other. Bundled by scripts/build-worklet.mjs. */
parentPort?.on('message', (job: RenderJob) => {
  try {
    const result = runRender(job);
    parentPort?.postMessage({ result }, [result.bytes.buffer as ArrayBuffer]);
  } catch (e) {
    parentPort?.postMessage({ error: String(e) });
  }
});
