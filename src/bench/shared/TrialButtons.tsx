'use client';

import { Button } from '@/ui/Button';
import type { Trial } from '../store/use-sweep';

/** Keeps what is tried out, or puts it back, beside the control that began it; above the hits the same can be done. */
export function TrialButtons({ trial, className }: { trial: Trial; className?: string }) {
  if (!trial.active) return null;
  return (
    <span className={`inline-flex gap-1 ${className ?? ''}`}>
      <Button look="strong" size="small" onClick={trial.done}>
        Apply
      </Button>
      <Button size="small" onClick={trial.cancel}>
        Cancel
      </Button>
    </span>
  );
}
