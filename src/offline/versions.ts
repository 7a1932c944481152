import { settleAll } from '@/editing/settle';
import { unsavedParts } from '@/editing/unsaved';
import { offer, say } from '@/ui/notify';

const HOUR_MS = 3_600_000;

/** Waits until everything that was done is in the store. @returns false where something cannot be written */
function allSaved(): Promise<boolean> {
  const state = (): boolean | null => {
    const unsaved = [...unsavedParts.getState().values()];
    if (unsaved.some((u) => u.error)) return false;
    return unsaved.length === 0 ? true : null;
  };
  const now = state();
  if (now !== null) return Promise.resolve(now);
  return new Promise((done) => {
    const stop = unsavedParts.subscribe(() => {
      const then = state();
      if (then === null) return;
      stop();
      done(then);
    });
  });
}

/** Keeps what is under way and waits until all is saved. @returns why that cannot be, or null */
async function reasonToStay(): Promise<string | null> {
  return settleAll() ?? ((await allSaved()) ? null : 'Some edits are not saved yet. Save them first; nothing was changed.');
}

/** Loads the page anew, by the version that serves it now; nothing that was done goes. */
async function loadAnew(): Promise<void> {
  const reason = await reasonToStay();
  if (reason !== null) return say(reason);
  window.location.reload();
}

/** A service worker that knows no such question does not answer it. */
const ANSWER_MS = 2000;

/** Which version a service worker serves; null where there is none, or none that tells. */
function versionOf(worker: ServiceWorker | null): Promise<string | null> {
  if (!worker) return Promise.resolve(null);
  const { port1, port2 } = new MessageChannel();
  return new Promise((done) => {
    const end = (version: string | null) => {
      clearTimeout(timer);
      port1.close();
      done(version);
    };
    const timer = setTimeout(() => end(null), ANSWER_MS);
    port1.onmessage = (e: MessageEvent<string>) => end(e.data);
    worker.postMessage('which version', [port2]);
  });
}

let mine = false;

/** Goes on with the newer version. */
async function takeNewer(registration: ServiceWorkerRegistration): Promise<void> {
  const reason = await reasonToStay();
  if (reason !== null) {
    say(reason);
    return offerNewer(registration);
  }
  mine = true;
  registration.waiting?.postMessage('take over');
}

function offerNewer(registration: ServiceWorkerRegistration): void {
  offer('A newer version of Nod Sway is available.', 'Update now', () => void takeNewer(registration));
}

/** Has the browser keep the application, so that it opens without a network; says when a newer version is there. */
export async function keepOffline(container: ServiceWorkerContainer): Promise<void> {
  const hadOne = container.controller !== null;
  const before = versionOf(container.controller);
  const changed = async () => {
    if (mine) return void loadAnew();
    // What keeps the application may only have come back, after the browser threw its data away: then this tab runs what there is.
    const [was, is] = await Promise.all([before, versionOf(container.controller)]);
    if (was !== null && was === is) return;
    // Another tab took it: this one works on, and is asked.
    if (hadOne) offer('Another tab switched to a newer version of Nod Sway.', 'Reload here', () => void loadAnew());
  };
  container.addEventListener('controllerchange', () => void changed());
  const registration = await container.register('/service-worker.js');
  const watch = (worker: ServiceWorker | null) =>
    worker?.addEventListener('statechange', () => {
      if (worker.state === 'installed' && container.controller) offerNewer(registration);
    });
  registration.addEventListener('updatefound', () => watch(registration.installing));
  watch(registration.installing);
  if (registration.waiting && container.controller) offerNewer(registration);
  // A tab that stays open for days hears of it, too.
  let asked = Date.now();
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState !== 'visible' || Date.now() - asked < HOUR_MS) return;
    asked = Date.now();
    registration.update().catch(() => undefined);
  });
}
