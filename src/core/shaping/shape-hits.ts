import { meterMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { hashText, mix, randomStream } from '../random';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { QUALITY, readQuality, setQuality, type QualityName } from './qualities';
import * as shapes from './shapes';

/** A shape with its numbers, as the interface edits it. */
export type Shape =
  | { kind: 'set'; value: number }
  | { kind: 'add'; by: number }
  | { kind: 'scale'; percent: number }
  | { kind: 'stretch'; percent: number; pivot: number }
  | { kind: 'limit'; low: number; high: number }
  | ({ kind: 'scatter'; range: number; seed: number; keepMean: boolean } & shapes.Few)
  | ({ kind: 'between'; from: number; to: number; seed: number } & shapes.Few)
  | { kind: 'crescendo'; from: number; to: number; bend: number }
  | { kind: 'alternate'; levels: readonly number[] }
  | { kind: 'ramp'; from: number; to: number; bend: number }
  | { kind: 'line'; points: readonly shapes.LinePoint[] }
  | { kind: 'accents'; grid: GridName; levels: readonly number[]; depth: number }
  | { kind: 'reshape'; mean: number; deviation: number }
  | { kind: 'reroll'; mean: number; deviation: number; seed: number };

export type ShapeKind = Shape['kind'];

/** Gives a quality of some hits a shape: places are their written ticks, limits those of the quality. */
export function shapeHits(part: Part, ids: ReadonlySet<HitId>, quality: QualityName, shape: Shape): Part {
  const chosen = part.hits.filter((h) => ids.has(h.id));
  const values = shapedValues(
    part,
    chosen,
    chosen.map((h) => readQuality(h, quality)),
    quality,
    shape,
  );
  // A mean that was asked for is not lost in rounding each value by itself.
  const exact = shape.kind === 'reshape' || shape.kind === 'reroll' ? carried(values, QUALITY[quality].digits) : values;
  const byId = new Map(chosen.map((h, i) => [h.id, exact[i] as number]));
  return setQuality(part, ids, quality, (hit) => byId.get(hit.id) as number);
}

/** Rounds values with what is left over carried on, so that their sum stays. @example carried([0.5, 0.5], 0) // [1, 0] */
function carried(values: readonly number[], digits: number): number[] {
  const scale = 10 ** digits;
  let over = 0;
  return values.map((v) => {
    const rounded = Math.round((v + over) * scale) / scale;
    over += v - rounded;
    return rounded;
  });
}

function shapedValues(part: Part, hits: readonly Hit[], values: readonly number[], quality: QualityName, shape: Shape): number[] {
  const places = (): number[] => hits.map((h) => h.tick);
  switch (shape.kind) {
    case 'set':
      return shapes.setTo(values, shape.value);
    case 'add':
      return shapes.add(values, shape.by);
    case 'scale':
      return shapes.scale(values, shape.percent / 100);
    case 'stretch':
      return shapes.stretch(values, shape.pivot, shape.percent / 100);
    case 'limit':
      return shapes.limit(values, shape.low, shape.high);
    case 'scatter':
      return ofFew(places(), values, shape, quality, (few) => shapes.scatter(few, shape.range, diceFor(quality, shape), shape.keepMean));
    case 'between':
      return ofFew(places(), values, shape, quality, (few) => shapes.between(few, shape.from, shape.to, diceFor(quality, shape)));
    case 'crescendo':
      return shapes.crescendo(places(), values, shape.from, shape.to, shape.bend);
    case 'alternate':
      return shape.levels.length === 0 ? [...values] : shapes.alternate(places(), shape.levels);
    case 'ramp':
      return shapes.ramp(places(), shape.from, shape.to, shape.bend);
    case 'line':
      return shapes.alongLine(places(), values, shape.points);
    case 'accents':
      return shape.levels.length === 0
        ? [...values]
        : shapes.accents(values, stepsInBar(part, hits, shape.grid), shape.levels, shape.depth);
    case 'reshape':
      return shapes.reshape(values, shape.mean, shape.deviation);
    case 'reroll':
      return shapes.reroll(values, shape.mean, shape.deviation, diceFor(quality, shape));
  }
}

/** Each quality has dice of its own, and each kind of shape: what one draws says nothing of what another does. */
const diceFor = (quality: QualityName, { kind, seed }: { kind: ShapeKind; seed: number }): (() => number) =>
  randomStream(mix(mix(seed, hashText(quality)), hashText(kind)));

/** Shapes those that are meant; the others keep their values. Which they are has dice of its own. */
function ofFew(
  places: readonly number[],
  values: readonly number[],
  shape: shapes.Few & { kind: ShapeKind; seed: number },
  quality: QualityName,
  shaped: (few: number[]) => number[],
): number[] {
  const taken = shapes.fewOf(places, shape, randomStream(mix(mix(shape.seed, hashText(quality)), hashText('few'))));
  const few = shaped(values.filter((_, i) => taken[i]));
  let k = 0;
  return values.map((v, i) => (taken[i] ? (few[k++] as number) : v));
}

/** Which step of its bar each hit is nearest to. */
function stepsInBar(part: Part, hits: readonly Hit[], grid: GridName): number[] {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  return hits.map((h) => nearestLine(map, h.tick, step).step);
}

/** How many values fall into each bin of a histogram. @returns counts of `bins` equal bins from min to max */
export function countsOf(values: readonly number[], min: number, max: number, bins: number): number[] {
  const counts = new Array<number>(bins).fill(0);
  for (const v of values) {
    const bin = Math.min(bins - 1, Math.max(0, Math.floor(((v - min) / (max - min)) * bins)));
    counts[bin] = (counts[bin] as number) + 1;
  }
  return counts;
}
