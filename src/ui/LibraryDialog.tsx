'use client';

import clsx from 'clsx';
import { useRef, useState, type ReactNode } from 'react';
import { bringIn, broughtWords } from '@/storage/bring-in';
import { Button } from './Button';
import { download, fileNameOf } from './download';
import { KeptList, type LibraryItem } from './KeptList';
import { Modal } from './Modal';
import { say, showError } from './notify';

/** A way to use one. */
export interface LibraryUse<T> {
  word: string;
  /** What the button is called beside others of its word. */
  label(name: string): string;
  title?: string;
  run(item: T): void;
}

interface Props<T extends LibraryItem> {
  title: string;
  about: string;
  /** "key map", "feel". */
  what: string;
  ours: readonly T[];
  own: readonly T[];
  /** The first is what most want. */
  uses: readonly LibraryUse<T>[];
  /** Name that what is here would be kept under. */
  name: string;
  /** There is something here to keep. */
  canKeep: boolean;
  keep(name: string): Promise<unknown>;
  rename(item: T, name: string): Promise<unknown>;
  /** The result puts it back. */
  remove(item: T): Promise<() => Promise<unknown>>;
  /** An item as a file; what is here, under a name, without one. */
  file(item: T | null, name: string): { text: string; ending: string };
  onClose(): void;
  /** Stands above the lists. */
  children?: ReactNode;
}

/** A sentence longer than this stands under the name. */
const LONG = 30;

const attempt = (work: Promise<unknown>) => void work.catch(showError);

/** Things that are kept under names for every part: used, kept, renamed, deleted, given away and brought in. */
export function LibraryDialog<T extends LibraryItem>({
  title,
  about,
  what,
  ours,
  own,
  uses,
  name: first,
  canKeep,
  keep,
  rename,
  remove,
  file,
  onClose,
  children,
}: Props<T>) {
  const [name, setName] = useState(first);
  const [renaming, setRenaming] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const called = name.trim() || first;
  const give = () => {
    const { text, ending } = file(null, called);
    download(text, `${fileNameOf(called)}${ending}`, 'application/json');
  };
  const onKeep = async () => {
    await keep(called);
    say(`${called} is saved for every part.`);
  };
  // A file of another kind goes where it belongs.
  const bring = async (chosen: File) => say(broughtWords(await bringIn(await chosen.text(), chosen.name)));

  const usesOf = (item: T) =>
    uses.map((use) => (
      <Button key={use.word} size="small" title={use.title} aria-label={use.label(item.name)} onClick={() => use.run(item)}>
        {use.word}
      </Button>
    ));
  return (
    <Modal open onClose={onClose} title={title} about={about} keepsEscape={renaming}>
      <div className="space-y-4">
        {children}
        <ul aria-label={`Built-in ${what}s`} className="space-y-1">
          {ours.map((item) => (
            <li key={item.name} className="flex items-start gap-1 border-t border-line pt-1">
              <span className="min-w-0 flex-1">
                <span className="font-serif text-base">{item.name}</span>{' '}
                <span className={clsx('text-sm text-faint', item.about.length > LONG && 'block')}>{item.about}</span>
              </span>
              {usesOf(item)}
            </li>
          ))}
        </ul>
        <KeptList
          what={what}
          taken={ours}
          own={own}
          usesOf={usesOf}
          rename={rename}
          remove={remove}
          file={(item) => file(item, item.name)}
          onRenaming={setRenaming}
        />
        <div className="flex flex-wrap items-center gap-2 border-t border-line pt-3">
          <input
            aria-label={`Name for this ${what}`}
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
            className="min-w-0 flex-1 rounded border-b border-strong bg-transparent px-1"
          />
          <Button size="small" disabled={!canKeep} onClick={() => attempt(onKeep())}>
            Save this {what}
          </Button>
          <Button size="small" disabled={!canKeep} onClick={give}>
            Export it
          </Button>
          <Button size="small" onClick={() => input.current?.click()}>
            Import one
          </Button>
          <input
            ref={input}
            type="file"
            accept=".json"
            className="sr-only"
            aria-label={`File of a ${what}`}
            data-testid="library-file"
            tabIndex={-1}
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = '';
              if (chosen) attempt(bring(chosen));
            }}
          />
        </div>
      </div>
    </Modal>
  );
}
