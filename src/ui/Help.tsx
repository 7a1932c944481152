'use client';

import clsx from 'clsx';
import { CircleHelp } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useRef, useState } from 'react';

const HelpText = dynamic(() => import('./HelpText'), { ssr: false });

/** A sign behind which a question is answered, where it comes up. */
export function Help({ about, text, className }: { about: string; text: string; className?: string }) {
  const sign = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const name = `About ${about}`;
  return (
    <>
      <button
        ref={sign}
        type="button"
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={name}
        title={name}
        onClick={() => setOpen(!open)}
        className={clsx(
          'flex size-7 items-center justify-center rounded-full text-faint hover:bg-sunk hover:text-ink pointer-coarse:size-9',
          className,
        )}
      >
        <CircleHelp size={16} />
      </button>
      {open && <HelpText name={name} text={text} sign={sign} onClose={() => setOpen(false)} />}
    </>
  );
}
