/** What was read of a part's lines, in sentences. */
import { counted, listed, plural } from '@/core/plurals';
import type { LinesRead } from '@/core/analysis/lines-read';
import type { Swings } from '@/core/homes/swings';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import type { GridName } from '@/core/time/grid';

const NOTES: Partial<Record<GridName, string>> = {
  '1/4': 'Quarters',
  '1/8': 'Eighths',
  '1/16': 'Eighths and sixteenths',
  '1/32': 'Sixteenths and thirty-seconds',
  '1/64': 'Thirty-seconds and sixty-fourths',
};
/** Above this share of its hits a part is in triplets. */
const THROUGHOUT = 0.5;
/** So many bars, or groups of bars, are named one by one. */
const NAMED = 3;

const barsOf = (from: number, to: number): string => (from === to ? `bar ${from}` : `bars ${from} to ${to}`);

/** @example ['Eighths and sixteenths, straight; a triplet beat in bar 4.', '6 hits are doubtful.'] */
export function linesText(
  part: Pick<Part, 'rows' | 'bars'>,
  { finest, triplets, ofTriplets, hits, swings, doubtful }: LinesRead,
): string[] {
  if (hits === 0) return ['No hits yet.'];
  const throughout = ofTriplets > THROUGHOUT * hits;
  const counts = finest ? NOTES[finest] : undefined;
  const first = throughout
    ? `Triplets throughout${counts && finest !== '1/4' ? `, with ${counts.toLowerCase()}` : ''}`
    : `${counts ?? 'Free'}${swings ? '' : ', straight'}`;
  const bars = [...new Set(triplets.map((t) => t.bar + 1))];
  const beats = plural(triplets.length, 'a triplet beat', 'triplet beats');
  const few =
    throughout || triplets.length === 0
      ? ''
      : bars.length <= NAMED
        ? `; ${beats} in ${plural(bars.length, 'bar')} ${listed(bars.map(String))}`
        : `; triplets on ${triplets.length} beats`;
  const unsure = doubtful.reduce((sum, g) => sum + g.hits.length, 0);
  return [
    `${first}${few}.`,
    ...(swings ? [swingText(part, swings)] : []),
    unsure === 0 ? 'No hit is uncertain.' : `${counted(unsure, 'hit')} ${plural(unsure, 'is', 'are')} uncertain.`,
  ];
}

/** @example 'Sixteenths of the closed hat swing 58 % (bars 1 to 4), 66 % (bars 5 to 8).' */
export function swingText(part: Pick<Part, 'rows' | 'bars'>, { division, whole, rows, bars }: Swings): string {
  const notes = division === '1/8' ? 'Eighths' : 'Sixteenths';
  const names = [...rows.keys()].map((voice) => labelOfRow(part, voice).toLowerCase());
  const whose = names.length === 0 || names.length > NAMED ? '' : ` of the ${listed(names)}`;
  const percent = (p: number): string => `${p.toFixed(0)} %`;
  const groups = bars.filter((b) => b.n >= 2);
  const amounts =
    groups.length <= 1
      ? percent(whole.percent)
      : groups.length <= NAMED
        ? groups.map((b) => `${percent(b.percent)} (${barsOf(b.fromBar, b.toBar)})`).join(', ')
        : `${percent(whole.percent)} on average, ${percent(Math.min(...groups.map((b) => b.percent)))} to ${percent(Math.max(...groups.map((b) => b.percent)))} by bar`;
  return `${notes}${whose} swing ${amounts}.`;
}
