import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '@/core/articulation/controllers';
import { pedalOfOpenness } from '@/core/articulation/openness';

const CONTROLLER = 0xb0;

/** A note that is to be sent. */
interface Articulated {
  /** From 0. */
  channel: number;
  openness?: number | undefined;
  position?: number | undefined;
}

/** The controllers that go out before notes: the pedal's where it changed, positions each time. */
export class ArticulationOut {
  private readonly pedals = new Map<number, number>();

  before({ channel, openness, position }: Articulated): number[][] {
    const messages: number[][] = [];
    const pedal = openness === undefined ? undefined : pedalOfOpenness(openness);
    if (pedal !== undefined && this.pedals.get(channel) !== pedal) {
      this.pedals.set(channel, pedal);
      messages.push([CONTROLLER | channel, FOOT_CONTROLLER, pedal]);
    }
    if (position !== undefined) messages.push([CONTROLLER | channel, POSITION_CONTROLLER, position]);
    return messages;
  }

  /** Another device knows nothing of what was sent. */
  forget(): void {
    this.pedals.clear();
  }
}
