import { keptValue, QUALITY, type QualityName } from '@/core/shaping/qualities';
import type { Shape } from '@/core/shaping/shape-hits';

/** The shapes that the page offers by name; what the histogram does ("reshape", "reroll") and drawn lines have places of their own. */
export const SHAPE_KINDS = [
  'set',
  'add',
  'scale',
  'stretch',
  'limit',
  'ramp',
  'crescendo',
  'alternate',
  'accents',
  'scatter',
  'between',
] as const;
export type OfferedKind = (typeof SHAPE_KINDS)[number];

/** The verb of the sentence. */
export const SHAPE_WORDS: Readonly<Record<OfferedKind, string>> = {
  set: 'set',
  add: 'add',
  scale: 'scale',
  stretch: 'compress or expand',
  limit: 'limit',
  ramp: 'ramp',
  crescendo: 'swell',
  alternate: 'alternate',
  accents: 'accent',
  scatter: 'randomize',
  between: 'randomize all',
};

/** The values that a shape starts from. */
export interface Spread {
  mean: number;
  deviation: number;
}

/** What a shape does when it is chosen: something that is heard at once, and mild. */
export function firstShape(kind: OfferedKind, name: QualityName, { mean }: Spread): Shape {
  const { min, max } = { ...QUALITY[name], ...QUALITY[name].usual };
  const within = (v: number): number => keptValue(name, name === 'length' ? v : Math.round(v));
  const some = name === 'length' ? 0.5 : Math.max(1, Math.round((max - min) / 12));
  switch (kind) {
    case 'set':
      return { kind, value: within(mean) };
    case 'add':
      return { kind, by: name === 'pitch' ? 1 : some };
    case 'scale':
      return { kind, percent: 85 };
    case 'stretch':
      return { kind, percent: 60, pivot: within(mean) };
    case 'limit':
      return name === 'velocity' ? { kind, low: 30, high: 110 } : { kind, low: within(min / 3), high: within(max / 3) };
    case 'ramp':
      return name === 'velocity' ? { kind, from: 45, to: 112, bend: 0 } : { kind, from: within(min / 3), to: within(max / 3), bend: 0 };
    case 'alternate':
      return name === 'velocity'
        ? { kind, levels: [104, 72] }
        : { kind, levels: name === 'length' ? [1, 0.5] : [within(-some), within(some)] };
    case 'accents':
      return { kind, grid: '1/16', levels: [120, 70, 95, 70].map((l) => l / 100), depth: 1 };
    case 'crescendo':
      return { kind, from: 60, to: 110, bend: 0 };
    case 'between':
      return name === 'velocity' ? { kind, from: 70, to: 120, seed: 1 } : { kind, from: within(-some), to: within(some), seed: 1 };
    case 'scatter':
      return {
        kind,
        range: name === 'timing' ? 6 : name === 'velocity' ? 8 : name === 'pitch' || name === 'length' ? 0.5 : 20,
        seed: 1,
        keepMean: true,
      };
  }
}

/** What a shape does, in the words of the undo list. `what` are the hits. */
export function shapeLabel(shape: Shape, name: QualityName, what: string): string {
  const { unit, digits } = QUALITY[name];
  const n = (v: number): string => `${v.toFixed(digits).replace(/\.0+$/, '')}${unit ? ` ${unit}` : ''}`;
  const of = name === 'velocity' ? '' : `the ${name} of `;
  switch (shape.kind) {
    case 'set':
      return `Set ${of}${what} to ${n(shape.value)}`;
    case 'add':
      return name === 'velocity'
        ? `${shape.by < 0 ? 'Soften' : 'Raise'} ${what} by ${Math.abs(shape.by)}`
        : `Move ${of}${what} by ${n(shape.by)}`;
    case 'scale':
      return `Scale ${of}${what} to ${shape.percent} %`;
    case 'stretch':
      return `${shape.percent < 100 ? 'Compress' : 'Expand'} ${of}${what} to ${shape.percent} % around ${n(shape.pivot)}`;
    case 'limit':
      return `Limit ${of}${what} to ${shape.low} to ${n(shape.high)}`;
    case 'ramp':
      return `Ramp ${of}${what} from ${shape.from} to ${n(shape.to)}`;
    case 'alternate':
      return `Alternate ${of}${what}: ${shape.levels.join(', ')}`;
    case 'accents':
      return `Accent ${of}${what} by place in the bar`;
    case 'crescendo':
      return `Swell ${of}${what} from ${shape.from} to ${shape.to} %`;
    case 'between':
      return `Draw ${of}${what} between ${shape.from} and ${n(shape.to)}`;
    case 'scatter':
      return `Randomize ${of}${what} by up to ${n(shape.range)}`;
    case 'reshape':
      return `Give ${of}${what} a mean of ${n(shape.mean)} and a spread of ${n(shape.deviation)}`;
    case 'reroll':
      return `Draw ${of}${what} again, seed ${shape.seed}`;
    case 'line':
      return `Draw ${of}${what}`;
  }
}
