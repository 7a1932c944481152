'use client';

import { useRef } from 'react';
import type { LibraryMark } from '@/storage/library-mark';
import { Button } from '@/ui/Button';
import { FileField } from '@/ui/FileField';
import { lossWords } from '@/ui/loss-words';

interface Props {
  lost: LibraryMark;
  onRestore: (file: File) => void;
  onDemos: () => void;
  onDismiss: () => void;
}

/** The browser threw the library away: what is gone, and what can be done about it. */
export default function LostNotice({ lost, onRestore, onDemos, onDismiss }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div role="alert" data-testid="library-lost" className="mb-4 rounded-md border border-danger px-4 py-3">
      <p className="text-danger">{lossWords(lost)}</p>
      <p className="mt-2 flex flex-wrap gap-2">
        <FileField ref={input} label="Backup to restore" onChoose={([file]) => file && onRestore(file)} />
        <Button look="strong" onClick={() => input.current?.click()}>
          Restore a backup…
        </Button>
        <Button onClick={onDemos}>Add the demo parts</Button>
        <Button onClick={onDismiss}>Dismiss</Button>
      </p>
    </div>
  );
}
