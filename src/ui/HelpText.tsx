'use client';

import { Popover } from 'radix-ui';
import type { RefObject } from 'react';

/** What stands behind a sign of help; loaded with the first that is asked for. */
export default function HelpText({
  name,
  text,
  sign,
  onClose,
}: {
  name: string;
  text: string;
  sign: RefObject<HTMLButtonElement | null>;
  onClose: () => void;
}) {
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={sign as RefObject<HTMLButtonElement>} />
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          aria-label={name}
          // A second click on the sign closes by itself.
          onInteractOutside={(e) => sign.current?.contains(e.target as Node) && e.preventDefault()}
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            sign.current?.focus();
          }}
          className="z-50 w-[min(320px,92vw)] rounded-md border border-strong bg-surface px-4 py-3 text-sm shadow-md"
        >
          {text}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
