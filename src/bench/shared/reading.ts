/** A part in two or three sentences. */
import { listed, plural } from '@/core/plurals';
import { HEARD_MS, isFlat, looseness, SOME, type Placement, type RowPlacement } from '@/core/analysis/placement';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';

const low = (part: Pick<Part, 'rows'>, r: RowPlacement): string => labelOfRow(part, r.voice).toLowerCase();
const capital = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`;

/** So many rows are told of by name. */
const TOLD = 3;
/**
 * Off-beats within this of the middle are straight; where they lie at three quarters of their pair they are sixteenths, not swung eighths.
 */
const STRAIGHT = 1.5;
const DOTTED = 73.5;
/** More than this off-beats scatter where some are straight and some are not. */
const ONE_SWING = 6;
const isSwing = ({ percent, sd }: NonNullable<RowPlacement['swing']>): boolean =>
  Math.abs(percent - 50) >= STRAIGHT && percent < DOTTED && sd < ONE_SWING;

/** @example ['Closed hat pushes 6 ms, snare sits 11 ms late, sixteenths swing 57 %.', 'Kick has one velocity throughout.'] */
export function readingOf(part: Pick<Part, 'rows'>, { rows }: Pick<Placement, 'rows'>): string[] {
  if (rows.length === 0) return ['No hits yet.'];
  const said: string[] = [];
  const whole = togetherLate(rows);
  const leaning =
    whole !== null
      ? []
      : rows
          .filter((r) => Math.abs(r.leanMs) >= HEARD_MS)
          .sort((a, b) => Math.abs(b.leanMs) - Math.abs(a.leanMs))
          .slice(0, TOLD);
  const places = leaning.map(
    (r) => `${low(part, r)} ${r.leanMs < 0 ? 'pushes' : 'sits'} ${Math.abs(r.leanMs).toFixed(0)} ms${r.leanMs < 0 ? '' : ' late'}`,
  );
  const swung = rows.flatMap((r) => (r.swing && isSwing(r.swing) ? [r.swing] : [])).sort((a, b) => b.n - a.n)[0];
  const swing = swung ? [`${swung.division === '1/8' ? 'eighths' : 'sixteenths'} swing ${swung.percent.toFixed(0)} %`] : [];
  const where = [
    ...(whole === null ? [] : [`everything ${whole < 0 ? 'pushes' : 'sits'} ${Math.abs(whole).toFixed(0)} ms${whole < 0 ? '' : ' late'}`]),
    ...places,
    ...swing,
  ];
  if (where.length > 0) said.push(`${capital(where.join(', '))}.`);
  else
    said.push(
      `${rows.every((r) => looseness(r.spreadMs) === 'exact') ? (rows.some((r) => r.isOffStraight) ? 'Every hit is on the swung grid' : 'Every hit is on the grid') : 'No row is early or late as a whole'}.`,
    );
  const spread = Math.max(...rows.map((r) => r.spreadMs));
  if (looseness(spread) !== 'exact')
    said.push(
      `${{ tight: 'Tight', human: 'As loose as a person plays', loose: 'Loose' }[looseness(spread) as 'tight' | 'human' | 'loose']}: hits vary by up to ${spread.toFixed(0)} ms around their rows.`,
    );
  const flat = rows.filter(isFlat);
  // Of rows with a few strokes alone nothing is told.
  if (flat.length > 0 && flat.length === rows.filter((r) => r.n >= SOME).length) said.push('Every row has one velocity throughout.');
  else if (flat.length > 0)
    said.push(`${capital(listed(flat.map((r) => low(part, r))))} ${plural(flat.length, 'has', 'have')} one velocity throughout.`);
  return said;
}

/** How late all rows are, where they are all so by about as much; null where they are not. */
function togetherLate(rows: readonly RowPlacement[]): number | null {
  const n = rows.reduce((sum, r) => sum + r.n, 0);
  const mean = rows.reduce((sum, r) => sum + r.leanMs * r.n, 0) / n;
  return rows.length > 1 && Math.abs(mean) >= HEARD_MS && rows.every((r) => Math.abs(r.leanMs - mean) < HEARD_MS) ? mean : null;
}

export const leanWords = (ms: number): string =>
  Math.abs(ms) < 0.05 ? 'on the grid' : `${Math.abs(ms).toFixed(1)} ${ms < 0 ? 'early' : 'late'}`;
