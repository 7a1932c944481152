'use client';

import { Check } from 'lucide-react';
import { memo, useEffect } from 'react';
import type { FirstLook } from '@/core/analysis/first-look';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { addMove } from '@/core/commands/moves';
import { Button } from '@/ui/Button';
import { softenOffBeatHats } from '../../actions/soften';
import { useBench, useBenchStore } from '../../store/context';
import type { BenchStore } from '../../store/bench-store';
import { rememberSteps, type FirstStep } from '../../store/remembered';
import { openPage } from '../../actions/open-page';
import { calmPart } from '../../store/derived';
import { readingOf } from '../../shared/reading';
import { usePlacement } from '../../shared/use-placement';
import { addMoveOf } from './add-move';
import { MOVE_FACES } from './moves/all';
import { viewOfMove } from './moves/move-view';

const GENTLY = 0.6;

/** Every step there is: what it says, and what it does. */
const STEPS: Readonly<Record<string, { text: string; run(store: BenchStore): void }>> = {
  quantize: { text: 'Quantize it gently', run: gently },
  humanize: { text: 'Humanize it', run: (store) => addMoveOf(store, viewOfMove(MOVE_FACES, 'humanize')) },
  swing: { text: 'Swing it', run: (store) => addMoveOf(store, viewOfMove(MOVE_FACES, 'swing')) },
  soften: { text: 'Soften the off-beat hats', run: softenOffBeatHats },
  ghosts: { text: 'Suggest ghost notes', run: (store) => openPage(store, 'hits', 'ghosts') },
};

/** The steps that a part asks for. */
const offered = (look: FirstLook): FirstStep[] =>
  [
    ...(look.sloppy ? ['quantize'] : []),
    'humanize',
    'swing',
    ...(look.hasHats && look.flat ? ['soften'] : []),
    ...(look.noGhosts ? ['ghosts'] : []),
  ].map((id) => ({ id, done: false }));

/**
 * What a part is like, in a sentence, and the first steps to take. They stay, ticked one by one, until they are dismissed. As high as its
 * longest text: nothing beneath moves while the part is measured or changed.
 */
export default memo(function FirstSteps({ steps }: { steps: readonly FirstStep[] }) {
  const store = useBenchStore();
  const look = useBench((s) => s.whole?.look ?? null);
  const part = useBench(calmPart);
  const found = usePlacement(part, 'performed');
  const keep = (next: readonly FirstStep[] | null) => {
    store.getState().setUi({ firstSteps: next });
    rememberSteps(store.getState().id, next);
  };
  const waits = steps.length === 0 && look !== null;
  useEffect(() => {
    if (waits) store.getState().setUi({ firstSteps: offered(look) });
  }, [waits, look, store]);
  return (
    <section aria-label="First steps" className="rounded-md border border-strong bg-ground px-3 py-2.5">
      <p className="min-h-[5lh] text-sm">{found ? readingOf(part, found).join(' ') : 'Measuring …'}</p>
      <div className="mt-2 flex min-h-24 flex-wrap content-start gap-1.5">
        {steps.map(({ id, done }) => (
          <Button
            key={id}
            size="small"
            className={done ? 'text-faint' : ''}
            onClick={() => {
              keep(steps.map((s) => (s.id === id ? { ...s, done: true } : s)));
              STEPS[id]?.run(store);
            }}
          >
            {done && <Check size={13} aria-label="Done:" />} {STEPS[id]?.text}
          </Button>
        ))}
        <Button size="small" look="plain" className="text-faint" onClick={() => keep(null)}>
          Dismiss
        </Button>
      </div>
    </section>
  );
});

function gently(store: BenchStore) {
  store.getState().run('Quantize gently', (p) => addMove(p, { ...DEFAULT_MOVES.quantize, strength: GENTLY }));
  store.getState().setUi({ openMove: 0 });
}
