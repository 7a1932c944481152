// Which mutants a run looks at: a seeded sample of all that can be made of the chosen files.
import { readFileSync } from 'node:fs';
import { createInstrumenter } from '@stryker-mutator/instrumenter';
import { createInjector } from 'typed-inject';

/** A mutant's name: the same in every run of the same source. */
export const keyOf = (file, { location: { start, end }, mutatorName, replacement }) =>
  `${file}:${start.line}:${start.column}-${end.line}:${end.column} ${mutatorName} ${replacement}`;

/** Where it is, as Stryker takes it: lines from 1. */
const rangeOf = (file, { location: { start, end } }) => `${file}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`;

const quiet = new Proxy({}, { get: () => () => false });

/** All mutants of the files, as keys with their file, in the order of the source. */
export async function mutantsOf(files, options) {
  const instrumenter = createInjector().provideValue('logger', quiet).injectFunction(createInstrumenter);
  const found = [];
  for (const file of files) {
    const { mutants } = await instrumenter.instrument([{ name: file, mutate: true, content: readFileSync(file, 'utf8') }], options);
    for (const mutant of mutants) found.push({ file, key: keyOf(file, mutant), range: rangeOf(file, mutant) });
  }
  return found;
}

/** `count` of them, each as likely as any other, the same for the same seed (mulberry32). */
export function sampleOf(list, count, seed) {
  let state = seed >>> 0;
  const random = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  const rest = [...list];
  const chosen = [];
  while (chosen.length < count && rest.length > 0) {
    const i = Math.floor(random() * rest.length);
    chosen.push(rest[i]);
    rest[i] = rest.at(-1);
    rest.pop();
  }
  return chosen;
}
