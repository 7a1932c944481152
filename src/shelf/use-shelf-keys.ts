import { useEffect, useRef } from 'react';
import type { PartRow } from '@/storage/database';
import { audition, endAudition, hearPart } from './audition';
import { chooseAll, chooseNone, chosenParts } from './chosen';

/** Keys of the Shelf as a whole: hear and stop, choose all, choose none. They leave fields and dialogs alone. */
export function useShelfKeys(shown: readonly PartRow[]): void {
  const seen = useRef(shown);
  useEffect(() => {
    seen.current = shown;
  }, [shown]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const target = e.target instanceof HTMLElement ? e.target : null;
      if (
        e.defaultPrevented ||
        target?.closest('[role=dialog], [role=menu], [role=listbox]') ||
        (target instanceof HTMLInputElement && target.type !== 'checkbox')
      )
        return;
      if (e.key === 'Escape' && chosenParts.getState().ids.size > 0) chooseNone();
      else if (e.key.toLowerCase() === 'a' && (e.ctrlKey || e.metaKey) && !e.shiftKey) chooseAll(seen.current.map((row) => row.id));
      else if (e.key === ' ' && target?.closest('button, input, [role=combobox]') === null) {
        const card = target.closest('[data-part]');
        const id = card instanceof HTMLElement ? card.dataset.part : undefined;
        if (id !== undefined) void hearPart(id);
        else if (audition.getState().id !== null) void endAudition();
        else return;
      } else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
