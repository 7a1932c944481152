'use client';

import { useMemo } from 'react';
import { pinHomes, setAlone, type HomeChoice } from '@/core/part/commands/marks';
import { labelOfRow } from '@/core/part/commands/rows';
import { homesOf } from '@/core/homes/homes';
import { tempoMapOf } from '@/core/part/part-time';
import type { Hit } from '@/core/part/part';
import { ticks } from '@/core/units';
import { Button } from '@/ui/Button';
import { leanText, placeText } from '../../describe';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { reveal } from '../../view-control';

const MOST_LISTED = 6;

/** Hits that tightening could pull to the wrong line: each is decided by hand, and the decision stays with the hit. */
export function Doubtful() {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const found = useMemo(() => {
    const homes = homesOf(part);
    return part.hits.flatMap((hit, i) => (homes.doubtful[i] && !hit.alone ? [{ hit, home: homes.ticks[i] as number }] : []));
  }, [part]);
  const decided = useMemo(() => part.hits.filter((h) => h.alone || h.home !== undefined).length, [part]);
  const decide = (hit: Hit, choice: HomeChoice | 'alone') =>
    store.getState().run(choice === 'alone' ? 'Leave a doubtful hit alone' : `Send a doubtful hit to the ${choice} line`, (p) => (choice === 'alone' ? setAlone(p, new Set([hit.id]), true) : pinHomes(p, new Set([hit.id]), choice)));
  const show = (hit: Hit) => {
    store.getState().select([hit.id]);
    reveal(store, hit.tick, document.querySelector('[data-testid=stems]')?.clientWidth ?? 800);
  };
  if (found.length === 0 && decided === 0) return <p className="text-sm text-faint">No doubtful hits: each one clearly belongs to a line.</p>;
  const small = '!h-6 !px-1.5 text-sm';
  return (
    <div data-testid="doubtful">
      <p className="text-sm text-faint">
        {found.length} doubtful {found.length === 1 ? 'hit' : 'hits'}
        {decided > 0 ? `, ${decided} decided` : ''}
        {decided > 0 && (
          <Button className={`${small} ml-2`} onClick={() => store.getState().run('Take the decisions back', (p) => { const all = new Set(p.hits.filter((h) => h.alone || h.home !== undefined).map((h) => h.id)); return setAlone(pinHomes(p, all, 'fitted'), all, false); })}>
            take back
          </Button>
        )}
      </p>
      <ul className="space-y-1">
        {found.slice(0, MOST_LISTED).map(({ hit, home }) => (
          <li key={hit.id} className="flex flex-wrap items-center gap-1 text-sm">
            <button type="button" className="underline underline-offset-2" onClick={() => show(hit)}>
              {labelOfRow(part, hit.voice)}, {placeText(part, home)}
            </button>
            <span className="text-faint">{leanText(tempoMapOf(part).between(ticks(home), hit.tick))}:</span>
            <Button className={small} onClick={() => decide(hit, 'earlier')}>earlier</Button>
            <Button className={small} onClick={() => decide(hit, 'later')}>later</Button>
            <Button className={small} onClick={() => decide(hit, 'alone')}>leave</Button>
          </li>
        ))}
      </ul>
      {found.length > MOST_LISTED && <p className="text-sm text-faint">and {found.length - MOST_LISTED} more</p>}
    </div>
  );
}
