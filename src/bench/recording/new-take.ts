import { newTakeId } from '@/editing/ids';
import type { Part } from '@/core/model/part';
import type { Take } from '@/core/model/take';
import { milliseconds, type Ticks } from '@/core/units';
import type { RecordingState } from './recording-state';

/** A take that is to be played over some ticks of a part; nothing is in it yet. */
export function newTake(
  { tempo, meter, origin }: Part,
  { start, end }: { start: Ticks; end: Ticks },
  name: string,
  device: string,
  { input: { latencyMs, curve, guards, pads, curves, hat }, pieces }: Pick<RecordingState, 'input' | 'pieces'>,
): Take {
  return {
    id: newTakeId(),
    name,
    recordedAt: Date.now(),
    input: device,
    tempo,
    meter,
    origin,
    start,
    end,
    latencyMs: milliseconds(latencyMs),
    curve,
    guards,
    ...(pads ? { pads } : {}),
    ...(curves ? { curves } : {}),
    ...(hat ? { hat } : {}),
    ...(pieces === null ? {} : { pieces }),
    passes: 0,
    complete: false,
  };
}
