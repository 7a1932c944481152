import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';
import type { Control } from './controls-of-notes';

/** What the controllers of a track say while it is written: the song's own events say most of it already. */
export class HeldControls {
  private readonly pedals = new Map<number, number>();
  /** Positions that no stroke has followed yet. */
  private readonly positions = new Map<number, number>();

  moved(channel: number, controller: number, value: number): void {
    if (controller === FOOT_CONTROLLER) this.pedals.set(channel, value);
    else if (controller === POSITION_CONTROLLER) this.positions.set(channel, value);
  }

  /** Whether a control has to be written; what is, holds. */
  wants({ kind, value, holds }: Pick<Control, 'kind' | 'value' | 'holds'>, channel: number): boolean {
    if (kind === 'position') return this.positions.get(channel) !== value;
    if (kind !== 'pedal') return true;
    if (holds && this.pedals.get(channel) === value) return false;
    this.pedals.set(channel, value);
    return true;
  }

  struck(channel: number): void {
    this.positions.delete(channel);
  }
}
