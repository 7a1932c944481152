import { barOfHome, type Homes } from '../homes/homes';
import { indicesByVoice, voiceNumbers } from '../part/by-voice';
import { columnsOfHits, MARKS } from '../part/columns';
import { meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { stepOf } from '../time/grid';
import { ticks } from '../units';
import { mod, stepInCycle } from '../time/cycle';
import { namesRow } from '../row-names';
import type { BarScope, Scope } from '../model/feel';

/** Tells whether a hit, by its index in the part, is in a move's scope. */
export type ScopeTest = (index: number) => boolean;

const everything: ScopeTest = () => true;

/** Compiles a scope for one part; the members must all agree. */
export function scopeTest(scope: Scope | undefined, part: Pick<Part, 'hits' | 'meter' | 'origin' | 'bars'>, homes: Homes): ScopeTest {
  if (!scope) return everything;
  const map = meterMapOf(part);
  const tests: ScopeTest[] = [];
  if (scope.voices) {
    const voices = new Set(scope.voices);
    const { numbers } = voiceNumbers(part.hits);
    const wanted = Uint8Array.from([...indicesByVoice(part.hits).keys()], (row) => (namesRow(voices, row) ? 1 : 0));
    tests.push((i) => wanted[numbers[i] as number] === 1);
  }
  if (scope.ghosts) {
    const wanted = scope.ghosts === 'only' ? MARKS.ghost : 0;
    const { marks } = columnsOfHits(part.hits);
    tests.push((i) => ((marks[i] as number) & MARKS.ghost) === wanted);
  }
  if (scope.bars) {
    const matches = barTest(scope.bars);
    tests.push((i) => matches(barOfHome(part, homes.ticks[i] as number) + 1));
  }
  if (scope.steps) {
    const steps = scope.steps;
    const at = new Set(steps.at);
    const step = stepOf(steps.grid);
    const { ticks: written } = columnsOfHits(part.hits);
    tests.push((i) => at.has(stepInCycle(map, ticks(written[i] as number), step, steps.of)));
  }
  if (tests.length === 0) return everything;
  const [first, second] = tests as [ScopeTest, ScopeTest];
  if (tests.length === 1) return first;
  return tests.length === 2 ? (i) => first(i) && second(i) : (i) => tests.every((test) => test(i));
}

function barTest({ from = -Infinity, to = Infinity, every, at }: BarScope): (bar: number) => boolean {
  const chosen = every !== undefined && at ? new Set(at) : null;
  return (bar) => bar >= from && bar <= to && (!chosen || chosen.has(mod(bar - 1, every as number) + 1));
}
