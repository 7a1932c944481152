'use client';

import { Check, ChevronRight } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { addRow, anotherRow } from '@/core/commands/rows';
import { labelOfVoice, VOICES } from '@/core/voices';
import { MENU, MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import type { MenuPlace } from '@/ui/menu-place';
import { useBench, useBenchStore } from '../store/context';

/** Which rows there are, and what their keys mean. */
export default function RowsMenu({ at, onClose }: { at: MenuPlace; onClose: () => void }) {
  const { getState } = useBenchStore();
  const rows = useBench((s) => s.part.rows);
  const hideEmpty = useBench((s) => s.view.hideEmpty);
  return (
    <PointMenu at={at} onClose={onClose} label="Rows">
          <DropdownMenu.Sub>
            <DropdownMenu.SubTrigger className={MENU_ITEM}>
              Add a row <ChevronRight size={14} />
            </DropdownMenu.SubTrigger>
            <DropdownMenu.Portal>
              <DropdownMenu.SubContent className={`${MENU} max-h-96 overflow-auto`}>
                <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().setDesk({ dialog: 'own-row' })}>
                  A row of your own …
                </DropdownMenu.Item>
                <DropdownMenu.Separator className={MENU_RULE} />
                {VOICES.map((voice) => anotherRow({ rows }, voice)).map((voice) => (
                  <DropdownMenu.Item
                    key={voice}
                    className={MENU_ITEM}
                    onSelect={() => {
                      getState().setView({ hideEmpty: false });
                      getState().run(`Add the row ${labelOfVoice(voice).toLowerCase()}`, (p) => addRow(p, voice));
                    }}
                  >
                    {labelOfVoice(voice)}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.SubContent>
            </DropdownMenu.Portal>
          </DropdownMenu.Sub>
          <DropdownMenu.CheckboxItem className={MENU_ITEM} checked={hideEmpty} onCheckedChange={(on) => getState().setView({ hideEmpty: on === true })}>
            Hide empty rows
            <DropdownMenu.ItemIndicator>
              <Check size={14} />
            </DropdownMenu.ItemIndicator>
          </DropdownMenu.CheckboxItem>
          <DropdownMenu.Separator className={MENU_RULE} />
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().setDesk({ dialog: 'kit' })}>
            Key map …
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().setDesk({ dialog: 'target' })}>
            Target …
          </DropdownMenu.Item>
    </PointMenu>
  );
}
