import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '@/core/articulation/controllers';

/** What every input device gives, a real one like a simulated one. */
export interface InputEvent {
  /** When it happened by the device's own stamp: ms of the page's clock. */
  page: number;
  kind: 'note' | 'off' | 'pedal' | 'pressure' | 'position';
  /** MIDI key; the controller's number for a pedal and a position. */
  key: number;
  /** 1 to 127 for notes, 0 to 127 for the others. */
  value: number;
}

export interface InputDevice {
  /** The same for the same device, from visit to visit. */
  id: string;
  name: string;
  /** Tells of each event until the result is called. */
  listen(onEvent: (event: InputEvent) => void): () => void;
}

/**
 * What a MIDI message says to a drum programmer; null for everything else (clocks, other controllers).
 * @example readMessage([0x99, 38, 100], 12.5) // { page: 12.5, kind: 'note', key: 38, value: 100 }
 */
export function readMessage(bytes: ArrayLike<number>, page: number): InputEvent | null {
  const [status = 0, key = 0, value = 0] = [bytes[0], bytes[1], bytes[2]];
  const command = status & 0xf0;
  if (command === 0x90 && value > 0) return { page, kind: 'note', key, value };
  if (command === 0x90 || command === 0x80) return { page, kind: 'off', key, value };
  if (command === 0xb0 && key === POSITION_CONTROLLER) return { page, kind: 'position', key, value };
  if (command === 0xb0 && key === FOOT_CONTROLLER) return { page, kind: 'pedal', key, value };
  if (command === 0xa0) return { page, kind: 'pressure', key, value };
  return null;
}
