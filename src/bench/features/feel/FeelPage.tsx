'use client';

import { counted, plural } from '@/core/plurals';
import { Plus } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import type { Effect } from '@/core/perform/effect';
import { MOST_MOVES, type Move } from '@/core/model/feel';
import { bake, reorderMove } from '@/core/commands/moves';
import { setSway } from '@/core/commands/settings';
import { Button } from '@/ui/Button';
import { EmptyPicture } from '@/ui/EmptyPicture';
import { NumberField } from '@/ui/NumberField';
import { Range } from '@/ui/Range';
import type { ItemDrag } from '@/ui/sortable';
import { useSortable } from '@/ui/use-sortable';
import { useBench, useBenchStore, useBenchSwept } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useSweep } from '../../store/use-sweep';
import { addMoveOf } from './add-move';
import { Compare } from './Compare';
import { MoveCard } from './MoveCard';
import { MOVE_FACES, USUAL } from './moves/all';
import { viewOfMove, type MoveView } from './moves/move-view';
import { WholeFeels } from './WholeFeels';

/** Holds the place of the first steps until they are loaded: nothing moves under the pointer. */
function FirstStepsPlace() {
  return (
    <div className="rounded-md border border-strong bg-ground px-3 py-2.5">
      <p className="min-h-[5lh] text-sm">Measuring …</p>
      <div className="mt-2 min-h-24" />
    </div>
  );
}
const FirstSteps = dynamic(() => import('./FirstSteps'), { ssr: false, loading: FirstStepsPlace });

const NONE: readonly null[] = [];

/** The moves of the feel in their order, and how much of them is used. Its sections follow a sweep each for itself. */
export function FeelPage({ faces = MOVE_FACES }: { faces?: readonly MoveView[] }) {
  const firstSteps = useBench((s) => (s.idea === null ? s.ui.firstSteps : null));
  return (
    <div className="space-y-3">
      <section aria-label="Moves">
        <Adding faces={faces} />
        <Moves faces={faces} />
      </section>
      {firstSteps && <FirstSteps steps={firstSteps} />}
      <Whole />
      <Footer />
    </div>
  );
}

/** What there is to weigh and to compare once there is a feel; whole feels to start from before. */
function Whole() {
  const bare = useBench((s) => s.part.feel.moves.length === 0);
  const compared = useBench((s) => (s.ui.other ?? s.ui.imported) !== null);
  return (
    <>
      {bare && <WholeFeels />}
      {!bare && <Sway />}
      {(!bare || compared) && <Compare />}
      {!bare && <WholeFeels />}
    </>
  );
}

function Moves({ faces }: { faces: readonly MoveView[] }) {
  const { getState } = useBenchStore();
  const moves = useBenchSwept((s) => s.part.feel.moves);
  const effects = useBench((s): readonly (Effect | null)[] => s.whole?.effects ?? NONE);
  const offers = useBench((s): readonly (Partial<Move> | null)[] => s.whole?.offers ?? NONE);
  const [Sortable, onNear] = useSortable();
  // Dragging makes the cards anew: it is loaded by their grips alone, so that nothing else that is held is lost.
  const [still] = useState<ItemDrag>({ handle: { onPointerEnter: onNear } });
  const ids = moves.map((_, i) => String(i));
  const onMove = (id: string, onto: string) => {
    getState().run('Reorder the moves', (p) => reorderMove(p, Number(id), Number(onto)));
    getState().setUi({ openMove: null });
  };
  const render = (id: string, drag: ItemDrag): ReactNode => {
    const i = Number(id);
    const move = moves[i];
    return (
      move && (
        <MoveCard
          key={id}
          move={move}
          index={i}
          effect={effects.length === moves.length ? (effects[i] ?? null) : null}
          offer={offers.length === moves.length ? (offers[i] ?? null) : null}
          face={viewOfMove(faces, move.kind)}
          drag={drag}
        />
      )
    );
  };
  return (
    <>
      {moves.length === 0 && (
        <div className="flex items-center gap-3">
          <EmptyPicture className="shrink-0" />
          <p className="text-sm text-faint">
            No moves yet: you hear the part as written. Moves change what you hear; the written hits stay as they are.
          </p>
        </div>
      )}
      {Sortable ? <Sortable ids={ids} onMove={onMove} render={render} /> : ids.map((id) => render(id, still))}
    </>
  );
}

function Adding({ faces }: { faces: readonly MoveView[] }) {
  const store = useBenchStore();
  const full = useBench((s) => s.part.feel.moves.length >= MOST_MOVES);
  const button = (face: MoveView, size: 'normal' | 'small') => (
    <Button
      key={face.spec.kind}
      size={size}
      title={face.about}
      aria-label={`Add ${face.word.toLowerCase()}`}
      disabled={full}
      onClick={() => addMoveOf(store, face)}
    >
      <Plus size={13} /> {face.word.toLowerCase()}
    </Button>
  );
  return (
    <div className="space-y-1.5 pb-3" role="group" aria-label="Add a move">
      <div className="flex flex-wrap gap-1.5">{faces.slice(0, USUAL).map((face) => button(face, 'normal'))}</div>
      <div className="flex flex-wrap gap-1">{faces.slice(USUAL).map((face) => button(face, 'small'))}</div>
    </div>
  );
}

function Footer() {
  const { getState } = useBenchStore();
  const bare = useBench((s) => s.part.feel.moves.length === 0 && !calmPart(s).hits.some((h) => h.nudge));
  const id = useBench((s) => s.id);
  const selected = useBench((s) => s.selection.size);
  return (
    <div className="flex flex-wrap gap-2 border-t border-line pt-3">
      <Link
        href={`/grooves?part=${encodeURIComponent(id)}`}
        prefetch={false}
        className="inline-flex h-8 items-center rounded-md border border-strong px-3 hover:bg-sunk"
      >
        Grooves …
      </Link>
      <Button onClick={() => getState().setUi({ dialog: 'learn' })}>
        Extract a groove{selected > 0 ? ` from ${counted(selected, 'hit')}` : ''} …
      </Button>
      <Button
        disabled={bare}
        title="Turns what you hear into written hits and clears the feel and the nudges"
        onClick={() => getState().run('Commit feel', bake)}
      >
        Commit feel
      </Button>
    </div>
  );
}

const QUARTERS = [0, 25, 50, 75, 100];

function Sway() {
  const sway = useBench((s) => s.part.feel.sway);
  const sweep = useSweep();
  const sweepSway = (percent: number) => sweep.show('Change the sway', (part) => setSway(part, percent / 100));
  return (
    <section aria-label="Sway">
      <div className="flex items-baseline justify-between">
        <h3 className="font-serif text-base">Sway</h3>
        <NumberField
          label="Sway"
          value={Math.round(sway * 100)}
          min={0}
          max={100}
          unit="%"
          default={100}
          onChange={sweepSway}
          onDone={sweep.done}
          onCancel={sweep.cancel}
        />
      </div>
      <Range
        label="Sway in percent"
        value={Math.round(sway * 100)}
        min={0}
        max={100}
        step={1}
        valueText={`${Math.round(sway * 100)} %`}
        marks={QUARTERS}
        onChange={sweepSway}
        onDone={sweep.done}
      />
      <p className="text-sm text-faint">
        {sway === 0 ? 'The part as written.' : plural(sway, 'The full feel.', 'Part of the way from the written part to the full feel.')}
      </p>
    </section>
  );
}
