'use client';

import { memo } from 'react';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { addMove } from '@/core/commands/moves';
import { Button } from '@/ui/Button';
import { softenOffBeatHats } from '../../actions/soften';
import { useBench, useBenchStore } from '../../store/context';
import type { BenchStore } from '../../store/bench-store';
import { openPage } from '../../actions/open-page';
import { calmPart } from '../../store/derived';
import { readingOf } from '../placement/reading';
import { usePlacement } from '../placement/use-placement';
import { addMoveOf } from './add-move';
import { MOVE_FACES } from './moves/all';
import { faceOf } from './moves/face';

const GENTLY = 0.6;

/** What a part is like that nothing was done to yet, in a sentence, and what one would do first. */
export default memo(function FirstSteps() {
  const store = useBenchStore();
  const look = useBench((s) => (s.whole?.look ?? null));
  const part = useBench(calmPart);
  const found = usePlacement(part, 'performed');
  if (!look) return null;
  const steps: [string, () => void][] = [
    ...(look.sloppy ? [['Quantize it gently', () => gently(store)] as [string, () => void]] : []),
    ['Humanize it', () => addMoveOf(store, faceOf(MOVE_FACES, 'humanize'))],
    ['Swing it', () => addMoveOf(store, faceOf(MOVE_FACES, 'swing'))],
    ...(look.hasHats && look.flat ? [['Soften the off-beat hats', () => softenOffBeatHats(store)] as [string, () => void]] : []),
    ...(look.noGhosts ? [['Suggest ghost notes', () => openPage(store, 'hits', 'ghosts')] as [string, () => void]] : []),
  ];
  return (
    <section aria-label="First steps" className="rounded-md border border-strong bg-ground px-3 py-2.5">
      <p>{found ? readingOf(part, found).join(' ') : 'Measuring …'}</p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {steps.map(([text, run]) => (
          <Button key={text} size="small" onClick={run}>
            {text}
          </Button>
        ))}
        <Button size="small" look="plain" className="text-faint" onClick={() => store.getState().setDesk({ stepsRead: true })}>
          Dismiss
        </Button>
      </div>
    </section>
  );
});

function gently(store: BenchStore) {
  store.getState().run('Quantize gently', (p) => addMove(p, { ...DEFAULT_MOVES.quantize, strength: GENTLY }));
  store.getState().setDesk({ openMove: 0 });
}
