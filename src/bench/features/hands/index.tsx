import dynamic from 'next/dynamic';
import type { BenchFeature } from '../../shared/feature';

export const handsFeature: BenchFeature = {
  id: 'hands',
  pages: [
    {
      id: 'hands',
      title: 'Hands',
      letter: 'a',
      about:
        'Which hand or foot plays each hit, what no drummer can play and why, and how to fix it. Rows that a machine plays are left out.',
      also: ['sticking', 'playable', 'left', 'right', 'feet', 'limbs', 'drummer'],
      open: [],
      Page: dynamic(() => import('./HandsPage').then((m) => m.HandsPage), { ssr: false }),
    },
  ],
};
