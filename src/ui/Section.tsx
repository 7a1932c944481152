'use client';

import { ChevronDown } from 'lucide-react';
import { Accordion } from 'radix-ui';
import type { ReactNode } from 'react';

/** Sections of a side page that open and close by their headings. */
export function Sections({ open, children }: { open: string[]; children: ReactNode }) {
  return (
    <Accordion.Root type="multiple" defaultValue={open} className="divide-y divide-line border-y border-line">
      {children}
    </Accordion.Root>
  );
}

export function Section({ name, title, note, children }: { name: string; title: string; note?: string; children: ReactNode }) {
  return (
    <Accordion.Item value={name}>
      <Accordion.Header>
        <Accordion.Trigger className="group flex w-full items-baseline gap-2 py-2 text-left">
          <span className="font-serif text-base">{title}</span>
          <span className="min-w-0 flex-1 truncate text-right text-sm text-faint">{note}</span>
          <ChevronDown size={15} className="self-center text-faint transition-transform group-data-[state=open]:rotate-180" />
        </Accordion.Trigger>
      </Accordion.Header>
      <Accordion.Content className="pb-4">{children}</Accordion.Content>
    </Accordion.Item>
  );
}
