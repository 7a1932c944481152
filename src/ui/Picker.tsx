'use client';

import clsx from 'clsx';
import { Check } from 'lucide-react';
import { Select } from 'radix-ui';
import type { KeyboardEvent } from 'react';

interface Props {
  label: string;
  value: string;
  choices: readonly { value: string; text: string }[];
  onChange: (value: string) => void;
  /** Shown while nothing is chosen: for a choice that is an action. */
  placeholder?: string;
  className?: string;
}

/** A letter on a closed list is a shortcut of the page: it must not change the choice beside that. Open lists are searched by letters. */
function leaveLetters(e: KeyboardEvent) {
  if (e.key.length === 1 && e.key !== ' ' && !e.ctrlKey && !e.metaKey) e.preventDefault();
}

/** A word in a sentence that can be changed in place. */
export function Picker({ label, value, choices, onChange, placeholder, className }: Props) {
  return (
    <Select.Root value={value} onValueChange={onChange}>
      <Select.Trigger
        aria-label={label}
        onKeyDown={leaveLetters}
        className={clsx('rounded border-b border-strong pr-px pl-1 leading-6 text-ink hover:bg-sunk', className)}
      >
        <Select.Value placeholder={placeholder}>{choices.find((c) => c.value === value)?.text ?? (value || placeholder)}</Select.Value>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-50 max-h-72 overflow-auto rounded-md border border-strong bg-surface py-1 shadow-md"
        >
          <Select.Viewport>
            {choices.map((c) => (
              <Select.Item
                key={c.value}
                value={c.value}
                className="flex cursor-default items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-sunk"
              >
                <span className="w-4">
                  <Select.ItemIndicator>
                    <Check size={14} />
                  </Select.ItemIndicator>
                </span>
                <Select.ItemText>{c.text}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
