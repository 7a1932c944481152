import dynamic from 'next/dynamic';
import type { BenchFeature } from '../../shared/feature';

export const barsFeature: BenchFeature = {
  id: 'bars',
  pages: [
    {
      id: 'bars',
      title: 'Bars',
      letter: 'b',
      about: 'Number and order of bars, time signature, pickup and bar lines, fills, and rhythm cells to fill bars with.',
      also: ['meter', 'length', 'pickup', 'rhythm cells', 'insert bars', 'repeat bars'],
      figure: (s) => String(s.part.bars),
      open: ['order', 'lines', 'cells'],
      Page: dynamic(() => import('./BarsPage').then((m) => m.BarsPage), { ssr: false }),
    },
  ],
};
