/** Shorter presses are taps. */
export const TAP_MS = 250;

/**
 * A key that shows something while it is held, and lets it stay when it is only tapped; the next press takes it away.
 * @param set told what it is to be
 * @example const key = tapOrHold(set); key(true, 0); key(false, 100) // it stays on: set(true) alone was told
 */
export function tapOrHold(set: (on: boolean) => void): (down: boolean, at: number) => void {
  let state: { kind: 'off' } | { kind: 'pressed'; at: number } | { kind: 'stays' } | { kind: 'leaving' } = { kind: 'off' };
  return (down, at) => {
    if (down && state.kind === 'off') {
      state = { kind: 'pressed', at };
      set(true);
    } else if (down && state.kind === 'stays') state = { kind: 'leaving' };
    else if (!down && state.kind === 'pressed' && at - state.at < TAP_MS) state = { kind: 'stays' };
    else if (!down && state.kind !== 'off' && state.kind !== 'stays') {
      state = { kind: 'off' };
      set(false);
    }
  };
}
