import { compareHits, type Hit } from '@/core/model/part';
import { stepOf, type GridName } from '@/core/time/grid';
import { ticks, velocity, type Ticks } from '@/core/units';
import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/key-map';
import type { VoiceName } from '@/core/row-names';

/** Levels of a pattern's signs: X accent, x plain, o soft, g ghost; a dot is a rest. */
const LEVELS: Readonly<Record<string, number>> = { X: 116, x: 96, o: 72, g: 28 };

/** A bar or more of rows, one sign a step. */
export type StepPattern = Readonly<Record<VoiceName, string>>;

/**
 * Writes a pattern's hits from a tick on. `level` and `shift` may change each: a flat import or a human hand.
 * @example patternHits({ kick: 'X...' }, '1/16', ticks(0)).length // 1
 */
export function patternHits(
  pattern: StepPattern,
  grid: GridName,
  start: Ticks,
  level: (v: number, voice: VoiceName) => number = (v) => v,
  shift: (voice: VoiceName) => number = () => 0,
): Hit[] {
  const step = stepOf(grid);
  const hits: Hit[] = [];
  for (const [voice, signs] of Object.entries(pattern)) {
    [...signs.replace(/[\s|]/g, '')].forEach((sign, i) => {
      const strength = LEVELS[sign];
      if (strength === undefined) return;
      const key = keyOfVoice(GENERAL_MIDI_KIT, voice);
      const tick = ticks(Math.round(start + i * step + shift(voice)));
      hits.push({
        id: `${key}@${tick}`,
        voice,
        key,
        tick,
        home: ticks(start + i * step),
        length: ticks(Math.round(step * 0.9)),
        velocity: velocity(Math.round(level(strength, voice))),
        ...(sign === 'g' ? { ghost: true } : {}),
      });
    });
  }
  return hits.sort(compareHits);
}
