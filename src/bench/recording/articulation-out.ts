import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '@/core/articulation/controllers';
import { pedalOfOpenness } from '@/core/articulation/openness';

const CONTROLLER = 0xb0;

/** A note to send. */
interface Articulated {
  /** 0 to 15. */
  channel: number;
  openness?: number | undefined;
  position?: number | undefined;
}

/** The controllers to send before a note: the pedal when its value changed, the position every time. */
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

  /** A newly chosen device has received nothing yet. */
  forget(): void {
    this.pedals.clear();
  }
}
