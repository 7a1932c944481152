import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';
import type { Control } from './controls-of-notes';

/** Tracks controller values while a track is written, so values that the song's own events have set are not repeated. */
export class HeldControls {
  private readonly pedals = new Map<number, number>();
  /** Positions not yet followed by a stroke. */
  private readonly positions = new Map<number, number>();

  moved(channel: number, controller: number, value: number): void {
    if (controller === FOOT_CONTROLLER) this.pedals.set(channel, value);
    else if (controller === POSITION_CONTROLLER) this.positions.set(channel, value);
  }

  /** Whether a control must be written; if so, its value is remembered. */
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
