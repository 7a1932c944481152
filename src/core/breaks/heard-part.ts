import type { Break, StrokeKind } from '../model/break';
import type { Part } from '../model/part';
import type { StruckSound } from '../onsets/classify';
import { partOfStrokes, type SoundStruck } from '../onsets/part-of-strokes';
import { SOUND_KINDS, type SoundKind } from '../onsets/stroke-net';
import { ticks } from '../units';
import { barsOfBreak, bpmOfBreak, tickOfMoment } from './lines';
import type { BreakStroke } from './strokes';

/** Strokes so far outside of the bars still tell what rings into them, in seconds. */
const AROUND = 1;

/** The strokes of a break that count, within its bars and close to them. */
export const strokesCounted = ({ lines }: Pick<Break, 'lines'>, strokes: readonly BreakStroke[]): BreakStroke[] =>
  strokes.filter(
    ({ at, belowThreshold }) => !belowThreshold && at >= (lines[0] as number) - AROUND && at <= (lines.at(-1) as number) + AROUND,
  );

/**
 * What a break's strokes are as a part to learn from: all that is struck, also what falls together, at its own moment against the break's
 * bar
 * lines, so that a tempo that drifts is none of it. What the hand said of a stroke goes before what was heard.
 * @param struck what was heard at each of the strokes
 */
export function partHeard(
  of: Pick<Break, 'name' | 'lines' | 'meter'>,
  strokes: readonly BreakStroke[],
  struck: readonly (readonly StruckSound[])[],
): Part {
  const { name, lines, meter } = of;
  const [numerator, denominator] = meter;
  const bars = { meter: [{ tick: ticks(0), numerator, denominator }], origin: ticks(0) };
  const sounds = strokes.flatMap((stroke, i): SoundStruck[] => soundsOfStroke(stroke, struck[i] ?? []));
  return partOfStrokes(
    sounds,
    { bars: barsOfBreak(of), meter, bpm: bpmOfBreak(of), tickOf: (at) => tickOfMoment(bars, { lines, bar: 0 }, at) },
    name,
  );
}

/** Of a kind that the hand named, but nobody heard. */
const SOUND_OF: Readonly<Record<StrokeKind, SoundKind>> = { kick: 'kick', snare: 'snare', hat: 'hat', other: 'skin' };

function soundsOfStroke({ at, kind, also, level, sure }: BreakStroke, struck: readonly StruckSound[]): SoundStruck[] {
  const heard = struck.map((s): SoundStruck => ({ at: at + s.late, sound: s.sound, level: s.level }));
  if (sure < 1 && heard.length > 0) return heard;
  return [kind, ...(also ? [also] : [])].flatMap((named): SoundStruck[] => {
    const ofKind = heard.filter((s) => SOUND_KINDS[s.sound] === named);
    return ofKind.length > 0 ? ofKind : [{ at, sound: SOUND_OF[named], level }];
  });
}
