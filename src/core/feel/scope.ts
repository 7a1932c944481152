import type { Homes } from '../homes/homes';
import { meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../part/part';
import { nearestLine, stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { ticks } from '../units';
import type { BarScope, Scope, StepScope } from './feel';

/** Tells whether a hit, by its index in the part, is in a move's scope. */
export type ScopeTest = (index: number) => boolean;

const everything: ScopeTest = () => true;

/** Compiles a scope for one part; the members must all agree. */
export function scopeTest(scope: Scope | undefined, part: Pick<Part, 'hits' | 'meter' | 'origin'>, homes: Homes): ScopeTest {
  if (!scope) return everything;
  const map = meterMapOf(part);
  const tests: ScopeTest[] = [];
  const hitAt = (i: number): Hit => part.hits[i] as Hit;
  if (scope.voices) {
    const voices = new Set(scope.voices);
    tests.push((i) => voices.has(hitAt(i).voice));
  }
  if (scope.ghosts) {
    const wanted = scope.ghosts === 'only';
    tests.push((i) => (hitAt(i).ghost === true) === wanted);
  }
  if (scope.bars) {
    const bars = scope.bars;
    tests.push((i) => barMatches(bars, map.barAt(ticks(homes.ticks[i] as number)).index + 1));
  }
  if (scope.steps) {
    const steps = scope.steps;
    const at = new Set(steps.at);
    tests.push((i) => at.has(stepIndex(map, hitAt(i), steps)));
  }
  if (tests.length === 0) return everything;
  return tests.length === 1 ? (tests[0] as ScopeTest) : (i) => tests.every((test) => test(i));
}

function barMatches(scope: BarScope, bar: number): boolean {
  if (scope.from !== undefined && bar < scope.from) return false;
  if (scope.to !== undefined && bar > scope.to) return false;
  if (scope.every === undefined || !scope.at) return true;
  return scope.at.includes(mod(bar - 1, scope.every) + 1);
}

/** Index of the nearest step modulo the cycle. A cycle longer than a bar runs on over round(cycle / bar) whole bars from the part's start. */
function stepIndex(map: MeterMap, hit: Hit, scope: StepScope): number {
  const step = stepOf(scope.grid);
  const line = nearestLine(map, hit.tick, step);
  const bar = map.barOf(line.bar);
  const span = Math.round((scope.of * step) / bar.length);
  if (span <= 1) return mod(line.step, scope.of);
  const first = map.barOf(line.bar - mod(line.bar, span));
  return mod(Math.round((line.tick - first.start) / step), scope.of);
}

const mod = (n: number, m: number): number => ((n % m) + m) % m;
