/**
 * A worker's script comes in pieces, and what is sent before its last piece has run may be lost: it says when it is ready, and whoever
 * started it waits for that.
 */
const READY = 'ready';

/** Said by a worker as the last thing of its script. */
export const sayReady = (): void => (globalThis as unknown as { postMessage(message: string): void }).postMessage(READY);

/** Waits for a worker that was just made. @throws Error where its script fails */
export function whenReady(worker: Worker): Promise<void> {
  return new Promise((ready, failed) => {
    const onMessage = (e: MessageEvent) => {
      if (e.data !== READY) return;
      worker.removeEventListener('message', onMessage);
      ready();
    };
    worker.addEventListener('message', onMessage);
    worker.addEventListener('error', (e) => failed(new Error(e.message)), { once: true });
  });
}
