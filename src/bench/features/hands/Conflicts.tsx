'use client';

import { useMemo } from 'react';
import type { ShownConflict } from '@/core/analysis/hands-of-part';
import { fixConflict, type Fix } from '@/core/commands/fixes';
import type { Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import { Button } from '@/ui/Button';
import { say } from '@/ui/notify';
import { reveal } from '../../actions/view-control';
import { useFindings } from '../../shared/use-findings';
import { useBench, useBenchStore } from '../../store/context';
import { stemsFacts } from '../../store/stems-facts';
import type { PageFinding } from '../../store/ui-state';
import { groupConflicts, type ConflictGroup } from '../../words/group-conflicts';
import { placesText } from '../../words/places';

const LISTED = 12;

const whereText = (part: Part, conflicts: readonly ShownConflict[]): string =>
  placesText(
    part,
    conflicts.map((c) => c.tick),
  );

const findingsOf = (part: Part, conflicts: readonly ShownConflict[]): PageFinding[] =>
  conflicts.map(({ moment, tick, text }) => ({ ids: moment, tick, text: `${placesText(part, [tick])}: ${text}.` }));

/** Lists what nobody can play. Equal conflicts share one line, and a fix applies to all of them. */
export function Conflicts({ conflicts }: { conflicts: readonly ShownConflict[] }) {
  const store = useBenchStore();
  const part = useBench((s) => s.part);
  useFindings(useMemo(() => findingsOf(store.getState().part, conflicts), [store, conflicts]));
  const groups = useMemo(() => groupConflicts(conflicts), [conflicts]);
  const look = ({ conflicts: those }: ConflictGroup) => {
    store.getState().select(those.flatMap((c) => c.moment));
    reveal(store, those[0].tick, stemsFacts(store).width);
  };
  const fixAll = ({ conflicts: those }: ConflictGroup, { kind, words }: Fix) => {
    store
      .getState()
      .run(`${words[0]?.toUpperCase()}${words.slice(1)}`, (p) => those.reduce((now, conflict) => fixConflict(now, conflict, kind), p));
    say(`${labelOfRow(part, those[0].voice)}, ${whereText(part, those)}: ${words}.`);
  };
  return (
    <section aria-label="What nobody can play">
      <ul className="space-y-2.5">
        {groups.slice(0, LISTED).map((group) => (
          <li key={`${group.conflicts[0].tick} ${group.conflicts[0].hit}`} className="text-sm">
            <button type="button" className="underline underline-offset-2" onClick={() => look(group)}>
              {whereText(part, group.conflicts)}
            </button>
            : {group.text}
            <span className="mt-0.5 flex flex-wrap gap-1">
              {group.fixes.map((fix) => (
                <Button key={fix.kind} size="tiny" onClick={() => fixAll(group, fix)}>
                  {fix.words}
                  {group.conflicts.length > 1 && <span className="text-faint"> ({group.conflicts.length})</span>}
                </Button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      {groups.length > LISTED && <p className="mt-1 text-sm text-faint">and {groups.length - LISTED} more</p>}
      <p className="mt-1 text-sm text-faint">Shift N goes through them one by one.</p>
    </section>
  );
}
