/** How a key of the Bench is described, and which one was pressed. */
import type { Playback } from '../playback/use-playback';
import type { RecordingDevices } from '../recording/context';
import type { BenchStore } from '../store/bench-store';

export interface Context {
  store: BenchStore;
  playback: Playback;
  recording: RecordingDevices;
}

/** A key of the Bench. The sheet and whatever else tells keys are made from these. */
export interface KeySpec {
  /** As pressed, "mod" being Ctrl or Cmd, a blank between two presses: the first is shown. None for what is only found by its words. */
  keys: readonly string[];
  group: 'Hear' | 'Step cursor' | 'Select' | 'Dynamics' | 'Timing' | 'Edit' | 'Pointer and view' | 'Pages' | 'Keep';
  text: string;
  /** Words of the trade that it is searched by, beside those of its text. */
  also?: readonly string[];
  /** What the sheet shows instead of the first keys; null where another line says it. */
  shown?: string | null;
  /** What a press does. A key that is handled where it belongs has none, and stands here for the sheet. */
  run?: (context: Context) => void;
  /** What happens while it is held: called when it goes down, and when it comes up or the window loses the keyboard. */
  hold?: (context: Context, down: boolean) => void;
}

const NAMES: Readonly<Record<string, string>> = { ' ': 'space', ArrowUp: 'up', ArrowDown: 'down', ArrowLeft: 'left', ArrowRight: 'right' };

/** A key alone, as the table writes it. */
export const keyName = (key: string): string => NAMES[key] ?? key.toLowerCase();

/** A key event as the table writes it; Shift counts for letters and named keys alone, since symbols need it on some keyboards. */
export function keysOf(e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'> & { code?: string }): string {
  // Shift and a digit give a sign on most keyboards: the digit counts. Where digits need Shift they are digits.
  const digit = e.shiftKey && !/^\d$/.test(e.key) ? /^Digit(\d)$/.exec(e.code ?? '')?.[1] : undefined;
  // Where Alt writes another letter, the key counts as it is marked.
  const letter = e.altKey && !/^[a-z]$/i.test(e.key) ? /^Key([A-Z])$/.exec(e.code ?? '')?.[1]?.toLowerCase() : undefined;
  const key = digit ?? letter ?? keyName(e.key);
  const shift = e.shiftKey && (digit !== undefined || key.length > 1 || /[a-z]/.test(key));
  return `${e.ctrlKey || e.metaKey ? 'mod+' : ''}${e.altKey ? 'alt+' : ''}${shift ? 'shift+' : ''}${key}`;
}

/** The press that waits for a letter. */
export const LEADER = 'p';

/** The key that an event is of, among these; `leading` after the press that waits for a letter. */
export const keyOf = (e: KeyboardEvent, specs: readonly KeySpec[], leading = false): KeySpec | undefined => {
  const keys = leading ? `${LEADER} ${keysOf(e)}` : keysOf(e);
  return specs.find((spec) => spec.keys.includes(keys));
};
