import { ticksOfBars } from '@/core/commands/settings';
import type { Part } from '@/core/model/part';
import { performPart } from '@/core/perform/perform';
import { makeProgram } from '@/core/playback/program';
import { soundEngine } from './engine';

/** Plays some bars of a part that is open nowhere; in place of what sounds. @param to bars from 0, not included */
export async function hearBars(part: Part, from: number, to: number, loop = false): Promise<void> {
  const engine = soundEngine();
  engine.stop();
  const range = { ...ticksOfBars(part, from, Math.min(part.bars, to)), loop };
  const slots = new Map(part.hits.map((h, i) => [h, i]));
  const program = makeProgram(part, performPart(part), range, (hit) => slots.get(hit) ?? 0, engine.rowsOf(part), engine.ownSounds);
  engine.setPrograms({ performed: program, written: program });
  await engine.play(range.start);
}
