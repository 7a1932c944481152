import { readFileSync } from 'node:fs';
import type { StrokeWeights } from '@/core/onsets/stroke-net';
import { correcting } from './correcting';
import { FONT, isPlain, OURS } from './drum-sets';
import { loopMaker, type LoopExamples } from './examples';
import { answered, chancesOf } from './passes';
import { scoreNaming, toldScore } from './score';
import { readSoundFont } from './soundfont';

/** Loops of four bars on drums that were left out of a fit: how well they are named, and how many actions correct them. */

const BARS = 4;
const FIRST_SEED = 90_000;
const LOOPS_EACH = 12;
/** Loops of about as many strokes as the goal for correcting speaks of. */
const CORRECTED = { least: 25, most: 60 } as const;

const middle = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? NaN;

interface Loops {
  what: string;
  natural: boolean;
}
const KINDS: readonly Loops[] = [
  { what: 'as their sets play them', natural: true },
  { what: 'tuned, mixed and treated', natural: false },
];

/** @param without the file of weights that were fitted without one of the sides @param shipped those that the product has */
export function measureStrokes(font: string, without: { font: string; ours: string }, shipped: string): void {
  const read = readSoundFont(font);
  for (const { what, natural } of KINDS) {
    const make = loopMaker(read, { bars: BARS, natural, whole: true });
    const loopsOf = (origins: readonly string[]): LoopExamples[] =>
      origins
        .filter((o) => !isPlain(o))
        .flatMap((origin) => Array.from({ length: LOOPS_EACH }, (_, i) => make(FIRST_SEED + i, origin) ?? []).flat());
    const [fontLoops, ourLoops] = [loopsOf(FONT), loopsOf(OURS)];
    tell(`${what}: the general soundfont, left out`, without.font, fontLoops);
    tell(`${what}: our kits, left out`, without.ours, ourLoops);
    tell(`${what}: the general soundfont, as shipped (fitted on)`, shipped, fontLoops);
    tell(`${what}: our kits, as shipped (fitted on)`, shipped, ourLoops);
  }
}

function tell(what: string, file: string, loops: readonly LoopExamples[]): void {
  const { first, second } = JSON.parse(readFileSync(file, 'utf8')) as StrokeWeights;
  const answers = answered(first, loops);
  const chances = chancesOf(answers, second);
  const [played, found] = loops.reduce(([p, f], l) => [p + l.played, f + l.found], [0, 0]);
  console.log(toldScore(what, scoreNaming(answers, chances)));
  console.log(`  ${found} of ${played} drums struck are within a stroke that was found`);
  const corrected = answers.flatMap((answer, i) => {
    const found = correcting(answer, chances[i] ?? []);
    return found && found.strokes >= CORRECTED.least && found.strokes <= CORRECTED.most ? [found] : [];
  });
  console.log(
    `  correcting ${corrected.length} loops of ${middle(corrected.map((c) => c.strokes))} strokes in the median: ` +
      `${middle(corrected.map((c) => c.wrong))} names wrong, ${middle(corrected.map((c) => c.actions))} actions`,
  );
}
