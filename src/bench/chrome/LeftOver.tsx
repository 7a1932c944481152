'use client';

import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { unchosenStore, type Unchosen } from '@/storage/unchosen-store';
import { Button } from '@/ui/Button';
import { useBenchStore } from '../store/context';

const TwoTabsDialog = dynamic(() => import('@/ui/TwoTabsDialog'), { ssr: false });

/** A tab was closed before one of two states of the part was chosen: the choice is offered again. Null where there is none. */
export function useLeftOver(): Unchosen | null {
  const { getState } = useBenchStore();
  const { id } = getState();
  const [left, setLeft] = useState<Unchosen | null>(null);
  useEffect(() => {
    let current = true;
    const look = () => {
      unchosenStore.left(id).then(([first]) => current && setLeft(first ?? null), console.error);
    };
    look();
    listeners.add(look);
    return () => {
      current = false;
      listeners.delete(look);
    };
  }, [id]);
  return left;
}

const listeners = new Set<() => void>();

export function LeftOver({ left }: { left: Unchosen }) {
  const { getState } = useBenchStore();
  const { id } = getState();
  const [seeing, setSeeing] = useState(false);
  const close = () => {
    setSeeing(false);
    for (const look of listeners) look();
  };
  const takeOf = async (which: 'mine' | 'theirs') => {
    if (which === 'mine') getState().run('Use the closed tab’s version', () => left.part);
    await unchosenStore.settle(left.id, which === 'theirs');
  };
  return (
    <>
      <Button look="strong" size="small" onClick={() => setSeeing(true)}>
        See both
      </Button>
      {seeing && (
        <TwoTabsDialog
          isClosed
          partId={id}
          own={id}
          here={() => ({ mine: left.part, steps: left.steps, common: Number.MAX_SAFE_INTEGER - 1 })}
          takeOf={takeOf}
          onClose={close}
        />
      )}
    </>
  );
}
