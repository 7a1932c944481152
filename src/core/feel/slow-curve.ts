import { mix } from '../random';
import type { MeterMap } from '../time/meter-map';
import { TICKS_PER_QUARTER, type Ticks } from '../units';
import { mixLong, normalOf } from './numbers';

/** Cells of the finest octave are a sixteenth long; each further octave's are twice as long, up to the span. */
const FINEST = TICKS_PER_QUARTER / 4;
const MOST_OCTAVES = 10;
const CELLS = Float64Array.from({ length: MOST_OCTAVES }, (_, k) => FINEST * 2 ** k);
/** Octaves are shifted against each other by this part of a cell, so that their corners do not fall together on bar lines. */
const SHIFT = 0.37;
/** Over so many bars the curve's mean is 0. */
export const SPAN_BARS = 4;
/** The mean is taken off by a plateau that rises and falls over this part of a span at each end, so that the curve stays continuous. */
const RAMP = 1 / 16;
const PLATEAU = 1 / (1 - RAMP);

/** A span of whole bars, the mean of the octaves' sum over it, and how far that mean varies from seed to seed. */
interface Span {
  start: number;
  end: number;
  mean: number;
  variance: number;
}

/**
 * One slow curve of unit deviation whose power falls as 1/f, as timing and loudness of drummers do (H. Hennig et al., "The Nature and
 * Properties of Human Rhythms and their Fluctuations", PLoS ONE 6(10), 2011; E. Räsänen et al., "Fluctuations of Hi-Hat Timing and
 * Dynamics in a Virtuoso Drum Track", PLoS ONE 10(6), 2015). It is a sum of octaves of equal deviation, each a row of normal draws
 * joined by straight lines (after R. Voss's algorithm, in M. Gardner, Scientific American 238(4), 1978). Its mean over bars 1 to 4, 5
 * to 8 ... is 0, so that it never lays a loop of these back or forward. The value at a tick depends on seed, bars and tick alone. Ask
 * for rising ticks: neighbouring draws are kept.
 */
export class SlowCurve {
  private readonly cells = new Float64Array(MOST_OCTAVES).fill(Number.NaN);
  private readonly left = new Float64Array(MOST_OCTAVES);
  private readonly right = new Float64Array(MOST_OCTAVES);
  private span: Span;
  /** Octaves up to the first span's length; and what brings the curve to unit deviation. Both hold throughout, whatever the meter does. */
  private readonly octaves: number;
  private readonly scale: number;
  private readonly unit: number;

  constructor(
    private readonly seed: number,
    private readonly map: MeterMap,
    private readonly bars: number = SPAN_BARS,
  ) {
    const length = map.barOf(bars).start - map.barOf(0).start;
    this.octaves = Math.max(1, Math.min(MOST_OCTAVES, 1 + Math.floor(Math.log2(length / FINEST) + 1e-9)));
    this.unit = Math.sqrt(this.octaves);
    this.span = this.measure(0);
    // Taking c = mean x plateau off leaves 1 - 2 E(sum x c) + E(c^2).
    const squared = PLATEAU ** 2 * (1 - (4 / 3) * RAMP);
    this.scale = 1 / Math.sqrt(Math.max(0.2, 1 - this.span.variance * (2 - squared)));
  }

  private draw = (octave: number, cell: number): number => normalOf(mixLong(mix(this.seed, octave), cell + 2 ** 40));

  at(tick: Ticks): number {
    const span = this.spanAt(tick);
    const place = (tick - span.start) / (span.end - span.start);
    const plateau = PLATEAU * Math.min(1, place / RAMP, (1 - place) / RAMP);
    return (this.sum(tick) - span.mean * plateau) * this.scale;
  }

  private sum(tick: number): number {
    const { octaves, cells, left, right } = this;
    let sum = 0;
    for (let k = 0; k < octaves; k++) {
      const place = tick / (CELLS[k] as number) + k * SHIFT;
      const cell = Math.floor(place);
      if (cell !== cells[k]) {
        left[k] = cell === (cells[k] as number) + 1 ? (right[k] as number) : this.draw(k, cell);
        right[k] = this.draw(k, cell + 1);
        cells[k] = cell;
      }
      const share = place - cell;
      const rest = 1 - share;
      // Between two draws the deviation sinks: divided by it, the curve has the same everywhere.
      sum += ((left[k] as number) * rest + (right[k] as number) * share) / Math.sqrt(share * share + rest * rest);
    }
    return sum / this.unit;
  }

  private spanAt(tick: Ticks): Span {
    const known = this.span;
    if (known && tick >= known.start && tick < known.end) return known;
    return (this.span = this.measure(Math.floor(this.map.barAt(tick).index / this.bars) * this.bars));
  }

  /** The span that starts with a bar, with the exact mean of the sum over it. */
  private measure(firstBar: number): Span {
    const { octaves } = this;
    const start = this.map.barOf(firstBar).start;
    const end = this.map.barOf(firstBar + this.bars).start;
    let mean = 0;
    let variance = 0;
    for (let k = 0; k < octaves; k++) {
      const from = start / (CELLS[k] as number) + k * SHIFT;
      const to = end / (CELLS[k] as number) + k * SHIFT;
      let carried = 0;
      const [whole, length] = [WHOLE_AREA / (to - from), to - from];
      for (let cell = Math.floor(from); cell < to; cell++) {
        const isWhole = cell >= from && cell + 1 <= to;
        const a = isWhole ? 0 : Math.max(from, cell) - cell;
        const b = isWhole ? 1 : Math.min(to, cell + 1) - cell;
        const falling = carried + (isWhole ? whole : (area(1 - a) - area(1 - b)) / length);
        mean += falling * this.draw(k, cell);
        variance += falling ** 2;
        carried = isWhole ? whole : (area(b) - area(a)) / length;
      }
      mean += carried * this.draw(k, Math.ceil(to));
      variance += carried ** 2;
    }
    return { start, end, mean: mean / Math.sqrt(octaves), variance: variance / octaves };
  }
}

/** Area under the rising side of a cell from its start to a share of it: the integral of x / sqrt(x^2 + (1 - x)^2). */
function area(share: number): number {
  const u = share - 0.5;
  return Math.sqrt(2 * u * u + 0.5) / 2 + Math.asinh(2 * u) / (2 * Math.SQRT2);
}

const WHOLE_AREA = area(1) - area(0);
