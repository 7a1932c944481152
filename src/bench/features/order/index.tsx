import dynamic from 'next/dynamic';
import { counted } from '../../shared/counted-figure';
import type { BenchFeature } from '../../shared/feature';

export const orderFeature: BenchFeature = {
  id: 'order',
  pages: [
    {
      id: 'order',
      title: 'Order',
      letter: 'o',
      about:
        'Sections are bars with a name: called by keys (Shift and a digit) or clicks while the beat plays, each of them saying how it may be left, and put in a running order with rests, levels and how much of the feel.',
      also: ['section', 'sections', 'arrangement', 'arrange', 'song', 'chorus', 'verse', 'scene', 'switch', 'live'],
      figure: (s) => counted(s.part.sections?.length ?? 0, 'section'),
      Page: dynamic(() => import('./OrderPage').then((m) => m.OrderPage), { ssr: false }),
    },
  ],
};
