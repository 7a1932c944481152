'use client';

import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { addNudge, addVelocity, removeHits } from '@/core/part/commands/hits';
import { milliseconds } from '@/core/units';
import { describeHits } from './describe';
import type { Playback } from './playback/use-playback';
import { useBenchStore } from './store/context';

/** Things that use arrow keys themselves. */
const TAKES_ARROWS = '[role=slider], [role=tab], [role=radio], [role=combobox], [role=listbox], [role=spinbutton]';

/**
 * Whether a key belongs to what has the focus: everything while a dialog or list is open, arrows on sliders, tabs and choices, and
 * Space and Enter on a button that was reached by keyboard.
 */
function belongsElsewhere(e: KeyboardEvent): boolean {
  if (document.querySelector('[role=dialog], [role=listbox]')) return true;
  const focused = document.activeElement;
  if (!focused || focused === document.body) return false;
  if (e.key.startsWith('Arrow')) return focused.matches(TAKES_ARROWS);
  return (e.key === ' ' || e.key === 'Enter') && focused.matches('button, a, [role=slider], [role=tab], [role=radio], [role=combobox], [role=switch]');
}

/** Keys of the Bench. Platform keys do what they do everywhere; W is for "written". */
export function useShortcuts(playback: Playback): void {
  const store = useBenchStore();
  const s = () => store.getState();
  const plain = { preventDefault: true, ignoreEventWhen: belongsElsewhere, enableOnFormTags: ['slider', 'radio'] } as const;

  useHotkeys('space', () => playback.toggle(), plain);
  useHotkeys('mod+z', () => s().undo(), plain);
  useHotkeys('mod+shift+z, mod+y', () => s().redo(), plain);
  useHotkeys('mod+a', () => s().select(s().part.hits.map((h) => h.id)), plain);
  useHotkeys('mod+d', () => s().select([]), plain);
  useHotkeys('delete, backspace', () => {
    const { selection, part, run, select } = s();
    if (selection.size === 0) return;
    run(`Delete ${describeHits(part, selection)}`, (p) => removeHits(p, selection));
    select([]);
  }, plain);
  const louder = (by: number) => {
    const { selection, part, run } = s();
    if (selection.size > 0) run(`Change the velocity of ${describeHits(part, selection)}`, (p) => addVelocity(p, selection, by));
  };
  useHotkeys('up', () => louder(1), plain);
  useHotkeys('down', () => louder(-1), plain);
  useHotkeys('shift+up', () => louder(10), plain);
  useHotkeys('shift+down', () => louder(-10), plain);
  const later = (ms: number) => {
    const { selection, part, run } = s();
    if (selection.size > 0) run(`Nudge ${describeHits(part, selection)}`, (p) => addNudge(p, selection, milliseconds(ms)));
  };
  useHotkeys('right', () => later(1), plain);
  useHotkeys('left', () => later(-1), plain);
  useHotkeys('shift+right', () => later(5), plain);
  useHotkeys('shift+left', () => later(-5), plain);

  useHotkeys('w', () => playback.holdWritten(true), { keydown: true, ignoreEventWhen: belongsElsewhere, enableOnFormTags: ['slider', 'radio'] });
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
