import dynamic from 'next/dynamic';
import { gridOfPlayer } from '@/core/part/grid-of-player';
import { useBench } from '../../store/context';
import type { BenchFeature } from '../../shared/feature';

const BeatFlags = dynamic(() => import('./BeatFlags'), { ssr: false });

/** Beat flags are shown while the Tempo page is open and the grid follows the player. */
function Flags() {
  const isShown = useBench((s) => s.ui.page === 'tempo' && gridOfPlayer(s.part) === 'follows');
  return isShown ? <BeatFlags /> : null;
}

export const tempoFeature: BenchFeature = {
  id: 'tempo',
  pages: [
    {
      id: 'tempo',
      title: 'Tempo',
      letter: 'm',
      about: 'For parts played without a click: find the beats, let the grid follow the player, or set a steady tempo and keep the feel.',
      also: [
        'played freely',
        'no click',
        'free tempo',
        'find the tempo',
        'beats',
        'drift',
        'tempo map',
        'tap tempo',
        'half time',
        'double time',
      ],
      figure: (s) => WORDS[gridOfPlayer(s.part) ?? 'none'],
      Page: dynamic(() => import('./TempoPage').then((m) => m.TempoPage), { ssr: false }),
    },
  ],
  strips: [{ id: 'beat-flags', where: 'above', Strip: Flags }],
};

const WORDS = { follows: 'follows', steady: 'steady', other: '', none: '' } as const;
