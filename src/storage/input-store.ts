import { USUAL_GUARDS } from '@/core/model/take';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';
import { database, type InputRow, type NodSwayDatabase } from './database';
import { named } from './named';

export type InputSettings = InputRow;

/** What holds for a device of which nothing is known yet. */
export const freshInput = (id: string): InputSettings => ({ id, latencyMs: 0, curve: STRAIGHT_CURVE, guards: USUAL_GUARDS });

/** Keeps what is known of each input device: its latency, velocity curve, guards and pads. */
export class InputStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  load(id: string): Promise<InputSettings> {
    return named(async () => (await this.db.inputs.get(id)) ?? freshInput(id));
  }

  save(settings: InputSettings): Promise<void> {
    return named(async () => void (await this.db.inputs.put(settings)));
  }
}

export const inputStore = new InputStore();
