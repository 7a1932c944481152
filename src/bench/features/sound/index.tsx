import dynamic from 'next/dynamic';
import { FIRST_KIT } from '@/core/model/sound';
import type { BenchFeature } from '../../shared/feature';

export const soundFeature: BenchFeature = {
  id: 'sound',
  pages: [
    {
      id: 'sound',
      title: 'Sound',
      letter: 's',
      about:
        'The kit that plays the part, its room and master level, and each row’s sound, level, pan, tuning, decay and velocity response. With a row open, Y and B step through similar sounds.',
      also: [
        'kit',
        'sample',
        'own sounds',
        'choke group',
        'mix',
        'mixer',
        'volume',
        'level',
        'pan',
        'reverb',
        'room',
        'tuning',
        'velocity response',
        'limiter',
        'meter',
      ],
      figure: (s) => s.part.ownKit?.name ?? s.part.kit ?? FIRST_KIT,
      Page: dynamic(() => import('./SoundPage').then((m) => m.SoundPage), { ssr: false }),
    },
  ],
  dialogs: {
    'add-row': dynamic(() => import('../../dialogs/AddRowDialog').then((m) => m.AddRowDialog), { ssr: false }),
    'own-row': dynamic(() => import('../../dialogs/OwnRowDialog').then((m) => m.OwnRowDialog), { ssr: false }),
    sounds: dynamic(() => import('../../own-sounds/BenchSounds').then((m) => m.BenchSounds), { ssr: false }),
  },
};
