'use client';

import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { memo } from 'react';
import type { Move } from '@/core/model/feel';
import type { Part } from '@/core/model/part';
import { duplicateMove, removeMove, reorderMove } from '@/core/commands/moves';
import { IconButton } from '@/ui/Button';
import { useBenchStore } from '../../store/context';
import type { Edit } from './edit';
import type { MoveFace } from './moves/face';
import { ScopeEditor } from './ScopeEditor';

interface Props {
  move: Move;
  index: number;
  count: number;
  label: string;
  edit: Edit;
  face: MoveFace;
}

/** An open move: its scope, its sentence, and where it stands among the others. */
export default function MoveBody({ move, index, count, label, edit, face: { Sentence, Below } }: Props) {
  return (
    <div className="mt-1">
      <div className="leading-8">
        <ScopeEditor index={index} edit={edit} />
      </div>
      <Sentence move={move} edit={edit} />
      {Below && <Below index={index} />}
      <Order index={index} count={count} label={label} />
    </div>
  );
}

const Order = memo(function Order({ index, count, label }: Pick<Props, 'index' | 'count' | 'label'>) {
  const { getState } = useBenchStore();
  const run = (what: string, command: (part: Part) => Part, openMove: number | null) => {
    getState().run(what, command);
    getState().setDesk({ openMove });
  };
  return (
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
      <IconButton label={`Delete the ${label}`} onClick={() => run(`Delete the ${label}`, (p) => removeMove(p, index), null)}>
        <Trash2 size={15} />
      </IconButton>
    </div>
  );
});
