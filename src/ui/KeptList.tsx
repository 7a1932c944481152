'use client';

import { useState, type ReactNode } from 'react';
import { Button } from './Button';
import { download, fileNameOf } from './download';
import { say, showError } from './notify';
import { tellDeleted } from './undo-key';

/** A thing of the library: built-in, or of the user's own. */
export interface LibraryItem {
  name: string;
  /** A word on its size, or a sentence on a built-in one. */
  about: string;
}

interface Props<T extends LibraryItem> {
  /** "key map", "feel". */
  what: string;
  own: readonly T[];
  /** Names that are taken beside these. */
  taken?: readonly LibraryItem[];
  usesOf?: (item: T) => ReactNode;
  picture?: (item: T) => ReactNode;
  rename(item: T, name: string): Promise<unknown>;
  /** The result puts it back. */
  remove(item: T): Promise<() => Promise<unknown>>;
  file(item: T): { text: string; ending: string };
  /** A name is being typed: Escape ends that alone. */
  onRenaming?: (renaming: boolean) => void;
}

const attempt = (work: Promise<unknown>) => void work.catch(showError);

/** Things of the user's own, kept under names: renamed, given away, deleted with undo. */
export function KeptList<T extends LibraryItem>({ what, own, taken = [], usesOf, picture, rename, remove, file, onRenaming }: Props<T>) {
  const [renaming, setRenaming] = useState<string | null>(null);
  const nameIt = (name: string | null) => {
    setRenaming(name);
    onRenaming?.(name !== null);
  };
  const onRemove = async (item: T) => {
    const putBack = await remove(item);
    tellDeleted(`${item.name} is deleted.`, putBack);
  };
  const onRename = async (item: T, next: string) => {
    nameIt(null);
    const wanted = next.trim();
    if (!wanted || wanted === item.name) return;
    if ([...taken, ...own].some((k) => k.name === wanted)) return say(`${wanted} already exists.`);
    await rename(item, wanted);
  };
  const give = (item: T) => {
    const { text, ending } = file(item);
    download(text, `${fileNameOf(item.name)}${ending}`, 'application/json');
  };
  if (own.length === 0) return null;
  return (
    <ul aria-label={`Your ${what}s`} className="space-y-1">
      {own.map((item) => (
        <li key={item.name} className={`flex flex-wrap gap-1 border-t border-line pt-1 ${picture ? 'items-center' : 'items-baseline'}`}>
          {picture && <span className="mr-2 w-40 shrink-0">{picture(item)}</span>}
          {renaming === item.name ? (
            <input
              autoFocus
              aria-label={`New name of ${item.name}`}
              defaultValue={item.name}
              maxLength={120}
              className="mr-auto rounded border-b border-strong bg-transparent px-1"
              onBlur={(e) => attempt(onRename(item, e.target.value))}
              onKeyDown={(e) => {
                if (e.key === 'Escape') e.currentTarget.value = item.name;
                if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
              }}
            />
          ) : (
            <button
              type="button"
              className="mr-auto text-left"
              title="Rename"
              aria-label={`Rename ${item.name}`}
              onClick={() => nameIt(item.name)}
            >
              <span className="font-serif text-base">{item.name}</span> <span className="text-sm text-faint">{item.about}</span>
            </button>
          )}
          {usesOf?.(item)}
          <Button size="small" aria-label={`Export ${item.name}`} onClick={() => give(item)}>
            Export
          </Button>
          <Button size="small" aria-label={`Delete ${item.name}`} onClick={() => attempt(onRemove(item))}>
            Delete
          </Button>
        </li>
      ))}
    </ul>
  );
}
