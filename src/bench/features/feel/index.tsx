import dynamic from 'next/dynamic';
import { FeelPage } from './FeelPage';
import { figureOf } from '../../shared/counted-figure';
import type { BenchFeature } from '../../shared/feature';

export const feelFeature: BenchFeature = {
  id: 'feel',
  pages: [
    {
      id: 'feel',
      title: 'Feel',
      letter: 'f',
      about:
        'Moves shape the feel: quantize, swing, groove, lay back, humanize. They change what you hear, one after the other. The written hits stay as they are.',
      also: ['moves', 'groove'],
      figure: (s) => figureOf(s.part.feel.moves.length, 'move'),
      Page: FeelPage,
    },
  ],
  dialogs: {
    feels: dynamic(() => import('../../dialogs/FeelsDialog').then((m) => m.FeelsDialog), { ssr: false }),
  },
};
