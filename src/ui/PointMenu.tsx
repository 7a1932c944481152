'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { createPortal } from 'react-dom';
import type { MenuPlace } from './menu-place';

export const MENU =
  'z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] min-w-44 overflow-y-auto rounded-md border border-strong bg-surface py-1 shadow-md';
export const MENU_ITEM =
  'flex cursor-default items-center justify-between gap-6 px-3 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-sunk';
export const MENU_RULE = 'my-1 h-px bg-line';

/** A menu that is open at a place: for right clicks, and for menus that are loaded when they are asked for. */
export function PointMenu({ at, onClose, label, children }: { at: MenuPlace; onClose: () => void; label: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root open modal={false} onOpenChange={(open) => !open && onClose()}>
      {/* In the body: what contains its own layout would count the place from its corner. */}
      {createPortal(
        <DropdownMenu.Trigger asChild>
          <span aria-hidden="true" className="fixed size-0" style={{ left: at.x, top: at.y }} />
        </DropdownMenu.Trigger>,
        document.body,
      )}
      {/* Within the page's landmark, where screen readers look for it. */}
      <DropdownMenu.Portal container={document.querySelector('main')}>
        <DropdownMenu.Content className={MENU} align="start" sideOffset={2} aria-label={label} onCloseAutoFocus={(e) => e.preventDefault()}>
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
