'use client';

import { Redo2, Undo2 } from 'lucide-react';
import { IconButton } from './Button';

interface Props {
  /** What the last step back, and forward, is called; undefined where there is none. */
  back: string | undefined;
  forth: string | undefined;
  onUndo: () => void;
  onRedo: () => void;
}

/** A step back and a step forward, each saying what it would do. */
export function UndoButtons({ back, forth, onUndo, onRedo }: Props) {
  return (
    <>
      <IconButton label="Undo" hint={back ? `Undo: ${back}` : 'Nothing to undo'} disabled={!back} onClick={onUndo}>
        <Undo2 size={17} />
      </IconButton>
      <IconButton label="Redo" hint={forth ? `Redo: ${forth}` : 'Nothing to redo'} disabled={!forth} onClick={onRedo}>
        <Redo2 size={17} />
      </IconButton>
    </>
  );
}
