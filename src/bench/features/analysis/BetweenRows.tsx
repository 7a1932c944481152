'use client';

import { useMemo } from 'react';
import { counted } from '@/core/plurals';
import { setNudges } from '@/core/commands/hits';
import type { Competing } from '@/core/analysis/between';
import type { Placement } from '@/core/analysis/placement';
import { removeHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import type { Hit } from '@/core/model/part';
import { Button } from '@/ui/Button';
import { reveal } from '../../actions/view-control';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { stemsFacts } from '../../store/stems-facts';
import type { PageFinding } from '../../store/ui-state';
import { useFindings } from '../../shared/use-findings';
import { placeText } from '../../words/describe';

const LISTED = 10;
/** Two that compete are brought on one another, or so far apart that they are heard as two. */
const APART_MS = 45;

/** What falls together, what nearly does, and what answers; each leads to its hits. */
export function BetweenRows({ found: { together, competing, answering } }: { found: Placement }) {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const low = (voice: string): string => labelOfRow(part, voice).toLowerCase();
  const hitOf = (i: number): Hit | undefined => part.hits[i];
  const look = (c: Competing) => {
    store.getState().select(c.hits.flatMap((i) => hitOf(i)?.id ?? []));
    reveal(store, c.tick, stemsFacts(store).width);
  };
  const shown = useMemo(
    () =>
      competing.map((c): PageFinding => ({
        ids: c.hits.flatMap((i) => part.hits[i]?.id ?? []),
        tick: c.tick,
        text: `${placeText(part, c.tick)}: ${labelOfRow(part, c.voices[1]).toLowerCase()} ${c.ms.toFixed(0)} ms after ${labelOfRow(part, c.voices[0]).toLowerCase()}.`,
      })),
    [competing, part],
  );
  useFindings(shown);
  const nudgeSecond = (c: Competing, ms: number, words: string) => {
    const second = hitOf(c.hits[1]);
    if (second) store.getState().run(words, (p) => setNudges(p, new Set([second.id]), (h) => (h.nudge?.ms ?? 0) + ms));
  };
  const softer = (c: Competing): Hit | undefined => c.hits.flatMap((i) => hitOf(i) ?? []).sort((a, b) => a.velocity - b.velocity)[0];
  return (
    <div className="space-y-3 text-sm">
      <section aria-label="Competing">
        <h3 className="font-semibold">
          Competing {competing.length > 0 && <span className="font-normal text-faint">{competing.length}</span>}
        </h3>
        {competing.length === 0 && (
          <p className="text-faint">No hits of different rows are within 35 ms of each other on different lines.</p>
        )}
        <ul className="space-y-2">
          {competing.slice(0, LISTED).map((c) => (
            <li key={c.hits.join(' ')}>
              {placeText(part, c.tick)}: {low(c.voices[1])} {c.ms.toFixed(0)} ms after {low(c.voices[0])}
              <span className="mt-0.5 flex flex-wrap gap-1">
                <Button size="tiny" onClick={() => look(c)}>
                  Look
                </Button>
                <Button size="tiny" onClick={() => nudgeSecond(c, -c.ms, 'Bring two together')}>
                  Together
                </Button>
                <Button size="tiny" onClick={() => nudgeSecond(c, APART_MS - c.ms, 'Set two apart')}>
                  Apart
                </Button>
                <Button
                  size="tiny"
                  onClick={() => {
                    const least = softer(c);
                    if (least) store.getState().run('Leave the softer out', (p) => removeHits(p, new Set([least.id])));
                  }}
                >
                  Leave the softer out
                </Button>
              </span>
            </li>
          ))}
        </ul>
        {competing.length > LISTED && <p className="text-faint">and {competing.length - LISTED} more</p>}
      </section>
      <section aria-label="Together">
        <h3 className="font-semibold">Together</h3>
        {together.length === 0 && <p className="text-faint">No two rows share a line.</p>}
        <ul>
          {together.slice(0, LISTED).map((t) => (
            <li key={t.voices.join(' ')}>
              {low(t.voices[0])} and {low(t.voices[1])}: {counted(t.n, 'time')},{' '}
              {Math.abs(t.meanMs) < 0.5 ? 'at once' : `${low(t.voices[t.meanMs > 0 ? 0 : 1])} leads by ${Math.abs(t.meanMs).toFixed(1)} ms`}
              {t.sdMs >= 0.5 && <span className="text-faint"> (± {t.sdMs.toFixed(1)})</span>}
            </li>
          ))}
        </ul>
      </section>
      {answering.length > 0 && (
        <section aria-label="Answering">
          <h3 className="font-semibold">Answering</h3>
          <ul>
            {answering.slice(0, LISTED).map((a) => (
              <li key={a.voices.join(' ')}>
                {low(a.voices[1])} answers {low(a.voices[0])}: {Math.round(a.share * 100)} % of its hits in the gaps
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
