import { handsOfPart } from '@/core/analysis/hands-of-part';
import { measureInWorker } from '@/workers/clients';
import type { BenchStore } from './bench-store';
import { FEW_HITS } from './derived';
import { handSettings } from './hand-settings';

/**
 * Keeps `hands` up to date with the part at rest while somebody looks at them: at once for few hits, from a worker for many.
 * @returns how to stop
 */
export function followHands(store: BenchStore): () => void {
  let asked: AbortController | null = null;
  const update = (anew: boolean) => {
    const { part, underway, hands } = store.getState();
    if (underway || (!anew && hands?.part === part)) return;
    asked?.abort(new Error('asked anew'));
    asked = null;
    const handed = handSettings.getState();
    if (part.hits.length <= FEW_HITS) return store.setState({ hands: { part, ...handsOfPart(part, handed) } });
    const own = new AbortController();
    asked = own;
    measureInWorker((api) => api.hands(part, handed), own.signal).then(
      (found) => !own.signal.aborted && store.setState({ hands: { part, ...found } }),
      // Asked anew, or left.
      () => {},
    );
  };
  update(false);
  const stops = [
    store.subscribe((s, before) => (s.part !== before.part || s.underway !== before.underway) && update(false)),
    handSettings.subscribe(() => update(true)),
  ];
  return () => {
    stops.forEach((stop) => stop());
    asked?.abort(new Error('left'));
  };
}
