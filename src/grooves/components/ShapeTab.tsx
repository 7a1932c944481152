'use client';

import { mirrorGroove, scaleGroove, smoothGroove } from '@/core/groove/edit';
import { Button } from '@/ui/Button';
import { useGrooves, useGroovesStore } from '../store/context';
import { keptOf } from '../store/grooves-store';

/** Changes of the whole groove in hand. */
export function ShapeTab() {
  const { getState } = useGroovesStore();
  const blended = useGrooves((s) => s.blend !== null);
  const own = useGrooves((s) => keptOf(s, s.chosen) !== undefined);
  const { edit } = getState();
  if (blended) return <p className="text-faint">Save the blend to shape it.</p>;
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Smooth">
        <span className="w-16">Smooth</span>
        <Button
          size="small"
          title="Halfway to the mean of each step and its neighbours"
          onClick={() => edit('Smooth along the bar', (g) => smoothGroove(g, 'neighbours'))}
        >
          Along the bar
        </Button>
        <Button
          size="small"
          title="Halfway to the mean of the same place in every beat; swing stays"
          onClick={() => edit('Make beats alike', (g) => smoothGroove(g, 'beats'))}
        >
          Beats alike
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Scale the lean">
        <span className="w-16">Lean</span>
        <Button size="small" onClick={() => edit('Lean less', (g) => scaleGroove(g, 0.8, 1))}>
          A fifth less
        </Button>
        <Button size="small" onClick={() => edit('Lean more', (g) => scaleGroove(g, 1.25, 1))}>
          A quarter more
        </Button>
        <Button size="small" title="Early becomes late, and late becomes early" onClick={() => edit('Mirror', mirrorGroove)}>
          Mirror
        </Button>
        <Button size="small" onClick={() => edit('Remove the lean', (g) => scaleGroove(g, 0, 1))}>
          None
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Scale the levels">
        <span className="w-16">Levels</span>
        <Button size="small" onClick={() => edit('Flatter levels', (g) => scaleGroove(g, 1, 0.8))}>
          A fifth flatter
        </Button>
        <Button size="small" onClick={() => edit('Stronger levels', (g) => scaleGroove(g, 1, 1.25))}>
          A quarter stronger
        </Button>
        <Button size="small" onClick={() => edit('Remove the levels', (g) => scaleGroove(g, 1, 0))}>
          Flat
        </Button>
      </div>
      {!own && <p className="text-sm text-faint">This groove is built-in: the first change makes your own copy.</p>}
    </div>
  );
}
