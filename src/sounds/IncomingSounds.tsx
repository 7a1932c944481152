'use client';

import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { DraftSounds } from './DraftSounds';
import { incoming, keepCorrected, keepDraft, leaveIncoming, type Incoming, type Kept } from './incoming';
import { forgetTried } from './own';

/** What comes in of the user's own sounds: how far it is, then what was guessed, to be corrected and kept. */
export function IncomingSounds({ onTaken, usedAs = 'keep' }: { onTaken: (kept: Kept) => void; usedAs?: 'keep' | 'play' }) {
  const now = useStore(incoming, (s) => s.now);
  useEffect(() => (now === null ? undefined : forgetTried), [now]);
  if (!now) return null;
  return now.phase === 'reading' ? <Reading now={now} /> : <Correcting now={now} onTaken={onTaken} usedAs={usedAs} />;
}

/** What is read sooner needs no window. */
const SOON_MS = 250;

function Reading({ now: { done, files } }: { now: Extract<Incoming, { phase: 'reading' }> }) {
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), SOON_MS);
    return () => clearTimeout(timer);
  }, []);
  if (!isLong) return null;
  return (
    <Modal
      open
      onClose={leaveIncoming}
      title="Reading sounds"
      about={files > 1 ? `${files} files. Nothing is saved until you confirm.` : 'Nothing is saved until you confirm.'}
    >
      <div className="flex items-center gap-3">
        <progress aria-label="Reading" className="flex-1 accent-accent" max={1} value={done} />
        <Button onClick={leaveIncoming}>Cancel</Button>
      </div>
    </Modal>
  );
}

/** So many refused files are named. */
const MOST_NAMED = 6;

function Correcting({
  now,
  onTaken,
  usedAs,
}: {
  now: Extract<Incoming, { phase: 'draft' }>;
  onTaken: (kept: Kept) => void;
  usedAs: 'keep' | 'play';
}) {
  const { draft, target, report, isKept } = now;
  const change = (next: typeof draft) => incoming.setState({ now: { ...now, draft: next } });
  const used = draft.sounds.filter((s) => s.voice !== null).length;
  const isKit = target === null && (!isKept || draft.kit !== undefined);
  const keep = async () => {
    try {
      if (isKept) await keepCorrected(draft);
      else onTaken(await keepDraft(draft, target));
      leaveIncoming();
    } catch (e) {
      showError(e);
    }
  };
  const title = target ? `A sound for ${target.label}` : isKept ? draft.name : 'Your own kit';
  const word = isKept
    ? 'Save changes'
    : target
      ? `Play ${target.label} with it`
      : usedAs === 'play'
        ? 'Save the kit and use it'
        : 'Save the kit';
  return (
    <Modal
      open
      wide
      onClose={leaveIncoming}
      title={title}
      about={
        isKept
          ? 'What plays which velocities, and which voice it is for.'
          : 'Layers and takes are guessed from names and levels: listen, and correct what is wrong.'
      }
    >
      <form
        className="space-y-4"
        onSubmit={(e) => {
          e.preventDefault();
          void keep();
        }}
      >
        {isKit && (
          <label className="flex items-baseline gap-2">
            Called{' '}
            <input
              value={draft.name}
              maxLength={120}
              aria-label="Name of the kit"
              className="w-72 rounded border border-strong bg-surface px-2 leading-8"
              onChange={(e) => change({ ...draft, name: e.target.value })}
            />
          </label>
        )}
        <Report report={report} />
        <DraftSounds draft={draft} forRow={target !== null} onChange={change} />
        <div className="flex justify-end gap-2">
          <Button onClick={leaveIncoming}>Cancel</Button>
          <Button look="strong" type="submit" disabled={used === 0 || draft.name.trim() === ''}>
            {word}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** What of the files is not used, and why. */
function Report({ report: { refused, leftOut, notes } }: Pick<Extract<Incoming, { phase: 'draft' }>, 'report'>) {
  if (refused.length + leftOut + notes.length === 0) return null;
  return (
    <div role="status" className="rounded-md border border-strong px-3 py-2 text-sm">
      {refused.slice(0, MOST_NAMED).map(({ path, error }) => (
        <p key={path}>
          {path}: {error.message}
        </p>
      ))}
      {refused.length > MOST_NAMED && <p>{refused.length - MOST_NAMED} more were not read.</p>}
      {notes.slice(0, MOST_NAMED).map((note) => (
        <p key={note}>{note}.</p>
      ))}
      {notes.length > MOST_NAMED && <p>{notes.length - MOST_NAMED} more notes of this kind.</p>}
      {leftOut > 0 && <p>{leftOut === 1 ? 'One other file is not audio.' : `${leftOut} other files are not audio.`}</p>}
    </div>
  );
}
