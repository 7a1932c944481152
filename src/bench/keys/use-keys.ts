'use client';

import { useEffect, useMemo, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { isCovered } from '@/ui/covered';
import type { Playback } from '../playback/use-playback';
import { useRecording } from '../recording/context';
import { useBenchStore } from '../store/context';
import { keyName, keyOf, KEYS, type Context, type KeySpec } from './keys';

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

/** Keys of the Bench. Platform keys do what they do everywhere; W is for "written". */
export function useKeys(playback: Playback, specs: readonly KeySpec[] = KEYS): void {
  const store = useBenchStore();
  const recording = useRecording();
  const context = useMemo((): Context => ({ store, playback, recording }), [store, playback, recording]);
  /** The key that is held down. */
  const held = useRef<KeySpec | null>(null);
  useHotkeys('*', (e) => {
    const spec = keyOf(e, specs);
    if (!spec?.run && !spec?.hold) return;
    if (e.repeat && spec.hold) return;
    if (spec.run) e.preventDefault();
    spec.run?.(context);
    if (!spec.hold) return;
    held.current = spec;
    spec.hold(context, true);
  }, OPTIONS);
  useEffect(() => {
    const letGo = () => {
      held.current?.hold?.(context, false);
      held.current = null;
    };
    const onUp = (e: KeyboardEvent) => {
      // Whatever else is held by now.
      if (held.current?.keys.includes(keyName(e.key))) letGo();
    };
    // A button that was clicked with a pointer gives Space back to the transport.
    const giveBack = (e: MouseEvent) => {
      const focused = document.activeElement as HTMLElement | null;
      if (e.detail > 0 && focused?.matches('button:not([role=combobox]):not([role=tab])') && !focused.closest('[role=dialog]')) focused.blur();
    };
    window.addEventListener('keyup', onUp);
    // A window that loses the keyboard never hears the key come up.
    window.addEventListener('blur', letGo);
    window.addEventListener('click', giveBack);
    return () => {
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', letGo);
      window.removeEventListener('click', giveBack);
    };
  }, [context]);
}
