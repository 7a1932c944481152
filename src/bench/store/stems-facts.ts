import type { BenchStore } from './bench-store';
import type { StepCursor } from './tools';

/** What the stems know and others ask for now and then; nothing is drawn from it, so it is not in the store. */
export interface StemsFacts {
  /** CSS pixels. */
  width: number;
  /** The line under the pointer: where a paste goes without a step cursor. */
  under: StepCursor | null;
}

const facts = new WeakMap<BenchStore, StemsFacts>();

/** The facts of a Bench's stems; the stems write them. */
export function stemsFacts(store: BenchStore): StemsFacts {
  let known = facts.get(store);
  if (!known) facts.set(store, (known = { width: 800, under: null }));
  return known;
}
