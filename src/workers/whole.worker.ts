import * as Comlink from 'comlink';
import { measureWhole, type Measurable, type WholePart } from '@/core/analysis/whole';
import type { Hit } from '@/core/model/part';
import { sayReady } from './ready';

/** The part that is asked about: its hits come once, not with every change of the feel. */
let hits: readonly Hit[] = [];

const api = {
  setHits(list: readonly Hit[]): void {
    hits = list;
  },
  measure: (rest: Omit<Measurable, 'hits'>): WholePart => measureWhole({ ...rest, hits }),
};
export type WholeApi = typeof api;

Comlink.expose(api);
sayReady();
