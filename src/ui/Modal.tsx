'use client';

import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Button } from './Button';

interface Props {
  open: boolean;
  onClose: () => void;
  title: string;
  about?: string;
  wide?: boolean;
  /** Says what closing would stop. While it is set, closing asks first. */
  unfinished?: string | null | undefined;
  /** Something within takes Escape for itself. */
  keepsEscape?: boolean;
  children: ReactNode;
}

export function Modal({ open, onClose, title, about, wide = false, keepsEscape = false, unfinished = null, children }: Props) {
  const [asking, setAsking] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && (unfinished ? setAsking(true) : onClose())}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          onEscapeKeyDown={(e) => keepsEscape && e.preventDefault()}
          aria-describedby={about ? undefined : ''}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[86vh] ${wide ? 'w-[min(1060px,94vw)]' : 'w-[min(560px,92vw)]'} -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-lg border border-strong bg-surface p-6 shadow-lg`}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Dialog.Title className="font-serif text-xl">{title}</Dialog.Title>
              {about && <Dialog.Description className="mt-1 text-faint">{about}</Dialog.Description>}
            </div>
            <Dialog.Close asChild>
              <Button look="plain" aria-label="Close" className="w-8 !px-0">
                <X size={18} />
              </Button>
            </Dialog.Close>
          </div>
          {children}
          {unfinished && asking && (
            <div
              role="alertdialog"
              aria-label="Still running"
              className="mt-4 flex flex-wrap items-center gap-2 rounded-md border border-danger p-3"
            >
              <p className="mr-auto">{unfinished}</p>
              <Button autoFocus onClick={() => setAsking(false)}>
                Keep going
              </Button>
              <Button look="danger" onClick={onClose}>
                Stop
              </Button>
            </div>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
