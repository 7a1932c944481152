'use client';

import { format } from 'date-fns';
import { useEffect, useMemo, useRef, useState } from 'react';
import { ENTRY_KINDS } from '@/formats/library-file';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { Account } from './Account';
import { look, restore } from './client';
import type { How } from './kinds/kind';
import type { Looked, Preview, Restored } from './restore';
import { countWords, nameOfKind } from './words';

/** What is done where the file has another state than the browser. */
type Choice = 'mine' | 'beside' | 'replace';

const CHOICES: readonly { value: Choice; text: string }[] = [
  { value: 'mine', text: 'keep mine' },
  { value: 'beside', text: 'take both' },
  { value: 'replace', text: 'take the file’s' },
];
const MIXED = 'as chosen below';

/** Settings are one thing: there are no two of them. */
const choicesFor = ({ kind }: Looked) => (kind === 'setting' ? CHOICES.filter((c) => c.value !== 'beside') : CHOICES);

const countsOf = (things: readonly Looked[]): string =>
  countWords(ENTRY_KINDS.map((kind) => [kind, things.filter((t) => t.kind === kind).length]));

/** What a library file would bring, before anything is changed; then it is taken in. */
export default function RestoreDialog({ file, onClose }: { file: File; onClose: () => void }) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [choices, setChoices] = useState<ReadonlyMap<number, Choice>>(new Map());
  const [done, setDone] = useState<number | null>(0);
  const [restored, setRestored] = useState<Restored | null>(null);
  const abort = useRef(new AbortController());
  const close = useRef(onClose);

  useEffect(() => {
    const controller = (abort.current = new AbortController());
    look(file, setDone, controller.signal).then(
      (found) => {
        setPreview(found);
        setDone(null);
      },
      (e: unknown) => {
        if (controller.signal.aborted) return;
        showError(e);
        close.current();
      },
    );
    return () => controller.abort(new Error('cancelled'));
  }, [file]);

  const things = useMemo(() => preview?.things ?? [], [preview]);
  const of = (standing: Looked['standing']) => things.filter((t) => t.standing === standing);
  const different = things.flatMap((thing, i) => (thing.standing === 'different' ? [{ thing, i }] : []));
  const choiceOf = (i: number): Choice => choices.get(i) ?? 'mine';
  const wishes = new Map<number, How>([
    ...things.flatMap((t, i) => (t.standing === 'new' ? [[i, 'add'] as const] : [])),
    ...different.flatMap(({ i }) => {
      const choice = choiceOf(i);
      return choice === 'mine' ? [] : [[i, choice] as const];
    }),
  ]);
  const all = new Set(different.map(({ i }) => choiceOf(i)));
  const broken = of('broken');

  const take = async () => {
    const controller = (abort.current = new AbortController());
    setDone(0);
    try {
      setRestored(await restore(file, wishes, setDone, controller.signal));
    } catch (e) {
      if (!controller.signal.aborted) showError(e);
    }
    setDone(null);
  };

  return (
    <Modal
      open
      onClose={onClose}
      unfinished={preview && done !== null ? 'The restore is still running. If you stop now, what has been restored so far is kept.' : null}
      title="Restore"
      about={preview ? `${file.name}, written on ${format(preview.madeAt, 'd MMMM yyyy, HH:mm')}.` : file.name}
    >
      {restored ? (
        <Account name="restore-account" problems={restored.failed} onClose={onClose}>
          <p>
            {restored.taken === 1 ? 'One item was restored.' : `${restored.taken} items were restored.`} What was replaced among your parts
            is under Recently deleted.
          </p>
        </Account>
      ) : done !== null ? (
        <p role="status" className="flex items-center gap-3">
          <span>{preview ? 'Restoring' : 'Reading'} …</span>
          <progress aria-label="Restore" className="flex-1 accent-accent" max={1} value={done} />
          <Button
            onClick={() => {
              abort.current.abort(new Error('cancelled'));
              if (!preview) onClose();
            }}
          >
            Cancel
          </Button>
        </p>
      ) : (
        <div className="space-y-3">
          <ul data-testid="restore-preview" className="space-y-1">
            <li>
              <strong>New here:</strong> {countsOf(of('new'))}
            </li>
            <li>
              <strong>The same:</strong> {countsOf(of('same'))}
            </li>
            <li>
              <strong>Different:</strong> {countsOf(of('different'))}
            </li>
            {broken.length > 0 && (
              <li className="text-danger">
                <strong>Cannot be read:</strong> {broken.map((b) => `${b.name} (${b.why})`).join('; ')}
              </li>
            )}
          </ul>
          {different.length > 0 && (
            <section aria-label="What is different">
              <p className="flex items-baseline gap-2 border-b border-line pb-1">
                <span className="mr-auto text-faint">Yours stay as they are, unless you say otherwise.</span>
                For all{' '}
                <Picker
                  label="For all that differ"
                  value={all.size === 1 ? ([...all][0] as string) : MIXED}
                  choices={all.size === 1 ? CHOICES : [...CHOICES, { value: MIXED, text: MIXED }]}
                  onChange={(c) =>
                    c !== MIXED &&
                    setChoices(
                      new Map(different.map(({ thing, i }) => [i, choicesFor(thing).some((o) => o.value === c) ? (c as Choice) : 'mine'])),
                    )
                  }
                />
              </p>
              <ul tabIndex={0} aria-label="Different" className="max-h-64 divide-y divide-line overflow-auto">
                {different.map(({ thing, i }) => (
                  <li key={i} className="flex items-baseline gap-3 py-1">
                    <span className="mr-auto min-w-0">
                      <span className="font-serif text-base">{thing.name}</span>{' '}
                      <span className="text-sm text-faint">
                        {[thing.kind === 'setting' ? '' : nameOfKind(thing.kind), datesOf(thing)].filter(Boolean).join(', ')}
                      </span>
                      {thing.differs && <span className="block text-sm text-faint">In the file: {thing.differs}.</span>}
                    </span>
                    <Picker
                      label={`${thing.name}: which`}
                      value={choiceOf(i)}
                      choices={choicesFor(thing)}
                      onChange={(c) => setChoices(new Map(choices).set(i, c as Choice))}
                    />
                  </li>
                ))}
              </ul>
            </section>
          )}
          <p className="flex justify-end gap-2 pt-2">
            <Button onClick={onClose}>{wishes.size === 0 ? 'Close' : 'Cancel'}</Button>
            {wishes.size > 0 && (
              <Button look="strong" onClick={() => void take()}>
                Restore {wishes.size}
              </Button>
            )}
          </p>
        </div>
      )}
    </Modal>
  );
}

/** @example datesOf(thing) // 'here of 3 Nov, 10:15, there of 1 Nov, 09:00' */
const datesOf = ({ here, there }: Looked): string =>
  here === undefined || there === undefined ? '' : `here of ${format(here, 'd MMM, HH:mm')}, there of ${format(there, 'd MMM, HH:mm')}`;
