import { changeMove, duplicateMove, removeMove, reorderMove } from '@/core/commands/moves';
import type { Part } from '@/core/model/part';
import type { BenchStore } from '../../store/bench-store';

/** Something that can be done to a move as a whole: by its buttons and by its menu. */
export interface MoveAction {
  id: 'switch' | 'up' | 'down' | 'duplicate' | 'delete';
  text: string;
  disabled?: boolean;
  run: () => void;
}

/** What can be done to the move at a place of the feel, each one step. @param label what the move is called */
export function moveActions(store: BenchStore, index: number, label: string): MoveAction[] {
  const { part, ui } = store.getState();
  const { moves } = part.feel;
  const on = moves[index]?.on !== false;
  const action = (
    id: MoveAction['id'],
    text: string,
    command: (p: Part) => Part,
    openMove: number | null,
    disabled = false,
  ): MoveAction => ({
    id,
    text,
    disabled,
    run: () => {
      store.getState().run(text, command);
      store.getState().setUi({ openMove });
    },
  });
  return [
    action('switch', `Turn ${label} ${on ? 'off' : 'on'}`, (p) => changeMove(p, index, { on: on ? false : undefined }), ui.openMove),
    action('up', `Move the ${label} up`, (p) => reorderMove(p, index, index - 1), index - 1, index === 0),
    action('down', `Move the ${label} down`, (p) => reorderMove(p, index, index + 1), index + 1, index >= moves.length - 1),
    action('duplicate', `Duplicate the ${label}`, (p) => duplicateMove(p, index), index + 1),
    action('delete', `Delete the ${label}`, (p) => removeMove(p, index), null),
  ];
}
