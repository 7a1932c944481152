'use client';

import { useEffect, useMemo, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { COVERS, isCovered } from '@/ui/covered';
import type { Playback } from '../playback/use-playback';
import { useRecording } from '../recording/context';
import { useAllKeys } from '../shared/features';
import { useBenchStore } from '../store/context';
import { KEYS } from './keys';
import { keyName, keyOf, keysOf, LEADER, type Context, type KeySpec } from '../shared/key-spec';

/** Things that use arrow keys themselves. */
const TAKES_ARROWS = 'input, [role=slider], [role=tab], [role=radio], [role=combobox], [role=listbox], [role=spinbutton], [role=row]';
const TAKES_ENTER = 'button, a, summary, input, [role=slider], [role=tab], [role=radio], [role=combobox], [role=switch], [role=row]';
const TYPES = 'textarea, [contenteditable=true], input:not([type=checkbox], [type=radio], [type=range], [type=file], [type=button])';
const MOVING = /^(Arrow|Page|Home$|End$)/;
/** What Space works on while it is open, whatever has the focus. */
const LISTS = '[role=listbox], [role=menu]';

/**
 * Whether a key belongs to what has the focus: letters where text is typed, everything while a dialog, menu or list is open, arrows on
 * sliders, contents and choices, Enter and Space on a control that shows the keyboard's focus ring. Space is the transport's everywhere
 * else, in dialogs too.
 */
function belongsElsewhere(e: KeyboardEvent): boolean {
  const focused = document.activeElement;
  // What a key left by itself, as a field on Enter, was still meant by it.
  const target = e.target instanceof Element ? e.target : null;
  if (target?.matches(TYPES)) return !(e.ctrlKey || e.metaKey) || !/^[ks]$/.test(e.key);
  const isPressed = e.key === ' ' || e.key === 'Enter';
  const ringed = focused !== null && focused.matches(TAKES_ENTER) && focused.matches(':focus-visible');
  if (e.key === ' ') return ringed || target?.closest(LISTS) != null || document.querySelector(LISTS) !== null;
  // A list that a key has just closed had that key.
  if (isCovered() || target?.closest(COVERS)) return true;
  if (!focused || focused === document.body) return false;
  if (MOVING.test(e.key)) return focused.matches(TAKES_ARROWS);
  return isPressed && ringed;
}

const OPTIONS = { ignoreEventWhen: belongsElsewhere, enableOnFormTags: true, enableOnContentEditable: true } as const;

/** What keeps the focus after a click: where text is typed, and what opens a list. */
const KEEPS_FOCUS = `${TYPES}, [role=combobox], [aria-haspopup]`;

/** Keys of the Bench. Platform keys do what they do everywhere; W is for "written". */
export function useKeys(playback: Playback): void {
  const specs = useAllKeys(KEYS);
  const store = useBenchStore();
  const recording = useRecording();
  const context = useMemo((): Context => ({ store, playback, recording }), [store, playback, recording]);
  /** The key that is held down. */
  const held = useRef<KeySpec | null>(null);
  useHotkeys(
    '*',
    (e) => {
      const { ui, setUi } = store.getState();
      if (ui.leading && !e.repeat) setUi({ leading: false });
      else if (keysOf(e) === LEADER && !e.repeat) return setUi({ leading: true });
      const spec = keyOf(e, specs, ui.leading);
      if (!spec?.run && !spec?.hold) return;
      if (e.repeat && spec.hold) return;
      if (spec.run) e.preventDefault();
      spec.run?.(context);
      if (!spec.hold) return;
      held.current = spec;
      spec.hold(context, true);
    },
    OPTIONS,
  );
  useEffect(() => {
    const letGo = () => {
      held.current?.hold?.(context, false);
      held.current = null;
    };
    const onUp = (e: KeyboardEvent) => {
      // Whatever else is held by now.
      if (held.current?.keys.some((key) => key.split('+').at(-1) === keyName(e.key))) letGo();
    };
    // What was clicked with a pointer gives the keys back to the stems; P leads no further.
    const giveBack = (e: MouseEvent) => {
      const { ui, setUi } = store.getState();
      if (ui.leading) setUi({ leading: false });
      const focused = document.activeElement as HTMLElement | null;
      if (
        e.detail > 0 &&
        focused?.matches('button, input, a, summary') &&
        !focused.matches(KEEPS_FOCUS) &&
        !focused.closest('[role=dialog]')
      )
        focused.blur();
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
  }, [context, store]);
}
