import { measureWhole } from '@/core/analysis/whole';
import { WholeClient } from '@/workers/whole-client';
import type { BenchStore } from './bench-store';
import { FEW_HITS } from './derived';

/** Keeps `whole` up to date with the part at rest: at once for few hits, from a worker for many. @returns how to stop */
export function followWhole(store: BenchStore): () => void {
  let client: WholeClient | null = null;
  const update = () => {
    const { part, underway, whole } = store.getState();
    if (underway || whole?.part === part) return;
    if (part.hits.length <= FEW_HITS) return store.setState({ whole: { part, ...measureWhole(part) } });
    client ??= new WholeClient((measured, found) => store.setState({ whole: { part: measured, ...found } }));
    client.ask(part);
  };
  update();
  const stop = store.subscribe(update);
  return () => {
    stop();
    client?.dispose();
  };
}
