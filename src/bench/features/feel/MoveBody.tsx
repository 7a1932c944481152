'use client';

import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { memo } from 'react';
import type { Move } from '@/core/model/feel';
import { IconButton } from '@/ui/Button';
import { useBenchStore } from '../../store/context';
import type { Edit } from './edit';
import type { MoveView } from './moves/move-view';
import { moveActions } from './move-actions';
import { ScopeEditor } from './ScopeEditor';

interface Props {
  move: Move;
  index: number;
  count: number;
  label: string;
  edit: Edit;
  face: MoveView;
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

const PICTURES = { up: ArrowUp, down: ArrowDown, duplicate: Copy, delete: Trash2 } as const;

/** Its place among the others, and what its menu has too; switching stands on its card. */
const Order = memo(function Order({ index, label }: Pick<Props, 'index' | 'count' | 'label'>) {
  const store = useBenchStore();
  return (
    <div className="mt-1 flex gap-0.5">
      {moveActions(store, index, label).map(({ id, text, disabled, run }) => {
        if (id === 'switch') return null;
        const Picture = PICTURES[id];
        return (
          <IconButton key={id} label={text} disabled={disabled} onClick={run}>
            <Picture size={15} />
          </IconButton>
        );
      })}
    </div>
  );
});
