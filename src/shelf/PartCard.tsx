'use client';

import { intlFormatDistance } from 'date-fns';
import { Trash2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { PartRow } from '@/storage/database';
import { IconButton } from '@/ui/Button';
import type { MenuPlace } from '@/ui/menu-place';
import { TinyStems } from '@/ui/TinyStems';

const PartMenu = dynamic(() => import('./PartMenu'), { ssr: false });

/** @example agoText(Date.now() - 7_200_000) // '2 hours ago' */
const agoText = (at: number): string => intlFormatDistance(at, Date.now(), { locale: 'en' });

export function PartCard({ row, onRemove, onCopy }: { row: PartRow; onRemove: () => void; onCopy: () => void }) {
  const { summary } = row;
  const router = useRouter();
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const place = `/bench/${encodeURIComponent(row.id)}`;
  return (
    <li
      className="group relative rounded-lg border border-line bg-surface transition-shadow hover:border-strong hover:shadow-sm"
      onContextMenu={(e) => {
        e.preventDefault();
        setMenu({ x: e.clientX, y: e.clientY });
      }}
    >
      <Link href={place} prefetch={false} onMouseEnter={() => router.prefetch(place)} onFocus={() => router.prefetch(place)} className="block rounded-lg p-4">
        <TinyStems summary={summary} />
        <h2 className="mt-3 truncate pr-8 font-serif text-lg">{row.name}</h2>
        <p className="text-faint">
          {summary.meter.join('/')} · {summary.tempo} BPM · {summary.bars} {summary.bars === 1 ? 'bar' : 'bars'} · {summary.hits} hits
        </p>
        <p className="truncate text-sm text-faint">{row.head === 0 && row.about ? row.about : `changed ${agoText(row.updatedAt)}`}</p>
      </Link>
      <IconButton label={`Delete ${row.name}`} className="absolute right-2 bottom-3 text-faint opacity-0 group-hover:opacity-100 focus:opacity-100" onClick={onRemove}>
        <Trash2 size={16} />
      </IconButton>
      {menu && <PartMenu at={menu} name={row.name} onClose={() => setMenu(null)} onOpen={() => router.push(place)} onCopy={onCopy} onRemove={onRemove} />}
    </li>
  );
}
