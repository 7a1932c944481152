import { clamp } from '../units';
import type { VoiceName } from '../row-names';
import { MOST_LEVEL, MOST_OFFSET, type Groove, type GrooveStep, MOST_STEPS_A_BEAT } from '../model/groove';
import { ownVoices, stepCount } from './steps';
import { commonSteps, sampleGroove } from './sample';

/**
 * Steps a beat that a blend is written in: those of both where they fit the format, else the finest on which neither leans further than
 * a step may. Eighths at 2:1 lean by two thirds of a sixteenth, so a blend with them is one of eighths.
 */
export function stepsOfBlend(a: Groove, b: Groove): number {
  const choices = [commonSteps(a.stepsPerBeat, b.stepsPerBeat), a.stepsPerBeat, b.stepsPerBeat]
    .filter((s) => s <= MOST_STEPS_A_BEAT)
    .sort((x, y) => y - x);
  return choices.find((s) => [a, b].every((g) => largestOffset(g) * s <= MOST_OFFSET)) ?? Math.min(a.stepsPerBeat, b.stepsPerBeat);
}

/** In quarter notes. */
const largestOffset = (groove: Groove): number =>
  Math.max(...[groove.steps, ...Object.values(groove.voices ?? {})].flat().map((s) => Math.abs(s.offset))) / groove.stepsPerBeat;

/**
 * A groove between two: offsets and levels are mixed step by step. The result has the length and meter of the longer one; the shorter one
 * goes round within it. A voice with steps of its own in either has its own in the blend.
 * @param share 0 = all of `a`, 1 = all of `b`
 * @example blendGrooves(hold, gangplank, 0.25).steps[1].offset // 3/4 of one, 1/4 of the other
 */
export function blendGrooves(a: Groove, b: Groove, share: number, name = `${a.name} and ${b.name}`): Groove {
  const longer = b.beats > a.beats ? b : a;
  const stepsPerBeat = stepsOfBlend(a, b);
  const count = stepCount(longer.beats, stepsPerBeat);
  const stepsOf = (voice?: VoiceName): GrooveStep[] =>
    Array.from({ length: count }, (_, i) =>
      mix(sampleGroove(a, i / stepsPerBeat, voice), sampleGroove(b, i / stepsPerBeat, voice), share, stepsPerBeat),
    );
  const voices = [...new Set([...ownVoices(a), ...ownVoices(b)])].sort();
  return {
    format: 'nod-sway/groove@1',
    name: name.slice(0, 120),
    meter: longer.meter,
    beats: longer.beats,
    stepsPerBeat,
    steps: stepsOf(),
    ...(voices.length > 0 ? { voices: Object.fromEntries(voices.map((voice) => [voice, stepsOf(voice)])) } : {}),
  };
}

function mix(a: ReturnType<typeof sampleGroove>, b: ReturnType<typeof sampleGroove>, share: number, stepsPerBeat: number): GrooveStep {
  const between = (x: number, y: number): number => x + (y - x) * share;
  return {
    offset: clamp(between(a.offset, b.offset) * stepsPerBeat, -MOST_OFFSET, MOST_OFFSET) + 0,
    level: clamp(between(a.level, b.level), 0, MOST_LEVEL),
    n: Math.round(between(a.n, b.n)),
    ...(a.spreadMs !== undefined && b.spreadMs !== undefined ? { spreadMs: between(a.spreadMs, b.spreadMs) } : {}),
  };
}
