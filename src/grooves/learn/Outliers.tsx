import { plural } from '@/core/plurals';
import type { Groove } from '@/core/model/groove';
import type { Outlier } from '@/core/learn/study';
import { labelOfRow } from '@/core/part/rows';
import { meterMapOf } from '@/core/part/part-time';
import type { Hit, Part } from '@/core/model/part';
import { stepName } from '../words/words';

const MOST_LISTED = 4;

interface Props {
  part: Part;
  groove: Groove;
  outliers: readonly Outlier[];
  /** They are left out. */
  left: boolean;
  onLeave: (left: boolean) => void;
}

/** Hits that lie far from what the others of their step do. */
export function Outliers({ part, groove, outliers, left, onLeave }: Props) {
  if (outliers.length === 0) return null;
  const map = meterMapOf(part);
  const text = ({ hit, voice, step, ms }: Outlier): string =>
    `${labelOfRow(part, voice)}, bar ${map.barAt((part.hits[hit] as Hit).tick).index + 1}, step ${stepName(groove, step)}: ${Math.abs(ms).toFixed(0)} ms ${ms < 0 ? 'earlier' : 'later'} than the rest`;
  return (
    <div className="mt-2 text-sm" data-testid="outliers">
      <label className="flex items-center gap-2">
        <input type="checkbox" className="accent-accent" checked={left} onChange={(e) => onLeave(e.target.checked)} /> leave out{' '}
        {outliers.length} {plural(outliers.length, 'outlier')}
      </label>
      <ul className="text-faint">
        {outliers.slice(0, MOST_LISTED).map((o) => (
          <li key={o.hit}>{text(o)}</li>
        ))}
        {outliers.length > MOST_LISTED && <li>and {outliers.length - MOST_LISTED} more</li>}
      </ul>
    </div>
  );
}
