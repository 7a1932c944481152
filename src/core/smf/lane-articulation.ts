import type { Hit } from '../model/part';
import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';
import { isHat, opennessOfPedal } from '../articulation/openness';
import type { SmfFile } from './read';

/** A position applies to a stroke that follows within a 32nd note, or 30 ms in SMPTE time. */
const QUARTERS_AHEAD = 1 / 8;
const SECONDS_AHEAD = 0.03;

/** Follows a lane's controllers in file order and assigns their values to its strokes. */
export class LaneArticulation {
  private openness: number | null = null;
  private position: { value: number; tick: number } | null = null;
  private readonly ahead: number;

  constructor(division: SmfFile['division']) {
    this.ahead = division.kind === 'metrical' ? division.ppq * QUARTERS_AHEAD : division.ticksPerSecond * SECONDS_AHEAD;
  }

  /** Takes a controller value; `tick` is the file's. */
  moved(controller: number, value: number, tick: number): void {
    if (controller === FOOT_CONTROLLER) this.openness = opennessOfPedal(value);
    else if (controller === POSITION_CONTROLLER) this.position = { value, tick };
  }

  /** Sets openness and position of a stroke; `tick` is the file's. */
  on(hit: Hit, tick: number): void {
    if (this.openness !== null && isHat(hit.voice)) hit.openness = this.openness;
    if (this.position && tick - this.position.tick <= this.ahead) hit.position = this.position.value;
    this.position = null;
  }
}
