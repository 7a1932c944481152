'use client';

import { format } from 'date-fns';
import { useMemo, useState } from 'react';
import { describeChanges } from '@/core/analysis/changes';
import { restoreVersion } from '@/core/commands/settings';
import { versionStore, type KeptVersion } from '@/storage/version-store';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { say, showError, tell } from '@/ui/notify';
import { useBench, useBenchStore } from '../store/context';
import { calmPart } from '../store/derived';
import { useVersions } from '../store/use-versions';

const LONGEST_NAME = 80;

/** Versions of the part: kept under a name, compared with what stands now, gone back to. */
export default function VersionsDialog() {
  const { getState } = useBenchStore();
  const id = useBench((s) => s.id);
  const part = useBench(calmPart);
  const other = useBench((s) => s.ui.other);
  const versions = useVersions(id);
  const [name, setName] = useState('');
  const close = () => getState().setUi({ dialog: null });
  const attempt = (work: Promise<unknown>) => void work.catch(showError);
  const keep = async () => {
    const called = name.trim() || `Version ${versions.length + 1}`;
    await versionStore.keep(id, { name: called, part: getState().part });
    setName('');
    say(`${called} is kept.`);
  };
  const goBack = (v: KeptVersion) => {
    getState().run(`Restore ${v.name}`, (p) => restoreVersion(p, v.part));
    close();
  };
  const compare = (v: KeptVersion) => {
    const same = other?.id === v.id;
    getState().setUi({ other: same ? null : { id: v.id, name: v.name, feel: v.part.feel, part: v.part }, dialog: null });
    if (!same) say(`Comparing with ${v.name}: its hits are drawn pale behind these. Hold Shift Q to hear it.`);
  };
  const remove = async (v: KeptVersion) => {
    const putBack = await versionStore.remove(v.id);
    if (getState().ui.other?.id === v.id) getState().setUi({ other: null });
    tell(`${v.name} is deleted.`, { label: 'Undo', onClick: () => attempt(putBack()) });
  };
  return (
    <Modal
      open
      onClose={close}
      title="Versions"
      about="A version is the whole part at one moment: hits, feel, tempo, rows. Restoring one is a single step that you can undo."
    >
      <form
        className="flex items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          attempt(keep());
        }}
      >
        <input
          aria-label="Name of the version"
          value={name}
          maxLength={LONGEST_NAME}
          placeholder={`Version ${versions.length + 1}`}
          onChange={(e) => setName(e.target.value)}
          className="min-w-0 flex-1 rounded border-b border-strong bg-transparent px-1 leading-8 placeholder:text-faint"
        />
        <Button type="submit" look="strong">
          Save version
        </Button>
      </form>
      {versions.length === 0 ? (
        <p className="mt-4 text-faint">No versions yet. Save one before you try something bold, then compare both in the same loop.</p>
      ) : (
        <ul aria-label="Kept versions" className="mt-3">
          {versions.map((v) => (
            <Line
              key={v.id}
              version={v}
              changes={part}
              compared={other?.id === v.id}
              onCompare={() => compare(v)}
              onBack={() => goBack(v)}
              onRename={(to) => attempt(versionStore.rename(v.id, to))}
              onRemove={() => attempt(remove(v))}
            />
          ))}
        </ul>
      )}
    </Modal>
  );
}

interface LineProps {
  version: KeptVersion;
  /** The part as it stands now. */
  changes: KeptVersion['part'];
  compared: boolean;
  onCompare: () => void;
  onBack: () => void;
  onRename: (name: string) => void;
  onRemove: () => void;
}

function Line({ version, changes, compared, onCompare, onBack, onRename, onRemove }: LineProps) {
  const sentence = useMemo(() => describeChanges(version.part, changes), [version, changes]);
  const [draft, setDraft] = useState<string | null>(null);
  // How the part came stays: it can always be compared with.
  const stays = version.origin === 'import';
  const take = () => {
    if (draft?.trim() && draft.trim() !== version.name) onRename(draft.trim());
    setDraft(null);
  };
  return (
    <li className="border-t border-line py-2">
      <div className="flex flex-wrap items-baseline gap-1">
        <input
          aria-label={`Name of ${version.name}`}
          value={draft ?? version.name}
          readOnly={stays}
          maxLength={LONGEST_NAME}
          onChange={(e) => setDraft(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="min-w-0 flex-1 truncate rounded bg-transparent px-1 font-serif text-base hover:bg-sunk"
        />
        <span className="mr-1 text-sm text-faint">{format(version.at, 'd MMM, HH:mm')}</span>
        <Button
          size="small"
          aria-pressed={compared}
          aria-label={compared ? `Stop comparing with ${version.name}` : `Compare with ${version.name}`}
          onClick={onCompare}
        >
          {compared ? 'Stop comparing' : 'Compare'}
        </Button>
        <Button size="small" aria-label={`Restore ${version.name}`} onClick={onBack}>
          Go back
        </Button>
        {!stays && (
          <Button size="small" aria-label={`Delete ${version.name}`} onClick={onRemove}>
            Delete
          </Button>
        )}
      </div>
      <p className="px-1 text-sm text-faint" data-testid="changes">
        Since then: {sentence}
      </p>
    </li>
  );
}
