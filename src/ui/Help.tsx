'use client';

import clsx from 'clsx';
import { CircleHelp } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** A sign behind which a question is answered, where it comes up. */
export function Help({ about, text, className }: { about: string; text: ReactNode; className?: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger aria-label={`About ${about}`} title={`About ${about}`} className={clsx('flex size-7 items-center justify-center rounded-full text-faint hover:bg-sunk hover:text-ink pointer-coarse:size-9', className)}>
        <CircleHelp size={16} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={4} collisionPadding={8} aria-label={`About ${about}`} className="z-50 w-[min(320px,92vw)] rounded-md border border-strong bg-surface px-4 py-3 text-sm shadow-md">
          {text}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
