import { NamedError } from '@/core/errors';
import { mayBeHalfDone } from '@/editing/settle';
import { markUnsaved } from '@/editing/unsaved';
import { keepOffline } from './versions';

/** What is said, and the offers that wait for an answer. */
const said: string[] = [];
const offers: { text: string; take: () => void }[] = [];
jest.mock('@/ui/notify', () => ({
  say: (text: string) => void said.push(text),
  offer: (text: string, _label: string, take: () => void) => void offers.push({ text, take }),
}));

class Fake extends EventTarget {
  state = 'installing';
  posted: unknown[] = [];
  constructor(readonly version = 'v1') {
    super();
  }
  postMessage(message: unknown, [port]: MessagePort[] = []) {
    if (port) port.postMessage(this.version);
    else this.posted.push(message);
  }
  become(state: string) {
    this.state = state;
    this.dispatchEvent(new Event('statechange'));
  }
}

/** What workers answer through their ports has come. */
const heard = async () => {
  for (let i = 0; i < 20; i++) await settle();
};
const settle = () => new Promise((done) => setImmediate(done));
let reloads = 0;

/** A browser's registration; `running`: a version serves this page already. */
function browser(running: boolean) {
  const registration = Object.assign(new EventTarget(), {
    installing: null as Fake | null,
    waiting: null as Fake | null,
    active: running ? new Fake() : null,
    update: () => Promise.resolve(),
  });
  const container = Object.assign(new EventTarget(), {
    controller: running ? registration.active : null,
    register: () => Promise.resolve(registration),
  });
  /** A newer script was found and fetched. */
  const found = () => {
    const worker = new Fake();
    registration.installing = worker;
    registration.dispatchEvent(new Event('updatefound'));
    registration.waiting = worker;
    worker.become('installed');
    return worker;
  };
  /** Another worker serves this page from now on. */
  const change = (version = 'v2') => {
    container.controller = new Fake(version);
    container.dispatchEvent(new Event('controllerchange'));
  };
  return { registration, container: container as unknown as ServiceWorkerContainer, found, change };
}

beforeEach(() => {
  said.length = offers.length = reloads = 0;
  Object.assign(globalThis, {
    document: new EventTarget(),
    window: { location: { reload: () => void reloads++ }, addEventListener: () => {}, removeEventListener: () => {} },
  });
});

test('the first version is kept without a word', async () => {
  const { container, found, change } = browser(false);
  await keepOffline(container);
  const worker = found();
  worker.become('activated');
  change();
  await settle();
  expect([offers, reloads]).toEqual([[], 0]);
});

test('another tab took a newer one: this tab is asked, keeps what is half done, waits until all is saved, and only then loads anew', async () => {
  const { container, change } = browser(true);
  await keepOffline(container);
  change();
  await heard();
  expect(offers.map((o) => o.text)).toEqual(['Another tab switched to a newer version of Nod Sway.']);
  const kept: string[] = [];
  const stop = mayBeHalfDone(() => (kept.push('drag'), null));
  markUnsaved('x', { error: null, letGo: () => {} });
  offers[0]!.take();
  await settle();
  expect([kept, reloads]).toEqual([['drag'], 0]);
  markUnsaved('x', null);
  await settle();
  expect(reloads).toBe(1);
  stop();
});

test('the same version that came back, after the browser threw its copy away, is no newer one', async () => {
  const { container, change } = browser(true);
  await keepOffline(container);
  change('v1');
  await heard();
  expect(offers).toEqual([]);
});

test('a newer one is offered; what cannot be saved, or a take, keeps it waiting, and it is offered again', async () => {
  const { container, found, change } = browser(true);
  await keepOffline(container);
  const worker = found();
  expect(offers.map((o) => o.text)).toEqual(['A newer version of Nod Sway is available.']);
  markUnsaved('x', { error: new NamedError('store-full'), letGo: () => {} });
  offers[0]!.take();
  await settle();
  expect([worker.posted, said, offers.length]).toEqual([[], ['Some edits are not saved yet. Save them first; nothing was changed.'], 2]);
  markUnsaved('x', null);
  const stop = mayBeHalfDone(() => 'A take is being recorded: end it first.');
  offers[1]!.take();
  await settle();
  expect([worker.posted, said.at(-1), offers.length]).toEqual([[], 'A take is being recorded: end it first.', 3]);
  stop();
  offers[2]!.take();
  await settle();
  expect([worker.posted, reloads]).toEqual([['take over'], 0]);
  change();
  await settle();
  expect(reloads).toBe(1);
});
