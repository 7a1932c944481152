'use client';

import { useEffect } from 'react';
import { say, showError } from '@/ui/notify';

/** A file that is dropped on an open part never leads away from it: ours go where they belong, MIDI waits for the Shelf. */
export function useFileDrop(): void {
  useEffect(() => {
    const hasFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files') === true;
    const onOver = (e: DragEvent) => hasFiles(e) && e.preventDefault();
    const onDrop = (e: DragEvent) => {
      if (!hasFiles(e)) return;
      e.preventDefault();
      const file = e.dataTransfer?.files[0];
      if (!file) return;
      if (!/\.json$/i.test(file.name)) return say(`${file.name} was not opened, so that this part stays in front of you. Dropped on the Shelf it becomes a part of its own.`);
      // What reads files comes with the first of them.
      Promise.all([file.text(), import('@/storage/bring-in')])
        .then(async ([text, { bringIn, broughtWords }]) => say(broughtWords(await bringIn(text, file.name))))
        .catch(showError);
    };
    window.addEventListener('dragover', onOver);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('drop', onDrop);
    };
  }, []);
}
