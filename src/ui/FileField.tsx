'use client';

import type { Ref } from 'react';

interface Props {
  label: string;
  ref: Ref<HTMLInputElement>;
  /** A folder with all that is in it, instead of files. */
  folder?: boolean;
  onChoose: (files: readonly File[]) => void;
}

/** A field for several files that a button stands for: it is pressed through its ref. */
export function FileField({ label, ref, folder = false, onChoose }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      multiple
      className="sr-only"
      tabIndex={-1}
      aria-label={label}
      onChange={(e) => {
        const chosen = [...(e.target.files ?? [])];
        // Emptied, the same files may be chosen again.
        e.target.value = '';
        if (chosen.length > 0) onChoose(chosen);
      }}
      {...(folder ? { webkitdirectory: '' } : {})}
    />
  );
}
