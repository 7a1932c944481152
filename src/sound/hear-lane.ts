import { ticksOfBars } from '@/core/commands/settings';
import { meterMapOf } from '@/core/part/part-time';
import { performPart } from '@/core/perform/perform';
import { makeProgram } from '@/core/playback/program';
import type { LaneContent } from '@/core/smf/lanes';
import { soundEngine } from './engine';
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
  const range = { ...ticksOfBars(part, from, Math.min(part.bars, from + BARS)), loop: false };
  const slots = new Map(part.hits.map((h, i) => [h, i]));
  const program = makeProgram(part, performPart(part), range, (hit) => slots.get(hit) ?? 0, engine.rowsOf(part), engine.ownSounds);
  engine.setPrograms({ performed: program, written: program });
  await engine.play(range.start);
}
