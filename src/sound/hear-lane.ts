import { meterMapOf } from '@/core/part/part-time';
import type { LaneContent } from '@/core/smf/lanes';
import { soundEngine } from './engine';
import { hearBars } from './hear-once';
import { readPart } from '@/workers/clients';
import type { LaneQuestion } from '@/workers/midi-file';

const BARS = 4;

/** Ends what {@link hearLane} began. */
export const stopLane = (): void => soundEngine().stop();

/** Lets the first bars of a track that have notes be heard as drums; while something sounds it stops that. */
export async function hearLane({ bytes, fileName }: LaneQuestion, { track, channel }: LaneContent): Promise<void> {
  const engine = soundEngine();
  if (engine.isPlaying) return engine.stop();
  const { part } = await readPart(bytes, fileName, fileName, [{ track, channel }]);
  const first = part.hits[0] ? meterMapOf(part).barAt(part.hits[0].tick).index : 0;
  const from = Math.max(0, Math.min(first, part.bars - 1));
  await hearBars(part, from, from + BARS);
}
