'use client';

import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Playback } from '../playback/use-playback';
import { shortcutOf } from './shortcuts';
import { useBenchStore } from '../store/context';
import { isCovered } from '@/ui/covered';

/** Things that use arrow keys themselves. */
const TAKES_ARROWS = '[role=slider], [role=tab], [role=radio], [role=combobox], [role=listbox], [role=spinbutton], [role=row]';
const TAKES_ENTER = 'button, a, summary, [role=slider], [role=tab], [role=radio], [role=combobox], [role=switch], [role=row]';
const MOVING = /^(Arrow|Page|Home$|End$)/;

/**
 * Whether a key belongs to what has the focus: everything while a dialog, menu or list is open, arrows on sliders, tabs and choices,
 * and Space and Enter on a button that was reached by keyboard.
 */
function belongsElsewhere(e: KeyboardEvent): boolean {
  if (isCovered()) return true;
  const focused = document.activeElement;
  if (!focused || focused === document.body) return false;
  if (MOVING.test(e.key)) return focused.matches(TAKES_ARROWS);
  return (e.key === ' ' || e.key === 'Enter') && focused.matches(TAKES_ENTER);
}

const OPTIONS = { ignoreEventWhen: belongsElsewhere, enableOnFormTags: ['slider', 'radio'] } as const;

/** Keys of the Bench, from the table in shortcuts.ts. Platform keys do what they do everywhere; W is for "written". */
export function useShortcuts(playback: Playback): void {
  const store = useBenchStore();
  useHotkeys('*', (e) => {
    const shortcut = shortcutOf(e);
    if (!shortcut) return;
    e.preventDefault();
    // Enter keeps what is being shaped; anything else starts from there.
    if (e.key === 'Enter' && store.getState().underway) return store.getState().settle();
    shortcut.run({ store, playback });
  }, OPTIONS);
  useHotkeys('w', () => playback.holdWritten(true), { ...OPTIONS, keydown: true });
  useHotkeys('q', () => playback.holdOther(true), { ...OPTIONS, keydown: true });
  useHotkeys('q', () => playback.holdOther(false), { keyup: true, keydown: false, enableOnFormTags: ['slider', 'radio'] });
  useHotkeys('w', () => playback.holdWritten(false), { keyup: true, keydown: false, enableOnFormTags: ['slider', 'radio'] });
  useEffect(() => {
    // A window that loses the keyboard never hears the key come up.
    const release = () => playback.holdWritten(false);
    // A button that was clicked with a pointer gives Space back to the transport.
    const giveBack = (e: MouseEvent) => {
      const focused = document.activeElement as HTMLElement | null;
      if (e.detail > 0 && focused?.matches('button:not([role=combobox]):not([role=tab])') && !focused.closest('[role=dialog]')) focused.blur();
    };
    window.addEventListener('blur', release);
    window.addEventListener('click', giveBack);
    return () => {
      window.removeEventListener('blur', release);
      window.removeEventListener('click', giveBack);
    };
  }, [playback]);
}
