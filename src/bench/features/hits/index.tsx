import dynamic from 'next/dynamic';
import type { BenchFeature } from '../../shared/feature';

export const hitsFeature: BenchFeature = {
  id: 'hits',
  pages: [
    {
      id: 'hits',
      title: 'Hits',
      letter: 'h',
      about:
        'Everything you can do to the selected hits: velocity, timing, ghost notes, ornaments, marks. With nothing selected, it changes every hit.',
      also: ['selection', 'velocity', 'dynamics', 'ghost notes', 'flam', 'roll', 'drag', 'echo', 'nudge'],
      figure: (s) => (s.selection.size > 0 ? String(s.selection.size) : ''),
      open: ['dynamics', 'placement'],
      Page: dynamic(() => import('./HitsPage').then((m) => m.HitsPage), { ssr: false }),
    },
  ],
};
