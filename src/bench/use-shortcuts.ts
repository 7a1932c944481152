'use client';

import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { addNudge, addVelocity, removeHits } from '@/core/part/commands/hits';
import { milliseconds } from '@/core/units';
import { describeHits } from './describe';
import type { Playback } from './playback/use-playback';
import { useBenchStore } from './store/context';

/** Keys of the Bench. Platform keys do what they do everywhere; W is for "written". */
export function useShortcuts(playback: Playback): void {
  const store = useBenchStore();
  const s = () => store.getState();

  useHotkeys('space', () => playback.toggle(), { preventDefault: true });
  useHotkeys('mod+z', () => s().undo(), { preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => s().redo(), { preventDefault: true });
  useHotkeys('mod+a', () => s().select(s().part.hits.map((h) => h.id)), { preventDefault: true });
  useHotkeys('mod+d', () => s().select([]), { preventDefault: true });
  useHotkeys('delete, backspace', () => {
    const { selection, part, run, select } = s();
    if (selection.size === 0) return;
    run(`Delete ${describeHits(part, selection)}`, (p) => removeHits(p, selection));
    select([]);
  });
  const louder = (by: number) => {
    const { selection, part, run } = s();
    if (selection.size > 0) run(`Change the velocity of ${describeHits(part, selection)}`, (p) => addVelocity(p, selection, by));
  };
  useHotkeys('up', () => louder(1), { preventDefault: true });
  useHotkeys('down', () => louder(-1), { preventDefault: true });
  useHotkeys('shift+up', () => louder(10), { preventDefault: true });
  useHotkeys('shift+down', () => louder(-10), { preventDefault: true });
  const later = (ms: number) => {
    const { selection, part, run } = s();
    if (selection.size > 0) run(`Nudge ${describeHits(part, selection)}`, (p) => addNudge(p, selection, milliseconds(ms)));
  };
  useHotkeys('right', () => later(1), { preventDefault: true });
  useHotkeys('left', () => later(-1), { preventDefault: true });
  useHotkeys('shift+right', () => later(5), { preventDefault: true });
  useHotkeys('shift+left', () => later(-5), { preventDefault: true });

  useHotkeys('w', () => playback.holdWritten(true), { keydown: true });
  useHotkeys('w', () => playback.holdWritten(false), { keyup: true, keydown: false });
  useEffect(() => {
    // A window that loses the keyboard never hears the key come up.
    const release = () => playback.holdWritten(false);
    window.addEventListener('blur', release);
    return () => window.removeEventListener('blur', release);
  }, [playback]);
}
