import { counted, plural } from '@/core/plurals';
import { withReadings } from '@/core/homes/readings';
import { undecided } from '@/core/commands/marks';
import type { HitId, Part } from '@/core/model/part';
import type { TakeEvent, Take } from '@/core/model/take';
import { withTakeRead } from '@/core/take/take-lines';
import { measureInWorker } from '@/workers/clients';
import { say, showError } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';

/** Reading more takes long enough to say that it is under way. */
const LONG = 2000;

/** Reads the lines of a take that is in the part, in a worker; that goes with the step that put it there. */
export async function detectTake(store: BenchStore, take: Take, events: readonly TakeEvent[]): Promise<void> {
  const { part, id } = store.getState();
  const readings = await measureInWorker((api) => api.takeReadings(bare(part), take, events), new AbortController().signal);
  await untilCalm(store);
  const now = store.getState();
  if (now.id !== id || withTakeRead(now.part, take, readings) === now.part) return;
  now.amend(`Detect the lines of ${take.name}`, (p) => withTakeRead(p, take, readings));
}

/** What is tried out or dragged goes on undisturbed. */
const untilCalm = (store: BenchStore): Promise<void> =>
  new Promise((go) => {
    if (!store.getState().underway) return go();
    const unsubscribe = store.subscribe(({ underway }) => {
      if (underway) return;
      unsubscribe();
      go();
    });
  });

/** How many hits would have another line, were they read again. */
export async function otherLines(store: BenchStore, signal: AbortSignal): Promise<number> {
  const { part } = store.getState();
  const readings = await measureInWorker((api) => api.readings(bare(part), null), signal);
  return part.hits.filter((h) => (readings.get(h.id)?.home ?? h.home) !== h.home).length;
}

/** What readings need of a part. */
const bare = (part: Part): Part => ({ ...part, breaks: [], heard: [] });

let running: AbortController | null = null;

/**
 * Reads which lines hits belong to again, in a worker; hits that were decided or placed by hand, and locked ones, keep theirs. One undo
 * step.
 * @param ids these alone; all without
 * @param before what is done to the part first, within the same step
 */
export async function detectAgain(
  store: BenchStore,
  ids: ReadonlySet<HitId> | null,
  {
    label = 'Detect the lines again',
    undecide = false,
    before,
  }: { label?: string; undecide?: boolean; before?: (part: Part) => Part } = {},
): Promise<void> {
  running?.abort(new DOMException('another reading began', 'AbortError'));
  const own = (running = new AbortController());
  const ready = (part: Part): Part => {
    const moved = before ? before(part) : part;
    return undecide && ids ? undecided(moved, ids) : moved;
  };
  const from = ready(store.getState().part);
  if (from.hits.length > LONG) say('Detecting which lines the hits belong to …');
  try {
    const readings = await measureInWorker((api) => api.readings(bare(from), ids), own.signal);
    await untilCalm(store);
    const then = new Map(store.getState().part.hits.map((h) => [h.id, h.home]));
    store.getState().run(label, (p) => withReadings(ready(p), readings));
    const changed = store.getState().part.hits.filter((h) => readings.has(h.id) && then.get(h.id) !== h.home).length;
    if (before) return;
    say(
      changed === 0
        ? 'Every hit keeps its line.'
        : `${changed} of ${counted(readings.size, 'hit')} now ${plural(changed, 'belongs', 'belong')} to another line.`,
    );
  } catch (e) {
    if (!own.signal.aborted) showError(e);
  } finally {
    if (running === own) running = null;
  }
}
