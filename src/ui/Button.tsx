'use client';

import clsx from 'clsx';
import { Tooltip } from 'radix-ui';
import type { ButtonHTMLAttributes, ReactNode, Ref } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** plain: text on the page; quiet: outlined; strong: the one main action. */
  look?: 'plain' | 'quiet' | 'strong';
  ref?: Ref<HTMLButtonElement>;
}

const LOOKS = {
  plain: 'hover:bg-sunk',
  quiet: 'border border-strong hover:bg-sunk',
  strong: 'bg-accent text-on-accent hover:opacity-90',
};

export function Button({ look = 'quiet', className, type = 'button', ...rest }: Props) {
  return <button type={type} className={clsx('inline-flex h-8 items-center justify-center gap-1.5 rounded-md px-3 whitespace-nowrap disabled:opacity-45', LOOKS[look], className)} {...rest} />;
}

/** A button that is only a picture: its label is its name and its hint. */
export function IconButton({ label, children, className, look = 'plain', hint, ...rest }: Props & { label: string; hint?: string; children: ReactNode }) {
  return (
    <Hint text={hint ?? label}>
      <Button look={look} aria-label={label} className={clsx('!px-0 w-8', className)} {...rest}>
        {children}
      </Button>
    </Hint>
  );
}

export function Hint({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={6} className="z-50 rounded bg-ink px-2 py-1 text-sm text-ground">
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
