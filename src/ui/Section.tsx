'use client';

import { ChevronDown } from 'lucide-react';
import { Accordion } from 'radix-ui';
import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react';

interface Open {
  open: readonly string[];
  set: (open: string[]) => void;
  /** The section that the keyboard is led to; another number is another time. */
  goTo?: { section: string; n: number } | null;
}

const OpenContext = createContext<Open | null>(null);

/** Who remembers which sections of a page are open. */
export const OpenSections = OpenContext.Provider;

/** Sections of a side page that open and close by their headings. */
export function Sections({ children }: { children: ReactNode }) {
  const remembered = useContext(OpenContext);
  if (!remembered) throw new Error('sections need somebody who remembers which are open');
  return (
    <Accordion.Root
      type="multiple"
      value={[...remembered.open]}
      onValueChange={remembered.set}
      className="divide-y divide-line border-y border-line"
    >
      {children}
    </Accordion.Root>
  );
}

export function Section({ name, title, note, children }: { name: string; title: string; note?: string; children: ReactNode }) {
  const goTo = useContext(OpenContext)?.goTo;
  const wanted = goTo?.section === name ? goTo.n : null;
  const heading = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (wanted === null) return;
    heading.current?.focus();
    heading.current?.scrollIntoView({ block: 'start' });
  }, [wanted]);
  return (
    <Accordion.Item value={name}>
      <Accordion.Header>
        <Accordion.Trigger ref={heading} className="group flex w-full items-baseline gap-2 py-2 text-left">
          <span className="font-serif text-base">{title}</span>
          <span className="min-w-0 flex-1 truncate text-right text-sm text-faint">{note}</span>
          <ChevronDown size={15} className="self-center text-faint transition-transform group-data-[state=open]:rotate-180" />
        </Accordion.Trigger>
      </Accordion.Header>
      <Accordion.Content className="pb-4">{children}</Accordion.Content>
    </Accordion.Item>
  );
}
