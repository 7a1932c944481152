import dynamic from 'next/dynamic';
import { figureOf } from '../../shared/counted-figure';
import type { BenchFeature } from '../../shared/feature';

export const orderFeature: BenchFeature = {
  id: 'order',
  pages: [
    {
      id: 'order',
      title: 'Order',
      letter: 'o',
      about:
        'Sections are named bars. Play one next with Shift and a digit or a click, choose when each one switches, and put them in a running order with rests, levels and amounts of feel.',
      also: ['section', 'sections', 'arrangement', 'arrange', 'song', 'chorus', 'verse', 'scene', 'switch', 'live'],
      figure: (s) => figureOf(s.part.sections?.length ?? 0, 'section'),
      Page: dynamic(() => import('./OrderPage').then((m) => m.OrderPage), { ssr: false }),
    },
  ],
};
