'use client';

import { addNudge, addVelocity, duplicatesIn, MAX_NUDGE_MS, removeHits, setNudges, setVelocities } from '@/core/part/commands/hits';
import { setGhost } from '@/core/part/commands/marks';
import { leanOf } from '@/core/feel/perform';
import { mean } from '@/core/analysis/statistics';
import type { Hit } from '@/core/part/part';
import { milliseconds } from '@/core/units';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { describeHits, hitText } from '../describe';
import { useBench, useBenchStore } from '../store/context';
import { performanceOf } from '../store/derived';

const MOST_LISTED = 12;

/** The selection in words and numbers. */
export function HitsPage() {
  const part = useBench((s) => s.part);
  const selection = useBench((s) => s.selection);
  const { getState } = useBenchStore();
  const indices = part.hits.flatMap((h, i) => (selection.has(h.id) ? [i] : []));
  if (indices.length === 0) return <Empty />;

  const hits = indices.map((i) => part.hits[i] as Hit);
  const one = hits.length === 1;
  const what = describeHits(part, selection);
  const velocity = mean(hits.map((h) => h.velocity));
  const nudge = mean(hits.map((h) => h.nudge?.ms ?? 0));
  const performance = performanceOf(part);
  const allGhosts = hits.every((h) => h.ghost);
  const duplicates = duplicatesIn(part, selection);
  const voices = new Set(hits.map((h) => h.voice));
  const row = voices.size === 1 ? part.hits.filter((h) => voices.has(h.voice)) : [];
  const live = (label: string) => {
    if (!getState().gesture) getState().begin(label);
  };
  const done = { onDone: () => getState().commit(), onCancel: () => getState().cancel() };

  return (
    <div className="space-y-5">
      <h2 className="font-serif text-lg first-letter:uppercase">{what}</h2>
      <div className="flex items-baseline justify-between">
        <span>{one ? 'Velocity' : 'Mean velocity'}</span>
        <NumberField
          label={one ? 'Velocity' : 'Mean velocity'}
          value={Math.round(velocity)}
          min={1}
          max={127}
          unit="of 127"
          default={96}
          {...done}
          onChange={(v) => {
            live(`Set the velocity of ${what}`);
            const base = getState().gesture?.base ?? part;
            const was = mean(base.hits.filter((h) => selection.has(h.id)).map((h) => h.velocity));
            getState().preview((p) => (one ? setVelocities(p, selection, () => v) : addVelocity(p, selection, v - Math.round(was))));
          }}
        />
      </div>
      {!one && (
        <div className="flex justify-end">
          <Button onClick={() => getState().run(`Level ${what}`, (p) => setVelocities(p, selection, () => velocity))}>Set all to {Math.round(velocity)}</Button>
        </div>
      )}
      <div className="flex items-baseline justify-between">
        <span>{one ? 'Nudge' : 'Mean nudge'}</span>
        <NumberField
          label={one ? 'Nudge' : 'Mean nudge'}
          value={nudge}
          min={-MAX_NUDGE_MS}
          max={MAX_NUDGE_MS}
          digits={1}
          unit={nudge < 0 ? 'ms early' : nudge > 0 ? 'ms late' : 'ms'}
          default={0}
          {...done}
          onChange={(v) => {
            live(`Nudge ${what}`);
            const base = getState().gesture?.base ?? part;
            const was = mean(base.hits.filter((h) => selection.has(h.id)).map((h) => h.nudge?.ms ?? 0));
            getState().preview((p) => (one ? setNudges(p, selection, () => v) : addNudge(p, selection, milliseconds(v - was))));
          }}
        />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button disabled={hits.every((h) => !h.nudge)} onClick={() => getState().run(`Take the nudge off ${what}`, (p) => setNudges(p, selection, () => 0))}>
          No nudge
        </Button>
        <Button onClick={() => getState().run(allGhosts ? `Make ${what} plain` : `Make ${what} ghosts`, (p) => setGhost(p, selection, !allGhosts))}>{allGhosts ? 'Not a ghost' : one ? 'Make it a ghost' : 'Make them ghosts'}</Button>
        {duplicates.size > 0 && (
          <Button onClick={() => getState().run(`Merge ${duplicates.size} duplicates`, (p) => removeHits(p, duplicates))}>
            Merge {duplicates.size} {duplicates.size === 1 ? 'duplicate' : 'duplicates'}
          </Button>
        )}
        {row.length > hits.length && <Button onClick={() => getState().select(row.map((h) => h.id))}>All {row.length} of this row</Button>}
        <Button
          onClick={() => {
            getState().run(`Delete ${what}`, (p) => removeHits(p, selection));
            getState().select([]);
          }}
        >
          Delete
        </Button>
      </div>
      <ul className="space-y-1 border-t border-line pt-3 text-sm text-faint">
        {indices.slice(0, MOST_LISTED).map((i) => (
          <li key={(part.hits[i] as Hit).id}>{hitText(part, part.hits[i] as Hit, performance.homes.ticks[i] as number, performance.velocities[i] as number, leanOf(part, performance, i))}</li>
        ))}
        {indices.length > MOST_LISTED && <li>… and {indices.length - MOST_LISTED} more</li>}
      </ul>
    </div>
  );
}

function Empty() {
  const focus = useBench((s) => s.focus);
  const part = useBench((s) => s.part);
  const { getState } = useBenchStore();
  const row = focus ? part.hits.filter((h) => h.voice === focus) : [];
  return (
    <div className="space-y-3">
      <h2 className="font-serif text-lg">Nothing selected</h2>
      <p className="text-faint">Click a stem to select it, or drag over empty ground. Shift adds.</p>
      <p className="text-faint">Drag a head up or down for its velocity, sideways to place it early or late. A click on an empty step adds a hit.</p>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => getState().select(part.hits.map((h) => h.id))} disabled={part.hits.length === 0}>
          Select all {part.hits.length}
        </Button>
        {row.length > 0 && <Button onClick={() => getState().select(row.map((h) => h.id))}>Select the open row</Button>}
      </div>
    </div>
  );
}
