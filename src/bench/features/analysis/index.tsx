import dynamic from 'next/dynamic';
import type { BenchFeature } from '../../shared/feature';

export const analysisFeature: BenchFeature = {
  id: 'analysis',
  pages: [
    {
      id: 'placement',
      title: 'Analysis',
      letter: 'n',
      about:
        'Timing, tightness, swing and velocity of each row in numbers; hits that fall together or compete; bars that are similar. Each finding leads to its hits and to a fix.',
      also: ['analysis', 'statistics', 'timing', 'report', 'lean', 'spread', 'clash', 'compete', 'swing found', 'blind'],
      open: ['rows', 'between'],
      Page: dynamic(() => import('./PlacementPage').then((m) => m.PlacementPage), { ssr: false }),
    },
  ],
};
