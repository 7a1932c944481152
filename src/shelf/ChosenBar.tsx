'use client';

import type { PartRow } from '@/storage/database';
import { Button } from '@/ui/Button';
import { chooseAll, chooseNone } from './chosen';
import { partsText, removeParts } from './part-actions';

interface Props {
  rows: readonly PartRow[];
  shown: readonly PartRow[];
  onTags: (rows: readonly PartRow[]) => void;
  onExport: (rows: readonly PartRow[]) => void;
}

/** What is done with the parts that are chosen; it stays in sight while they are, under the cards: none moves when it comes. */
export default function ChosenBar({ rows, shown, onTags, onExport }: Props) {
  return (
    <div
      role="toolbar"
      aria-label="Chosen parts"
      className="sticky bottom-0 z-20 -mx-3 mt-4 flex flex-wrap items-center gap-2 border-t border-strong bg-ground px-3 py-2"
    >
      <p className="mr-3">
        <strong>{partsText(rows)}</strong> chosen
      </p>
      {rows.length < shown.length && (
        <Button size="small" onClick={() => chooseAll(shown.map((row) => row.id))}>
          Choose all {shown.length}
        </Button>
      )}
      <Button size="small" onClick={() => onTags(rows)}>
        Tag
      </Button>
      <Button size="small" onClick={() => onExport(rows)}>
        Export
      </Button>
      <Button size="small" look="danger" onClick={() => removeParts(rows)}>
        Delete
      </Button>
      <Button size="small" onClick={chooseNone}>
        Deselect all
      </Button>
    </div>
  );
}
