'use client';

import { useState } from 'react';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  digits?: number;
  disabled?: boolean;
  onChange: (value: number) => void;
}

/** A number in a table's cell: typed and kept with Enter or by leaving, left with Escape. */
export function EditableNumber({ label, value, min, max, digits = 0, disabled, onChange }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const take = () => {
    const typed = draft?.replace(',', '.').trim();
    setDraft(null);
    if (!typed || !Number.isFinite(Number(typed))) return;
    const scale = 10 ** digits;
    const next = Math.min(max, Math.max(min, Math.round(Number(typed) * scale) / scale));
    if (next !== value) onChange(next);
  };
  return (
    <input
      aria-label={label}
      inputMode="decimal"
      disabled={disabled}
      value={draft ?? value.toFixed(digits)}
      className="w-14 rounded border-b border-line bg-transparent px-1 text-right focus:bg-ground disabled:border-transparent"
      onClick={(e) => e.stopPropagation()}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') {
          setDraft(null);
          e.stopPropagation();
        }
      }}
    />
  );
}
