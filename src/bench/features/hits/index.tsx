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
        'What is selected, and all that can be done to it: velocity, placement by hand, ghosts, ornaments, marks. With nothing selected it touches every hit.',
      also: ['selection', 'velocity', 'dynamics', 'ghost notes', 'flam', 'roll', 'drag', 'echo', 'nudge'],
      figure: (s) => (s.selection.size > 0 ? String(s.selection.size) : ''),
      open: ['dynamics', 'placement'],
      Page: dynamic(() => import('./HitsPage').then((m) => m.HitsPage), { ssr: false }),
    },
  ],
};
