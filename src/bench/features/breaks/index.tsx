import dynamic from 'next/dynamic';
import { figureOf } from '../../shared/counted-figure';
import { useBench } from '../../store/context';
import type { FeatureProps } from '../../shared/feature';
import type { BenchFeature } from '../../shared/feature';

const BreakStrip = dynamic(() => import('../../breaks/BreakStrip'), { ssr: false });

/** Recorded loops stand over the stems. */
function Breaks({ playback }: FeatureProps) {
  const any = useBench((s) => (s.part.breaks?.length ?? 0) > 0 && s.ui.breakShown);
  return any ? <BreakStrip playback={playback} /> : null;
}

export const breaksFeature: BenchFeature = {
  id: 'breaks',
  pages: [
    {
      id: 'breaks',
      title: 'Breaks',
      letter: 'r',
      about:
        'A recorded drum loop under the part. Its hits are found and named, its bars are counted, and it is cut into slices that rows play. Everything that moves hits moves the slices too.',
      also: [
        'sample',
        'loop',
        'slices',
        'slice',
        'chop',
        'onset',
        'transient',
        'audio',
        'wav',
        'recording',
        'drum break',
        'sensitivity',
        'repitch',
      ],
      figure: (s) => figureOf(s.part.breaks?.length ?? 0, 'break'),
      open: [],
      Page: dynamic(() => import('./BreaksPage').then((m) => m.BreaksPage), { ssr: false }),
    },
  ],
  strips: [{ id: 'break', where: 'above', Strip: Breaks }],
};
