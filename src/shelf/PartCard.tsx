'use client';

import { formatDistanceToNow } from 'date-fns';
import { Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { PartRow } from '@/storage/database';
import { IconButton } from '@/ui/Button';
import { TinyStems } from './TinyStems';

export function PartCard({ row, onRemove }: { row: PartRow; onRemove: () => void }) {
  const { summary } = row;
  const router = useRouter();
  const place = `/bench/${encodeURIComponent(row.id)}`;
  return (
    <li className="group relative rounded-lg border border-line bg-surface transition-shadow hover:border-strong hover:shadow-sm">
      <Link href={place} prefetch={false} onMouseEnter={() => router.prefetch(place)} onFocus={() => router.prefetch(place)} className="block rounded-lg p-4">
        <TinyStems summary={summary} />
        <h2 className="mt-3 truncate pr-8 font-serif text-lg">{row.name}</h2>
        <p className="text-faint">
          {summary.meter.join('/')} · {summary.tempo} BPM · {summary.bars} {summary.bars === 1 ? 'bar' : 'bars'} · {summary.hits} hits
        </p>
        <p className="truncate text-sm text-faint">{row.head === 0 && row.about ? row.about : `changed ${formatDistanceToNow(row.updatedAt, { addSuffix: true })}`}</p>
      </Link>
      <IconButton label={`Take ${row.name} off the shelf`} className="absolute right-2 bottom-3 text-faint opacity-0 group-hover:opacity-100 focus:opacity-100" onClick={onRemove}>
        <Trash2 size={16} />
      </IconButton>
    </li>
  );
}
