'use client';

import type { ReactNode } from 'react';
import { Button } from '@/ui/Button';

interface Props {
  /** What tests know it by. */
  name: string;
  /** What did not go, each with the reason. */
  problems: readonly { name: string; why: string }[];
  onClose: () => void;
  children: ReactNode;
}

/** What came of a backup or a restore, and of what nothing came. */
export function Account({ name, problems, onClose, children }: Props) {
  return (
    <div data-testid={name} className="space-y-2">
      {children}
      {problems.length > 0 && (
        <ul role="alert" className="text-sm text-danger">
          {problems.map((p, i) => (
            <li key={i}>
              {p.name}: {p.why}
            </li>
          ))}
        </ul>
      )}
      <p className="flex justify-end pt-2">
        <Button look="strong" autoFocus onClick={onClose}>
          Close
        </Button>
      </p>
    </div>
  );
}
