import type { Hit } from '../model/part';
import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';
import { isHat, opennessOfPedal } from '../articulation/openness';
import type { SmfFile } from './read';

/** A position belongs to a stroke that follows within so long: a 32nd, or 30 ms of SMPTE time. */
const QUARTERS_AHEAD = 1 / 8;
const SECONDS_AHEAD = 0.03;

/** What the controllers of a lane say of its strokes, met in the file's order. */
export class LaneArticulation {
  private openness: number | null = null;
  private position: { value: number; tick: number } | null = null;
  private readonly ahead: number;

  constructor(division: SmfFile['division']) {
    this.ahead = division.kind === 'metrical' ? division.ppq * QUARTERS_AHEAD : division.ticksPerSecond * SECONDS_AHEAD;
  }

  /** A controller, at a tick of the file. */
  moved(controller: number, value: number, tick: number): void {
    if (controller === FOOT_CONTROLLER) this.openness = opennessOfPedal(value);
    else if (controller === POSITION_CONTROLLER) this.position = { value, tick };
  }

  /** Gives a stroke what was said of it, at a tick of the file. */
  on(hit: Hit, tick: number): void {
    if (this.openness !== null && isHat(hit.voice)) hit.openness = this.openness;
    if (this.position && tick - this.position.tick <= this.ahead) hit.position = this.position.value;
    this.position = null;
  }
}
