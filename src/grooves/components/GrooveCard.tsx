'use client';

import { useDraggable } from '@dnd-kit/core';
import clsx from 'clsx';
import { Play, Square } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { memo, useState } from 'react';
import type { Groove } from '@/core/model/groove';
import { IconButton } from '@/ui/Button';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, PointMenu } from '@/ui/PointMenu';
import { useGrooves, useGroovesStore } from '../store/context';
import type { Hearing } from '../store/use-hearing';
import { GroovePicture } from '../pictures/GroovePicture';

/** One lens for all cards, so that their leans can be compared. */
const LENS = 20;

interface Props {
  id: string;
  groove: Groove;
  about: string;
  hearing: Hearing;
  playing: boolean;
}

/** A groove on the shelf: its picture, one click to hear it, dragged onto a part or its rows to use it. */
export const GrooveCard = memo(function GrooveCard({ id, groove, about, hearing, playing }: Props) {
  const { getState } = useGroovesStore();
  const chosen = useGrooves((s) => s.chosen === id);
  const { setNodeRef, listeners, isDragging } = useDraggable({ id });
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const heard = chosen && playing;
  const hear = () => {
    if (heard) return hearing.engine.stop();
    getState().choose(id);
    hearing.start();
  };
  return (
    <li
      ref={setNodeRef}
      className={clsx(
        'relative rounded-lg border bg-surface',
        chosen ? 'border-accent ring-1 ring-accent' : 'border-line hover:border-strong',
        isDragging && 'opacity-50',
      )}
      data-groove={id}
      onContextMenu={(e) => {
        e.preventDefault();
        getState().choose(id);
        setMenu({ x: e.clientX, y: e.clientY });
      }}
    >
      <button
        type="button"
        aria-pressed={chosen}
        aria-label={`Choose ${groove.name}`}
        className="block w-full touch-manipulation rounded-lg px-3 pt-2 pb-2 text-left"
        {...listeners}
        onClick={() => getState().choose(id)}
      >
        <GroovePicture groove={groove} width={220} height={62} lens={LENS} />
        <span className="mt-1.5 block truncate pr-8 font-serif text-base leading-5">{groove.name}</span>
        <span className="mt-0.5 line-clamp-2 min-h-9 text-sm leading-[18px] text-faint">{about}</span>
      </button>
      <IconButton
        label={heard ? `Stop ${groove.name}` : `Hear ${groove.name}`}
        className={clsx('!absolute right-1.5 top-[68px]', heard ? 'text-accent' : 'text-faint')}
        onClick={hear}
      >
        {heard ? <Square size={13} fill="currentColor" /> : <Play size={15} fill="currentColor" />}
      </IconButton>
      {menu && (
        <PointMenu at={menu} onClose={() => setMenu(null)} label={groove.name}>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={hear}>
            {heard ? `Stop ${groove.name}` : `Hear ${groove.name}`}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().set({ tab: 'shape' })}>
            Shape it
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().set({ tab: 'compare' })}>
            Compare it
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().set({ tab: 'keep' })}>
            Rename, copy, export or delete it
          </DropdownMenu.Item>
        </PointMenu>
      )}
    </li>
  );
});
