'use client';

import { ArrowDown, ArrowUp, ChevronDown, Copy, Trash2 } from 'lucide-react';
import { Switch } from 'radix-ui';
import { useRef } from 'react';
import type { Effect } from '@/core/feel/effect';
import type { Move, MoveKind } from '@/core/feel/feel';
import { changeMove, duplicateMove, removeMove, reorderMove } from '@/core/part/commands/moves';
import { IconButton } from '@/ui/Button';
import { useBench, useBenchStore } from '../../store/context';
import { effectWords } from './effect-words';
import { Doubtful } from './Doubtful';
import { MovePicture } from './MovePicture';
import { MoveSentence, type Edit } from './MoveSentence';
import { ScopeEditor } from './ScopeEditor';
import { scopeWords } from './scope-words';

export const KIND_WORDS: Readonly<Record<MoveKind, string>> = { tighten: 'Tighten', swing: 'Swing', template: 'Template', lay: 'Lay', drift: 'Drift', spread: 'Spread', accents: 'Accents' };

/** Held longer than this the switch bypasses the move for as long. */
const HOLD_MS = 250;

/** One move: its switch, picture, sentence, scope, and what it changes right now. */
export function MoveCard({ move, index, effect }: { move: Move; index: number; effect: Effect | null }) {
  const { getState } = useBenchStore();
  const open = useBench((s) => s.desk.openMove === index);
  const count = useBench((s) => s.part.feel.moves.length);
  const part = useBench((s) => s.part);
  const held = useRef<{ timer: number; bypassed: boolean } | null>(null);
  const on = move.on !== false;
  const name = KIND_WORDS[move.kind];
  const label = `${name.toLowerCase()}`;

  const edit: Edit = {
    sweep: (change) => {
      if (!getState().gesture) getState().begin(`Change the ${label}`);
      getState().preview((p) => changeMove(p, index, change));
    },
    done: () => getState().commit(),
    cancel: () => getState().cancel(),
    set: (what, change) => getState().run(what, (p) => changeMove(p, index, change)),
  };

  /** A press switches; held, it takes the move away until it is let go. */
  const bypass = {
    onPointerDown: () => {
      if (!on) return;
      const timer = window.setTimeout(() => {
        if (!held.current) return;
        held.current.bypassed = true;
        getState().begin(`Bypass the ${label}`);
        getState().preview((p) => changeMove(p, index, { on: false }));
      }, HOLD_MS);
      held.current = { timer, bypassed: false };
    },
    onPointerUp: () => {
      if (held.current) window.clearTimeout(held.current.timer);
      if (held.current?.bypassed) getState().cancel();
    },
    onPointerLeave: () => {
      if (held.current) window.clearTimeout(held.current.timer);
      if (held.current?.bypassed) getState().cancel();
    },
  };
  const toggle = (next: boolean) => {
    const was = held.current;
    held.current = null;
    // The click at the end of a hold is not a switch.
    if (was?.bypassed) return;
    getState().run(`Switch the ${label} ${next ? 'on' : 'off'}`, (p) => changeMove(p, index, { on: next ? undefined : false }));
  };
  const run = (what: string, command: Parameters<ReturnType<typeof getState>['run']>[1], openMove: number | null) => {
    getState().run(what, command);
    getState().setDesk({ openMove });
  };

  return (
    <section aria-label={`${name}, move ${index + 1}`} className={`border-t border-line py-2 ${on ? '' : 'opacity-70'}`}>
      <div className="flex items-center gap-2">
        <Switch.Root
          checked={on}
          onCheckedChange={toggle}
          aria-label={`${name} on`}
          title="Press to switch; hold to hear it without"
          {...bypass}
          className="h-5 w-9 shrink-0 rounded-full border border-strong bg-ground data-[state=checked]:bg-accent"
        >
          <Switch.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-strong transition-transform data-[state=checked]:translate-x-[17px] data-[state=checked]:bg-on-accent" />
        </Switch.Root>
        <button type="button" aria-expanded={open} className="flex min-w-0 flex-1 items-center gap-2 text-left" onClick={() => getState().setDesk({ openMove: open ? null : index })}>
          <h3 className="font-serif text-lg">{name}</h3>
          <span className="min-w-0 flex-1 truncate text-sm text-faint">{open ? '' : scopeWords(part, move.scope)}</span>
          <MovePicture move={move} />
          <ChevronDown size={15} className={`text-faint ${open ? 'rotate-180' : ''}`} />
        </button>
      </div>
      {open && (
        <div className="mt-1">
          <div className="leading-8">
            <ScopeEditor index={index} scope={move.scope} onChange={(scope) => edit.set('Change what a move touches', { scope })} />
          </div>
          <MoveSentence move={move} index={index} edit={edit} />
          {move.kind === 'tighten' && <Doubtful />}
          <div className="mt-1 flex gap-0.5">
            <IconButton label={`Move ${label} up`} disabled={index === 0} onClick={() => run('Reorder the moves', (p) => reorderMove(p, index, index - 1), index - 1)}>
              <ArrowUp size={15} />
            </IconButton>
            <IconButton label={`Move ${label} down`} disabled={index >= count - 1} onClick={() => run('Reorder the moves', (p) => reorderMove(p, index, index + 1), index + 1)}>
              <ArrowDown size={15} />
            </IconButton>
            <IconButton label={`Duplicate the ${label}`} onClick={() => run(`Duplicate the ${label}`, (p) => duplicateMove(p, index), index + 1)}>
              <Copy size={15} />
            </IconButton>
            <IconButton label={`Remove the ${label}`} onClick={() => run(`Remove the ${label}`, (p) => removeMove(p, index), null)}>
              <Trash2 size={15} />
            </IconButton>
          </div>
        </div>
      )}
      <p className="text-sm text-faint" data-testid="effect">
        {effect === null ? ' ' : effectWords(effect)}
      </p>
    </section>
  );
}
