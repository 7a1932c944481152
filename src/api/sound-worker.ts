import { parentPort } from 'node:worker_threads';
import { runListen } from './listen-job';
import { runRender } from './render-job';
import type { Task } from './sound-pool';

/** A thread that works on one task after the other. Bundled by scripts/build-worklet.mjs. */
parentPort?.on('message', (task: Task) => {
  try {
    if (task.kind === 'listen') return parentPort?.postMessage({ result: runListen(task.job) });
    const result = runRender(task.job);
    parentPort?.postMessage({ result }, [result.bytes.buffer as ArrayBuffer]);
  } catch (e) {
    parentPort?.postMessage({ error: String(e) });
  }
});
