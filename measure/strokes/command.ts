import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';
import type { NetLayer, StrokeWeights } from '@/core/onsets/stroke-net';
import { isPlain, FONT, OURS, type Origin } from './drum-sets';
import type { LoopExamples } from './examples';
import { packed, unpacked, type PackedLoops } from './kept-examples';
import { answered, chancesOf, fitSecond, weightsOf, type Answered } from './passes';
import { scoreNaming, toldScore } from './score';
import { firstInThread, loopsInThreads, serveJobs } from './threads';

const FIRST_SEED = 1000;
const LOOPS = 3200;
/** Untreated loops, on other seeds. */
const NATURAL_LOOPS = 1600;
const FIRST_NATURAL_SEED = 20_000;
const THREADS = 2;
const STEPS = 20_000;
const FOLD_STEPS = 7000;
const SECOND_STEPS = 8000;

serveJobs();

export interface FitOptions {
  /** Where the weights go. */
  weights: string;
  /** The general soundfont. */
  font: string;
  /** Loops are kept in this file, and read from it where it is there. */
  kept: string;
  /** This very file, which threads run. */
  file: string;
  loops?: number;
}

/** Fits both passes and writes their weights; tells how well each side's drums are named by what was learnt from the other's. */
export async function fitStrokes({ weights, font, kept, file, loops: count = LOOPS }: FitOptions): Promise<void> {
  if (!isMainThread) return;
  const loops = existsSync(kept) ? read(kept) : await made(font, file, count);
  if (!existsSync(kept)) write(kept, loops);
  console.log(`${loops.length} loops, ${loops.reduce((sum, l) => sum + l.examples.length, 0)} moments`);
  const sides = { ours: loopsOf(loops, OURS), font: loopsOf(loops, FONT) };
  const [byOurs, byFont] = await Promise.all([firstInThread(file, sides.ours, FOLD_STEPS), firstInThread(file, sides.font, FOLD_STEPS)]);
  // Each side is answered by who never heard it, except for plain drums, which are new to anybody.
  const unknown = {
    font: answered(byOurs, sides.font.filter(isOneSet)),
    ours: answered(byFont, sides.ours.filter(isOneSet)),
  };
  const [againstOurs, againstFont] = [fitSecond(unknown.ours, SECOND_STEPS), fitSecond(unknown.font, SECOND_STEPS)];
  tellSide('the general soundfont, learnt from ours', unknown.font, againstOurs);
  tellSide('our kits, learnt from the general soundfont', unknown.ours, againstFont);
  // What never heard a side is measured by `npm run measure:strokes`.
  writeFileSync(`${kept}.without-font.json`, asText(weightsOf(byOurs, againstOurs)));
  writeFileSync(`${kept}.without-ours.json`, asText(weightsOf(byFont, againstFont)));
  const first = await firstInThread(file, loops, STEPS);
  // The second pass learns from drums that the first knows and from some that it does not, since it will hear both.
  const known = answered(first, loops);
  const second = fitSecond([...known, ...known, ...known, ...unknown.font, ...unknown.ours], SECOND_STEPS);
  writeFileSync(weights, `${asText(weightsOf(first, second))}\n`);
}

const isOneSet = ({ origins }: LoopExamples): boolean => origins.length === 1;
const loopsOf = (loops: readonly LoopExamples[], side: readonly Origin[]): LoopExamples[] =>
  loops.filter((l) => l.origins.every((o) => side.includes(o)));

function tellSide(what: string, answers: readonly Answered[], second: readonly NetLayer[]): void {
  const known = answers.filter(({ loop }) => !loop.origins.every(isPlain));
  console.log(toldScore(`${what}, first pass`, scoreNaming(known, chancesOf(known, null))));
  console.log(toldScore(`${what}, both passes`, scoreNaming(known, chancesOf(known, second))));
}

async function made(font: string, file: string, count: number): Promise<LoopExamples[]> {
  console.log(`making ${count} loops`);
  const seeds = (first: number, n: number): number[] => Array.from({ length: n }, (_, i) => first + i);
  return [
    ...(await loopsInThreads(file, { font, natural: false, seeds: seeds(FIRST_SEED, count) }, THREADS)),
    ...(await loopsInThreads(
      file,
      { font, natural: true, seeds: seeds(FIRST_NATURAL_SEED, Math.round((count * NATURAL_LOOPS) / LOOPS)) },
      THREADS,
    )),
  ];
}

function write(kept: string, loops: readonly LoopExamples[]): void {
  const { loops: heads, numbers } = packed(loops);
  writeFileSync(kept, Buffer.from(numbers.buffer));
  writeFileSync(`${kept}.json`, JSON.stringify(heads));
}

function read(kept: string): LoopExamples[] {
  const bytes = readFileSync(kept);
  const heads = JSON.parse(readFileSync(`${kept}.json`, 'utf8')) as PackedLoops['loops'];
  return unpacked({ loops: heads, numbers: new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4) });
}

/** A row a line. */
function asText({ unit, first, second }: StrokeWeights): string {
  const net = (layers: readonly NetLayer[]): string =>
    layers.map((rows) => `    [\n${rows.map((row) => `      [${row.join(',')}]`).join(',\n')}\n    ]`).join(',\n');
  return `{\n  "unit": ${unit},\n  "first": [\n${net(first)}\n  ],\n  "second": [\n${net(second)}\n  ]\n}`;
}
