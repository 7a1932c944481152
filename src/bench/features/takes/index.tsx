import dynamic from 'next/dynamic';
import { figureOf } from '../../shared/counted-figure';
import { useRecorded } from '../../recording/context';
import { useTakeCount } from '../../shared/use-takes';
import type { BenchFeature } from '../../shared/feature';

const PadStrip = dynamic(() => import('./PadStrip'), { ssr: false });

/** Pads stand below the stems while they are shown. */
function Pads() {
  return useRecorded((s) => s.padsShown) ? <PadStrip /> : null;
}

export const takesFeature: BenchFeature = {
  id: 'takes',
  pages: [
    {
      id: 'takes',
      title: 'Takes',
      letter: 't',
      about: 'Record from pads, keys or a MIDI device over the loop, work with the takes, and send MIDI out to other sounds.',
      also: ['record', 'MIDI input', 'pads', 'latency', 'step entry', 'MIDI output', 'MIDI clock', 'sync', 'without a click'],
      useFigure: () => figureOf(useTakeCount(), 'take'),
      open: ['takes', 'input'],
      Page: dynamic(() => import('./TakesPage').then((m) => m.TakesPage), { ssr: false }),
    },
  ],
  strips: [{ id: 'pads', where: 'below', Strip: Pads }],
};
