'use client';

import type { ReactNode } from 'react';
import { Button, Hint } from './Button';

interface Props {
  hint: string;
  held?: boolean;
  /** Told when it is pressed and when it is let go, wherever the pointer is by then. */
  onHold: (on: boolean) => void;
  children: ReactNode;
}

/** A button that does something for as long as it is held. */
export function HoldButton({ hint, held, onHold, children }: Props) {
  return (
    <Hint text={hint}>
      <Button
        aria-pressed={held}
        className={held ? 'bg-ink !text-ground' : 'active:bg-ink active:!text-ground'}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          onHold(true);
        }}
        onPointerUp={() => onHold(false)}
        onPointerCancel={() => onHold(false)}
      >
        {children}
      </Button>
    </Hint>
  );
}
