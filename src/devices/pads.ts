import type { VoiceName } from '@/core/row-names';
import type { InputDevice, InputEvent } from './input';

/** One pad: what it strikes, and the computer key that does the same. */
export interface Pad {
  voice: VoiceName;
  /** As `KeyboardEvent.code`: the place on the keyboard, whatever its letters are. */
  code: string;
  label: string;
}

/** By limb: voices of the left hand under the left hand, of the right under the right, the feet below. */
export const PAD_BANKS: readonly { name: string; pads: readonly Pad[] }[] = [
  {
    name: 'Left hand',
    pads: [
      { voice: 'crash', code: 'KeyE', label: 'E' },
      { voice: 'tom-high', code: 'KeyA', label: 'A' },
      { voice: 'rim', code: 'KeyS', label: 'S' },
      { voice: 'clap', code: 'KeyD', label: 'D' },
      { voice: 'snare', code: 'KeyF', label: 'F' },
      { voice: 'hat-pedal', code: 'KeyV', label: 'V' },
    ],
  },
  {
    name: 'Right hand',
    pads: [
      { voice: 'hat-closed', code: 'KeyJ', label: 'J' },
      { voice: 'hat-open', code: 'KeyK', label: 'K' },
      { voice: 'ride', code: 'KeyL', label: 'L' },
      { voice: 'tom-mid', code: 'KeyI', label: 'I' },
      { voice: 'tom-floor', code: 'KeyO', label: 'O' },
      { voice: 'kick', code: 'KeyN', label: 'N' },
    ],
  },
];

export const PADS: readonly Pad[] = PAD_BANKS.flatMap((b) => b.pads);

/** Computer keys and on-screen pads: one device, since they are played together. */
export class PadDevice implements InputDevice {
  readonly id = 'pads';
  readonly name = 'Pads and computer keys';
  private readonly listeners = new Set<(event: InputEvent) => void>();

  listen(onEvent: (event: InputEvent) => void): () => void {
    this.listeners.add(onEvent);
    return () => this.listeners.delete(onEvent);
  }

  /** @param page when: the pointer's or key's own stamp, ms of the page's clock */
  strike(key: number, value: number, page: number) {
    for (const listener of this.listeners) listener({ page, kind: 'note', key, value });
  }

  /** Lets a pad go. */
  release(key: number, page: number) {
    for (const listener of this.listeners) listener({ page, kind: 'off', key, value: 0 });
  }

  /** How hard a pad is held, 1 to 127. */
  press(key: number, value: number, page: number) {
    for (const listener of this.listeners) listener({ page, kind: 'pressure', key, value });
  }
}
