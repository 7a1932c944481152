'use client';

import { plural } from '@/core/plurals';
import { isPlausible } from '@/core/dates';
import clsx from 'clsx';
import { Pause, Pencil, Play, Trash2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { memo, useState, type CSSProperties, type KeyboardEvent, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { LONGEST_NAME } from '@/core/limits';
import type { PartRow } from '@/storage/database';
import { agoText } from '@/ui/ago';
import type { MenuPlace } from '@/ui/menu-place';
import { TinyStems } from '@/ui/TinyStems';
import { audition, hearPart } from './audition';
import { choosePart, chosenParts } from './chosen';
import { copyPart, removeParts, renamePartTo } from './part-actions';
import { benchOf } from './places';

const PartMenu = dynamic(() => import('./PartMenu'), { ssr: false });

/** The last line of a card: its tags, and what a demo is or when it was changed. */
const lastLine = (row: PartRow): string =>
  [
    ...(row.tags ?? []),
    row.head === 0 && row.about ? row.about : `changed ${isPlausible(row.updatedAt) ? agoText(row.updatedAt) : 'at an unknown time'}`,
  ].join(' · ');

const HOVERED = 'opacity-0 group-hover:opacity-100 group-focus-within:opacity-100 focus:opacity-100 pointer-coarse:opacity-100';

interface Props {
  row: PartRow;
  /** Its number among all that are seen, from 0, and how many there are. */
  nth: number;
  of: number;
  shown: () => readonly string[];
  onTags: (rows: readonly PartRow[]) => void;
  style: CSSProperties;
}

/** A part: its picture and what it is; opened, heard, chosen, renamed, deleted. */
export const PartCard = memo(function PartCard({ row, nth, of, shown, onTags, style }: Props) {
  const { summary } = row;
  const router = useRouter();
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const [naming, setNaming] = useState(false);
  const heard = useStore(audition, (s) => s.id === row.id);
  const chosen = useStore(chosenParts, (s) => s.ids.has(row.id));
  const choosing = useStore(chosenParts, (s) => s.ids.size > 0);
  const place = benchOf(row.id);
  const onKey = (e: KeyboardEvent) => {
    if (e.target instanceof HTMLInputElement && e.target.type === 'text') return;
    if (e.key === 'F2') setNaming(true);
    else if (e.key === 'Delete') removeParts([row]);
    else return;
    e.preventDefault();
  };
  return (
    <li
      data-part={row.id}
      aria-posinset={nth + 1}
      aria-setsize={of}
      style={style}
      onKeyDown={onKey}
      className={clsx(
        'group absolute top-0 left-0 rounded-lg border bg-surface transition-shadow hover:shadow-sm',
        chosen ? 'border-accent' : 'border-line hover:border-strong',
      )}
      onContextMenu={(e) => {
        e.preventDefault();
        setMenu({ x: e.clientX, y: e.clientY });
      }}
    >
      <Link
        href={place}
        prefetch={false}
        onMouseEnter={() => router.prefetch(place)}
        onFocus={() => router.prefetch(place)}
        className="block h-full rounded-lg p-4"
      >
        <TinyStems summary={summary} />
        <h2 className={clsx('mt-3 truncate pr-20 font-serif text-lg leading-7', naming && 'invisible')}>{row.name}</h2>
        <p className="truncate text-faint">
          {summary.meter.join('/')} · {summary.tempo} BPM · {summary.bars} {plural(summary.bars, 'bar')} · {summary.hits} hits
        </p>
        <p className="truncate text-sm text-faint" title={row.tags?.length ? row.tags.join(', ') : undefined}>
          {lastLine(row)}
        </p>
      </Link>
      <input
        type="checkbox"
        checked={chosen}
        aria-label={`Choose ${row.name}`}
        onClick={(e) => choosePart(row.id, e.shiftKey, shown())}
        onChange={() => undefined}
        className={clsx('absolute top-2 left-2 size-5 accent-accent', !chosen && !choosing && HOVERED)}
      />
      <CardButton
        label={heard ? `Stop ${row.name}` : `Hear ${row.name}`}
        className={clsx('absolute top-2 right-2 size-8 border border-strong bg-surface', heard ? 'text-accent' : HOVERED)}
        onClick={() => void hearPart(row.id)}
      >
        {heard ? <Pause size={16} /> : <Play size={16} />}
      </CardButton>
      <div className="absolute right-2 bottom-[57px] flex">
        <CardButton
          label={`Rename ${row.name}`}
          hint="Rename (F2)"
          className={`size-7 text-faint ${HOVERED}`}
          onClick={() => setNaming(true)}
        >
          <Pencil size={15} />
        </CardButton>
        <CardButton
          label={`Delete ${row.name}`}
          hint="Delete (Del)"
          className={`size-7 text-faint ${HOVERED}`}
          onClick={() => removeParts([row])}
        >
          <Trash2 size={15} />
        </CardButton>
      </div>
      {naming && (
        <input
          autoFocus
          type="text"
          aria-label={`New name of ${row.name}`}
          defaultValue={row.name}
          maxLength={LONGEST_NAME}
          className="absolute right-4 bottom-[57px] left-4 rounded border-b border-strong bg-surface font-serif text-lg leading-7"
          onFocus={(e) => e.target.select()}
          onBlur={(e) => {
            setNaming(false);
            renamePartTo(row, e.target.value);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Escape') e.currentTarget.value = row.name;
            if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
          }}
        />
      )}
      {menu && (
        <PartMenu
          at={menu}
          name={row.name}
          onClose={() => setMenu(null)}
          onOpen={() => router.push(place)}
          onHear={() => void hearPart(row.id)}
          onName={() => setNaming(true)}
          onCopy={() => copyPart(row)}
          onTags={() => onTags([row])}
          onRemove={() => removeParts([row])}
        />
      )}
    </li>
  );
});

/** A small one: hundreds of cards come and go while the Shelf is scrolled. */
function CardButton({
  label,
  hint,
  className,
  onClick,
  children,
}: {
  label: string;
  hint?: string;
  className: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={hint ?? label}
      onClick={onClick}
      className={`flex items-center justify-center rounded-md hover:bg-sunk ${className}`}
    >
      {children}
    </button>
  );
}
