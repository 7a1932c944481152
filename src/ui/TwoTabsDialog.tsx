'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { describeChanges } from '@/core/analysis/changes';
import { fromZero } from '@/core/commands/excerpt';
import { shortName } from '@/core/limits';
import type { Part } from '@/core/model/part';
import { partStore } from '@/storage/part-store';
import { summarize } from '@/storage/summary';
import { versionStore } from '@/storage/version-store';
import { Button } from './Button';
import { Modal } from './Modal';
import { say, showError } from './notify';
import { TinyStems } from './TinyStems';

/** How what both changed stands in this tab. */
export interface ThisTab {
  mine: Part;
  /** Labels of the steps that are not in the store. */
  steps: readonly string[];
  /** Number of the last edit that both have. */
  common: number;
}

interface Props {
  partId: string;
  /** The part itself, or an idea of it. */
  own: string;
  here: () => ThisTab | null;
  /** Goes on from what the store holds, or puts what stands here on top of it as one step. */
  takeOf: (which: 'mine' | 'theirs') => Promise<void>;
  onClose: () => void;
  /** The other tab closed before the user chose; its changes are already saved as a version. */
  isClosed?: boolean;
}

/** The same as the two tabs have it. */
interface Both {
  mine: Part;
  theirs: Part;
  mySteps: readonly string[];
  theirSteps: readonly string[];
}

async function readBoth(own: string, hereNow: () => ThisTab | null): Promise<Both | null> {
  const { part: theirs, head } = await partStore.load(own);
  const here = hereNow();
  if (!here) return null;
  const steps = await partStore.editsFrom(own, here.common + 1, head).catch(() => []);
  return { mine: here.mine, theirs, mySteps: here.steps, theirSteps: steps.map((e) => e.label) };
}

/** Saves the side that was not chosen: a part's as a version, an idea's as a new part. */
async function keepAside(partId: string, own: string, part: Part, name: string): Promise<string> {
  if (own === partId) {
    await versionStore.keep(partId, { name, part });
    return `It is kept as the version “${name}”.`;
  }
  const called = shortName(`${part.name}, ${name}`);
  await partStore.create({ ...fromZero(part), name: called });
  return `It is on the Shelf as “${called}”.`;
}

/** Shows both sides of a part that two tabs changed: the user continues with one, and the other is saved. */
export default function TwoTabsDialog({ partId, own, here, takeOf, onClose, isClosed = false }: Props) {
  const [both, setBoth] = useState<Both | null>(null);
  const reading = useRef(here);
  useEffect(() => {
    let current = true;
    readBoth(own, reading.current).then((found) => current && setBoth(found), showError);
    return () => {
      current = false;
    };
  }, [own]);
  const difference = useMemo(() => (both ? describeChanges(both.theirs, both.mine) : ''), [both]);

  const take = async (which: 'mine' | 'theirs') => {
    if (!both) return;
    // Kept first: nothing goes before its copy is there.
    const where =
      which === 'mine'
        ? await keepAside(partId, own, (await partStore.load(own)).part, isClosed ? 'As saved' : 'From the other tab')
        : isClosed
          ? 'The closed tab’s changes are saved as a version.'
          : await keepAside(partId, own, here()?.mine ?? both.mine, 'From this tab');
    await takeOf(which);
    onClose();
    say(
      isClosed
        ? where
        : `${which === 'mine' ? 'This tab’s version is in use; undo switches to the other.' : 'The other tab’s version is in use.'} ${where}`,
    );
  };
  const copy = async () => {
    if (!both) return;
    const mine = here()?.mine ?? both.mine;
    const song = own === partId ? await partStore.song(partId) : undefined;
    const name = shortName(`${mine.name} (from another tab)`);
    await partStore.create({ ...(own === partId ? mine : fromZero(mine)), name }, song ? { song } : {});
    await takeOf('theirs');
    onClose();
    say(`This tab’s version is on the Shelf as “${name}”. The other tab’s version is in use here.`);
  };
  return (
    <Modal
      open
      onClose={onClose}
      title="Changed in two tabs"
      about={
        isClosed
          ? 'Two tabs changed this part, and one closed before you chose. Choose a version; the other is saved.'
          : 'This tab and another changed the same part. Choose a version; the other is saved.'
      }
    >
      {both === null ? (
        <p className="text-faint" role="status">
          Reading both …
        </p>
      ) : (
        <>
          <div className="grid grid-cols-2 gap-4">
            <Side title={isClosed ? 'The closed tab' : 'This tab'} part={both.mine} steps={both.mySteps} />
            <Side title={isClosed ? 'As saved' : 'The other tab'} part={both.theirs} steps={both.theirSteps} />
          </div>
          <p className="mt-3 text-sm text-faint" data-testid="both-differ">
            {isClosed ? 'What the closed tab changed' : 'From the other tab’s to this one’s'}: {difference}
          </p>
          <div className="mt-4 flex flex-wrap justify-end gap-2">
            {!isClosed && (
              <Button className="mr-auto" onClick={() => void copy().catch(showError)}>
                Save this tab’s version as a new part
              </Button>
            )}
            <Button onClick={() => void take('mine').catch(showError)}>
              {isClosed ? 'Use the closed tab’s version' : 'Use this tab’s version'}
            </Button>
            <Button onClick={() => void take('theirs').catch(showError)}>{isClosed ? 'Keep the saved version' : 'Use the other'}</Button>
          </div>
        </>
      )}
    </Modal>
  );
}

const MOST_STEPS = 5;

function Side({ title, part, steps }: { title: string; part: Part; steps: readonly string[] }) {
  const summary = useMemo(() => summarize(part), [part]);
  const shown = steps.slice(-MOST_STEPS);
  return (
    <section aria-label={title}>
      <h3 className="font-serif text-lg">{title}</h3>
      <TinyStems summary={summary} />
      <p className="mt-1 text-sm text-faint">
        {summary.hits} hits, {summary.tempo} BPM.{' '}
        {steps.length > shown.length
          ? `The last ${shown.length} of ${steps.length} steps:`
          : steps.length === 1
            ? 'One step:'
            : `${steps.length} steps:`}
      </p>
      <ul className="text-sm">
        {shown.map((label, i) => (
          <li key={i}>{label}</li>
        ))}
      </ul>
    </section>
  );
}
