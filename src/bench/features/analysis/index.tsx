import dynamic from 'next/dynamic';
import type { BenchFeature } from '../../shared/feature';

export const analysisFeature: BenchFeature = {
  id: 'analysis',
  pages: [
    {
      id: 'placement',
      title: 'Placement',
      letter: 'l',
      about:
        'Where each row sits, how tight it is, how much it swings and how hard it is struck, in numbers; what falls together, what competes, which bars are alike. Each finding leads to its hits, and to a mend.',
      also: ['analysis', 'statistics', 'timing', 'report', 'lean', 'spread', 'clash', 'compete', 'swing found', 'blind'],
      open: ['rows', 'between'],
      Page: dynamic(() => import('./PlacementPage').then((m) => m.PlacementPage), { ssr: false }),
    },
  ],
};
