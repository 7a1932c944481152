'use client';

import { DropdownMenu } from 'radix-ui';
import { changeMove, duplicateMove, removeMove, reorderMove } from '@/core/commands/moves';
import type { Part } from '@/core/model/part';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import { useBenchStore } from '../../store/context';

interface Props {
  at: MenuPlace;
  index: number;
  count: number;
  label: string;
  on: boolean;
  onClose: () => void;
}

/** What can be done to a move as a whole. */
export default function MoveMenu({ at, onClose, ...props }: Props) {
  return (
    <PointMenu at={at} onClose={onClose} label={`The ${props.label}`}>
      <Items {...props} />
    </PointMenu>
  );
}

function Items({ index, count, label, on }: Omit<Props, 'at' | 'onClose'>) {
  const { getState } = useBenchStore();
  const item = (text: string, command: (p: Part) => Part, openMove: number | null, disabled = false) => (
    <DropdownMenu.Item
      className={MENU_ITEM}
      disabled={disabled}
      onSelect={() => {
        getState().run(text, command);
        getState().setDesk({ openMove });
      }}
    >
      {text}
    </DropdownMenu.Item>
  );
  return (
    <>
      {item(`Switch the ${label} ${on ? 'off' : 'on'}`, (p) => changeMove(p, index, { on: on ? false : undefined }), getState().desk.openMove)}
      {item(`Duplicate the ${label}`, (p) => duplicateMove(p, index), index + 1)}
      {item(`Move the ${label} up`, (p) => reorderMove(p, index, index - 1), index - 1, index === 0)}
      {item(`Move the ${label} down`, (p) => reorderMove(p, index, index + 1), index + 1, index >= count - 1)}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item(`Delete the ${label}`, (p) => removeMove(p, index), null)}
    </>
  );
}
