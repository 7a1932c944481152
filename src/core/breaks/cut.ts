import { LONGEST_LOOP, type Break, type Slice, type StrokeKind } from '../model/break';
import { velocityOfLevel } from '../onsets/part-of-strokes';
import { seconds, velocity, type Velocity } from '../units';
import type { BreakStroke } from './strokes';

/** A stroke so little before the first bar line belongs to it, as a share of a bar. */
const EARLY_SHARE = 1 / 16;
/** A stroke this near behind a line is what is struck there, in seconds; and so near before it. */
const NEAR_LINE = 0.05;
const BEFORE_LINE = 0.02;
/** No piece is shorter. */
const SHORTEST = 0.005;
/** Of a piece in which nothing was heard, and of one that is the whole loop. */
const PLAIN: Velocity = velocity(100);

/** Where a break is cut, and by what name. */
interface Cut {
  id: string;
  at: number;
  stroke?: BreakStroke;
}

/** The pieces of a break by its lines, its strokes and where it is cut; what was set on one of the same name stays. */
export function piecesOf(of: Pick<Break, 'lines' | 'meter' | 'cut' | 'pieces'>, strokes: readonly BreakStroke[]): Slice[] {
  const { lines } = of;
  const end = Math.min(lines.at(-1) as number, (lines[0] as number) + LONGEST_LOOP);
  const heard = strokes.filter((s) => !s.belowThreshold);
  const cuts = cutsOf(of, heard).filter((c) => c.at < end - SHORTEST);
  const apart = cuts.filter((c, i) => i === 0 || c.at - (cuts[i - 1] as Cut).at >= SHORTEST);
  const loudest = new Map<StrokeKind, number>();
  for (const { stroke } of apart) if (stroke) loudest.set(stroke.kind, Math.max(loudest.get(stroke.kind) ?? 0, stroke.level));
  const known = new Map(of.pieces.map((p) => [p.id, p]));
  return apart.map(({ id, at, stroke }, i): Slice => {
    const { level, tune, backwards } = known.get(id) ?? {};
    const until = apart[i + 1]?.at ?? end;
    const kind = stroke?.kind ?? 'other';
    return {
      id,
      from: seconds(Math.max(0, at)),
      until: seconds(until),
      kind,
      ...(stroke?.also ? { also: stroke.also } : {}),
      velocity: stroke && stroke.level > 0 ? velocityOfLevel(stroke.level, loudest.get(kind) as number) : PLAIN,
      ...(level === undefined ? {} : { level }),
      ...(tune === undefined ? {} : { tune }),
      ...(backwards ? { backwards } : {}),
    };
  });
}

function cutsOf(
  { lines, meter: [numerator, denominator], cut }: Pick<Break, 'lines' | 'meter' | 'cut'>,
  strokes: readonly BreakStroke[],
): Cut[] {
  const [first, last] = [lines[0] as number, lines.at(-1) as number];
  const bar = (lines[1] as number) - first;
  switch (cut) {
    case 'strokes':
      return strokes
        .filter((s) => s.at >= first - bar * EARLY_SHARE && s.at < last)
        .map((stroke) => ({ id: stroke.id, at: stroke.at, stroke }));
    case 'sixteen':
      return at(
        Array.from({ length: 16 }, (_, i) => first + ((last - first) * i) / 16),
        'p',
        strokes,
      );
    case 'bars':
      return lines.slice(0, -1).map((line, i) => ({ id: `b${i}`, at: line }));
    case 'whole':
      return [{ id: 'w', at: first }];
    case 'eighths':
    case 'sixteenths': {
      const each = (numerator * (cut === 'eighths' ? 8 : 16)) / denominator;
      const steps = Math.max(1, Math.round(each));
      return at(
        lines
          .slice(0, -1)
          .flatMap((line, i) => Array.from({ length: steps }, (_, k) => line + (((lines[i + 1] as number) - line) * k) / steps)),
        cut === 'eighths' ? 'e' : 's',
        strokes,
      );
    }
  }
}

/** Cuts at given moments, each with what is struck there. */
function at(moments: readonly number[], name: string, strokes: readonly BreakStroke[]): Cut[] {
  return moments.map((moment, i) => {
    const near = strokes.filter((s) => s.at >= moment - BEFORE_LINE && s.at < moment + NEAR_LINE).sort((a, b) => b.level - a.level)[0];
    return { id: `${name}${i}`, at: moment, ...(near ? { stroke: near } : {}) };
  });
}
