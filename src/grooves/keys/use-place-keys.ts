'use client';

import { useHotkeys } from 'react-hotkeys-hook';
import { isCovered } from '@/ui/covered';
import { removeGroove } from '../store/remove-groove';
import type { GroovesStoreApi } from '../store/grooves-store';
import type { Hearing } from '../store/use-hearing';

const TAKES_PRESSES = 'button, a, input, [role=tab], [role=combobox]';

/** Everything belongs to an open dialog or list; Space and Enter belong to what was reached by keyboard. */
function belongsElsewhere(e: KeyboardEvent): boolean {
  if (isCovered()) return true;
  const focused = document.activeElement;
  return (e.key === ' ' || e.key === 'Enter') && focused !== null && focused.matches(TAKES_PRESSES) && focused.matches(':focus-visible');
}

const ANYWHERE = { ignoreEventWhen: belongsElsewhere, enableOnFormTags: ['slider'], preventDefault: true } as const;
/** On a step's stem Delete belongs to the step. */
const NOT_ON_STEMS = { ignoreEventWhen: belongsElsewhere } as const;

/** Keys of the Grooves place: those of every program, and W for hearing it without the groove. */
export function usePlaceKeys(store: GroovesStoreApi, hearing: Hearing): void {
  useHotkeys('space', hearing.toggle, ANYWHERE);
  useHotkeys('mod+z', () => store.getState().undo(), ANYWHERE);
  useHotkeys('mod+shift+z, mod+y', () => store.getState().redo(), ANYWHERE);
  useHotkeys('escape', () => store.getState().putBack(), ANYWHERE);
  useHotkeys('delete', () => removeGroove(store, store.getState().chosen), NOT_ON_STEMS);
  useHotkeys('w', () => hearing.holdPlain(true), ANYWHERE);
  useHotkeys('w', () => hearing.holdPlain(false), { keyup: true, keydown: false, enableOnFormTags: ['slider'] });
}
