'use client';

import clsx from 'clsx';
import { Tooltip } from 'radix-ui';
import type { ButtonHTMLAttributes, ReactNode, Ref } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** plain: text on the page; quiet: outlined; strong: the one main action; danger: something goes. */
  look?: 'plain' | 'quiet' | 'strong' | 'danger';
  size?: keyof typeof SIZES;
  ref?: Ref<HTMLButtonElement>;
}

const LOOKS = {
  plain: 'hover:bg-sunk',
  quiet: 'border border-strong hover:bg-sunk',
  strong: 'bg-accent text-on-accent hover:opacity-90',
  danger: 'border border-danger text-danger hover:bg-sunk',
};

const SIZES = { tiny: 'h-6 text-sm', small: 'h-7 text-sm', normal: 'h-8', large: 'h-10' };
/** Room at the sides of words; pictures are as wide as they are high. */
const SIDES = { tiny: 'px-1.5', small: 'px-2', normal: 'px-3', large: 'px-3' };
const WIDTHS = { tiny: 'w-6', small: 'w-7', normal: 'w-8', large: 'w-10' };

/** A word beside a picture stands on the line of the words around. */
const WIDE = 'items-baseline px-1 py-1 -my-1 text-sm [&>svg]:self-center';

const BASE = 'inline-flex justify-center gap-1.5 rounded-md whitespace-nowrap disabled:opacity-45';

export function Button({ look = 'quiet', size = 'normal', className, type = 'button', ...rest }: Props) {
  return <button type={type} className={clsx(BASE, 'items-center', SIZES[size], SIDES[size], LOOKS[look], className)} {...rest} />;
}

/** A button that is a picture: its label is its name and its hint. `wide`: with a word beside the picture. */
export function IconButton({
  label,
  hint,
  wide = false,
  look = 'plain',
  size = 'normal',
  className,
  type = 'button',
  ...rest
}: Props & { label: string; hint?: string; wide?: boolean; children: ReactNode }) {
  return (
    <Hint text={hint ?? label}>
      <button
        type={type}
        aria-label={label}
        className={clsx(BASE, wide ? WIDE : ['items-center', SIZES[size], WIDTHS[size]], LOOKS[look], className)}
        {...rest}
      />
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
