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
        'Which hand or foot plays each stroke, by least effort, what nobody can play and why, with mends; and playing it like a person. Machine-made parts may stay as they are: rows can be a machine’s.',
      also: ['sticking', 'playable', 'left', 'right', 'feet', 'limbs', 'drummer'],
      open: [],
      Page: dynamic(() => import('./HandsPage').then((m) => m.HandsPage), { ssr: false }),
    },
  ],
};
