'use client';

import { useState, type FormEvent } from 'react';
import type { PartRow } from '@/storage/database';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { tagsOf } from './arrange';
import { partsText, tagParts } from './part-actions';

const LONGEST_TAG = 40;

/** Tags of some parts: those that are used on the Shelf, and a new one. */
export default function TagsDialog({ rows, all, onClose }: { rows: readonly PartRow[]; all: readonly PartRow[]; onClose: () => void }) {
  const [name, setName] = useState('');
  const known = tagsOf(all);
  const add = (e: FormEvent) => {
    e.preventDefault();
    const tag = name.trim();
    if (tag) tagParts(rows, { add: [tag] });
    setName('');
  };
  return (
    <Modal open onClose={onClose} title={`Tags of ${partsText(rows)}`} about="Your own words to search the Shelf by.">
      {known.length > 0 && (
        <ul aria-label="Tags on the Shelf" className="mb-3 columns-2">
          {known.map((tag) => {
            const count = rows.filter((row) => row.tags?.includes(tag)).length;
            return (
              <li key={tag}>
                <label className="flex items-baseline gap-2 py-0.5">
                  <input
                    type="checkbox"
                    className="accent-accent"
                    checked={count === rows.length}
                    ref={(box) => {
                      if (box) box.indeterminate = count > 0 && count < rows.length;
                    }}
                    onChange={() => tagParts(rows, count === rows.length ? { remove: [tag] } : { add: [tag] })}
                  />
                  {tag}
                  {count > 0 && count < rows.length && (
                    <span className="text-sm text-faint">
                      {count} of {rows.length}
                    </span>
                  )}
                </label>
              </li>
            );
          })}
        </ul>
      )}
      <form onSubmit={add} className="flex items-center gap-2">
        <input
          aria-label="New tag"
          value={name}
          maxLength={LONGEST_TAG}
          placeholder="New tag"
          onChange={(e) => setName(e.target.value)}
          className="min-w-0 flex-1 rounded border-b border-strong bg-transparent px-1 leading-8 placeholder:text-faint"
        />
        <Button type="submit" look="strong">
          Add tag
        </Button>
      </form>
    </Modal>
  );
}
