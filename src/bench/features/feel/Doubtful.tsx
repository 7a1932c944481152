'use client';

import { plural } from '@/core/plurals';
import { useMemo } from 'react';
import { doubtfulForMove, type DoubtfulHit } from '@/core/perform/doubtful';
import { decideHomesOn, setAlone } from '@/core/commands/marks';
import { labelOfRow } from '@/core/part/rows';
import type { Hit } from '@/core/model/part';
import { Button } from '@/ui/Button';
import { placeText } from '../../words/describe';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { detectAgain } from '../../actions/detect';
import { reveal } from '../../actions/view-control';
import { stemsFacts } from '../../store/stems-facts';

const MOST_LISTED = 6;

/**
 * Hits that this move could pull to the wrong line: each is shown with both lines, decided by hand, and the decision stays with the hit.
 */
export function Doubtful({ index }: { index: number }) {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const found = useMemo(() => doubtfulForMove(part, index), [part, index]);
  const decided = useMemo(() => part.hits.filter((h) => h.alone || h.decided).length, [part]);
  const decide = (doubt: DoubtfulHit, choice: 'earlier' | 'later' | 'alone') => {
    const ids = new Set([(part.hits[doubt.index] as Hit).id]);
    store
      .getState()
      .run(choice === 'alone' ? 'Leave an uncertain hit alone' : `An uncertain hit belongs to the ${choice} line`, (p) =>
        choice === 'alone' ? setAlone(p, ids, true) : decideHomesOn(p, ids, doubt[choice]),
      );
  };
  const show = (hit: Hit) => {
    store.getState().select([hit.id]);
    reveal(store, hit.tick, stemsFacts(store).width);
  };
  if (found.length === 0 && decided === 0)
    return <p className="text-sm text-faint">No uncertain hits: each one clearly belongs to a line.</p>;
  const line = (doubt: DoubtfulHit, side: 'earlier' | 'later') => placeText(part, doubt[side]).replace(/^bar \d+ · /, '');
  return (
    <div data-testid="doubtful">
      <p className="text-sm text-faint">
        {found.length} uncertain {plural(found.length, 'hit')}
        {decided > 0 ? `, ${decided} decided` : ''}
        {decided > 0 && (
          <Button
            size="tiny"
            className="ml-2"
            onClick={() =>
              void detectAgain(store, new Set(part.hits.filter((h) => h.alone || h.decided).map((h) => h.id)), {
                label: 'Undo the decisions on uncertain hits',
                undecide: true,
              })
            }
          >
            Reset decisions
          </Button>
        )}
      </p>
      <ul className="mt-1 space-y-2.5">
        {found.slice(0, MOST_LISTED).map((doubt) => {
          const hit = part.hits[doubt.index] as Hit;
          return (
            <li key={hit.id} className="flex flex-wrap items-center gap-1 text-sm">
              <button type="button" className="underline underline-offset-2" onClick={() => show(hit)}>
                {labelOfRow(part, hit.voice)}, {placeText(part, doubt.earlier)}
              </button>
              <span className="text-faint">{doubtWords(doubt, { earlier: line(doubt, 'earlier'), later: line(doubt, 'later') })}</span>
              {(['earlier', 'later'] as const).map((side) => (
                <Button key={side} size="tiny" aria-label={`belongs to the ${side} line`} onClick={() => decide(doubt, side)}>
                  Belongs to {line(doubt, side)}
                  {doubt.taken === side && <span className="text-faint">(taken)</span>}
                </Button>
              ))}
              <Button size="tiny" onClick={() => decide(doubt, 'alone')}>
                Leave
              </Button>
            </li>
          );
        })}
      </ul>
      {found.length > MOST_LISTED && <p className="text-sm text-faint">and {found.length - MOST_LISTED} more</p>}
    </div>
  );
}

/** What speaks for each line, by their names. */
function doubtWords({ share, taken, home, sure, elsewhere }: DoubtfulHit, names: Readonly<Record<'earlier' | 'later', string>>): string {
  const words = [`${Math.round(share * 100)} % of the way to ${names.later}`];
  if (home) words.push(sure < 1 ? `read as ${names[home]}, ${Math.round(sure * 100)} % sure` : `its line is ${names[home]}`);
  const { earlier, later } = elsewhere;
  if (earlier + later > 0)
    words.push(
      `other bars ${[earlier > 0 ? `${names.earlier} (${earlier})` : '', later > 0 ? `${names.later} (${later})` : ''].filter(Boolean).join(', ')}`,
    );
  if (!taken) words.push('exactly between: it stays');
  return words.join(' · ');
}
