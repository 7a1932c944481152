'use client';

import { format } from 'date-fns';
import { useEffect, useRef, useState } from 'react';
import { ENTRY_KINDS, LIBRARY_ENDING } from '@/formats/library-file';
import { backupDates } from '@/storage/backup-dates';
import { Button } from '@/ui/Button';
import { deliver } from '@/ui/deliver';
import { fileNameOf } from '@/ui/download';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { Account } from './Account';
import type { Backup } from './backup';
import { backUp } from './client';
import { countWords, megabytes } from './words';

interface Props {
  /** Some parts alone, with what they need; null: everything. */
  parts: { ids: readonly string[]; name: string } | null;
  onClose: () => void;
}

/** Writes a library file, and tells what is in it. */
export default function BackupDialog({ parts, onClose }: Props) {
  const [done, setDone] = useState(0);
  const [made, setMade] = useState<{ backup: Backup; where: string } | null>(null);
  const close = useRef(onClose);
  const wanted = useRef(parts);
  useEffect(() => {
    const controller = new AbortController();
    const run = async () => {
      const some = wanted.current;
      const backup = await backUp(some?.ids ?? null, setDone, controller.signal);
      if (controller.signal.aborted) return;
      const fileName = `${some ? fileNameOf(some.name) : `nod-sway-${format(Date.now(), 'yyyy-MM-dd')}`}${LIBRARY_ENDING}`;
      const where = await deliver({ data: backup.blob, fileName, type: 'application/zip' });
      if (!some) await backupDates.done();
      setMade({ backup, where });
    };
    run().catch((e: unknown) => {
      if (controller.signal.aborted) return;
      showError(e);
      close.current();
    });
    return () => controller.abort(new Error('cancelled'));
  }, []);
  return (
    <Modal
      open
      onClose={onClose}
      unfinished={made ? null : 'The file is still being written. If you stop now, there will be no file.'}
      title={parts ? `Export ${parts.name}` : 'Backup'}
      about={
        parts
          ? 'With versions, takes and ideas, and with the sounds and recordings that they need.'
          : 'Everything you made in one file: parts with versions, takes and ideas, grooves, feels, kits with their sounds, recorded breaks, patterns, drum maps, output maps, settings.'
      }
    >
      {made ? (
        <Account name="backup-account" problems={made.backup.left} onClose={onClose}>
          <p>
            {made.where} {megabytes(made.backup.blob.size)}: {countWords(ENTRY_KINDS.map((kind) => [kind, made.backup.counts[kind] ?? 0]))}.
          </p>
          <p className="text-faint">Dropped on the Shelf of any browser, it shows what it would bring before it changes anything.</p>
          {made.backup.left.length > 0 && <p className="text-danger">Left out because it can no longer be read:</p>}
        </Account>
      ) : (
        <p role="status" className="flex items-center gap-3">
          <progress aria-label="Backup" className="flex-1 accent-accent" max={1} value={done} />
          <Button onClick={onClose}>Cancel</Button>
        </p>
      )}
    </Modal>
  );
}
