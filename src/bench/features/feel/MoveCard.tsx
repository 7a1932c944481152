'use client';

import { ChevronDown, GripVertical } from 'lucide-react';
import dynamic from 'next/dynamic';
import { Switch } from 'radix-ui';
import { memo, useMemo, useRef, useState } from 'react';
import type { Effect } from '@/core/perform/effect';
import type { Move } from '@/core/model/feel';
import { changeMove } from '@/core/commands/moves';
import { Button } from '@/ui/Button';
import { Help } from '@/ui/Help';
import type { MenuPlace } from '@/ui/menu-place';
import type { ItemDrag } from '@/ui/sortable';
import { scopeWords } from '@/ui/scope-words';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { calmPart } from '../../store/derived';
import { effectWords } from './effect-words';
import { MovePicture } from './MovePicture';
import type { MoveView } from './moves/move-view';
import type { Edit } from './edit';

const MoveMenu = dynamic(() => import('./MoveMenu'), { ssr: false });
const MoveBody = dynamic(() => import('./MoveBody'), { ssr: false });

/** Held longer than this the switch bypasses the move for as long. */
const HOLD_MS = 250;

interface Props {
  move: Move;
  index: number;
  /** Null while it is not known. */
  effect: Effect | null;
  /** What would be heard, where it changes nothing. */
  offer: Partial<Move> | null;
  face: MoveView;
  drag: ItemDrag;
}

/** One move: its switch, picture, sentence, scope, and what it changes right now. */
export const MoveCard = memo(function MoveCard({ move, index, effect, offer, face, drag: { frame, handle, style, dragging } }: Props) {
  const { getState } = useBenchStore();
  const open = useBench((s) => s.ui.openMove === index);
  const count = useBench((s) => s.part.feel.moves.length);
  const part = useBench(calmPart);
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const held = useRef<{ timer: number; bypassed: boolean } | null>(null);
  const on = move.on !== false;
  const name = face.word;
  const label = name.toLowerCase();
  const sweep = useSweep();
  // Held to hear it without: that is never a step.
  const bypassing = useSweep('cancel');

  const edit = useMemo<Edit>(
    () => ({
      sweep: (change) => sweep.show(`Change the ${label}`, (p) => changeMove(p, index, change)),
      done: sweep.done,
      cancel: sweep.cancel,
      set: (what, change) => getState().run(what, (p) => changeMove(p, index, change)),
    }),
    [getState, index, label, sweep],
  );

  /** A press switches; held, it takes the move away until it is let go. */
  const bypass = {
    onPointerDown: () => {
      if (!on) return;
      const timer = window.setTimeout(() => {
        if (!held.current) return;
        held.current.bypassed = true;
        bypassing.show(`Leave out the ${label}`, (p) => changeMove(p, index, { on: false }));
      }, HOLD_MS);
      held.current = { timer, bypassed: false };
    },
    onPointerUp: () => {
      if (held.current) window.clearTimeout(held.current.timer);
      if (held.current?.bypassed) bypassing.cancel();
    },
    onPointerLeave: () => {
      if (held.current) window.clearTimeout(held.current.timer);
      if (held.current?.bypassed) bypassing.cancel();
    },
  };
  const toggle = (next: boolean) => {
    const was = held.current;
    held.current = null;
    // The click at the end of a hold is not a switch.
    if (was?.bypassed) return;
    getState().run(`Turn ${label} ${next ? 'on' : 'off'}`, (p) => changeMove(p, index, { on: next ? undefined : false }));
  };
  return (
    <section
      ref={frame}
      onContextMenu={(e) => {
        e.preventDefault();
        setMenu({ x: e.clientX, y: e.clientY });
      }}
      style={style}
      aria-label={`${name}, move ${index + 1}`}
      className={`border-t border-line py-2 ${on ? '' : 'opacity-70'} ${dragging ? 'relative z-10 bg-sunk' : ''}`}
    >
      <div className="flex items-center gap-2">
        <span {...handle} title="Drag to reorder" className="-ml-3 cursor-grab touch-none text-faint">
          <GripVertical size={14} />
        </span>
        <Switch.Root
          checked={on}
          onCheckedChange={toggle}
          aria-label={`${name} on`}
          title="Click to turn it on or off; hold to bypass it"
          {...bypass}
          className="h-5 w-9 shrink-0 rounded-full border border-strong bg-ground data-[state=checked]:bg-accent"
        >
          <Switch.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-strong transition-transform data-[state=checked]:translate-x-[17px] data-[state=checked]:bg-on-accent" />
        </Switch.Root>
        <button
          type="button"
          aria-expanded={open}
          className="flex min-w-0 flex-1 items-center gap-2 text-left"
          onClick={() => getState().setUi({ openMove: open ? null : index })}
        >
          <h3 className="font-serif text-lg">{name}</h3>
          <span className="min-w-0 flex-1" />
          <MovePicture move={move} face={face} />
          <ChevronDown size={15} className={`text-faint ${open ? 'rotate-180' : ''}`} />
        </button>
        <Help about={label} text={face.about} className="!size-6" />
      </div>
      {!open && (
        <p className="truncate text-sm">{[move.scope && scopeWords(part, move.scope), face.brief(move)].filter(Boolean).join(': ')}</p>
      )}
      {open && <MoveBody move={move} index={index} count={count} label={label} edit={edit} face={face} />}
      {menu && <MoveMenu at={menu} index={index} label={label} onClose={() => setMenu(null)} />}
      <p className="text-sm text-faint" data-testid="effect">
        {effect === null ? ' ' : effectWords(effect)}
        {offer && (
          <Button size="tiny" className="ml-2" onClick={() => edit.set(`Let the ${label} be heard`, offer)}>
            {'scope' in offer ? 'Touch every hit' : `Try ${face.brief({ ...move, ...offer } as Move)}`}
          </Button>
        )}
      </p>
    </section>
  );
});
