'use client';

import { plural } from '@/core/plurals';
import { memo, useState } from 'react';
import { mean } from '@/core/statistics';
import { doubtfulFlags } from '@/core/perform/doubtful';
import { leanOf } from '@/core/perform/perform';
import { voicesTogether } from '@/core/commands/apart';
import { addNudge, MAX_NUDGE_MS, setNudges } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import { decideHomes, type Side } from '@/core/commands/marks';
import { tempoMapOf } from '@/core/part/part-time';
import type { Hit } from '@/core/model/part';
import { stepOf } from '@/core/time/grid';
import { milliseconds, ticks } from '@/core/units';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { leanText } from '../../words/describe';
import { actOnSelection } from '../../actions/act';
import { detectAgain } from '../../actions/detect';
import { clearNudges, mirrorSelection, nudgeSelection, setSelectionApart } from '../../actions/nudging';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart, performanceOf, shownHits } from '../../store/derived';
import { NUDGE_UNITS, type NudgeUnit } from '../../store/tools';
import { TrialButtons } from '../../shared/TrialButtons';
import { useTrial } from '../../store/use-sweep';

/** Where the selected hits stand against the grid, by hand: in ms and in % of a step. */
export function PlacementSection() {
  const selection = useBench((s) => s.selection);
  return (
    <Section name="placement" title="Nudges">
      {selection.size === 0 ? <p className="text-faint">Select hits to nudge them early or late.</p> : <Placement />}
    </Section>
  );
}

function Placement() {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const live = useBench(shownHits);
  const selection = useBench((s) => s.selection);
  const grid = useBench((s) => s.view.grid);
  const unit = useBench((s) => s.ui.nudgeUnit);
  const trial = useTrial();
  const chosen = live.filter((h) => selection.has(h.id));
  if (chosen.length === 0) return null;
  const one = chosen.length === 1;
  const nudge = mean(chosen.map((h) => h.nudge?.ms ?? 0));
  const before = mean(part.hits.filter((h) => selection.has(h.id)).map((h) => h.nudge?.ms ?? 0));
  const first = chosen[0] as Hit;
  const stepMs = tempoMapOf(part).between(first.tick, ticks(first.tick + stepOf(grid)));
  return (
    <div className="space-y-2">
      <div className="flex items-baseline justify-between">
        <NumberField
          label={one ? 'Nudge' : 'Mean nudge'}
          showLabel
          value={nudge}
          min={-MAX_NUDGE_MS}
          max={MAX_NUDGE_MS}
          digits={1}
          unit={nudge <= -0.05 ? 'ms early' : nudge >= 0.05 ? 'ms late' : 'ms'}
          default={0}
          onChange={(v) =>
            trial.show(`Nudge ${chosen.length} ${one ? 'hit' : 'hits'} to ${v.toFixed(1)} ms`, (p) =>
              addNudge(p, selection, milliseconds(v - before)),
            )
          }
          onDone={trial.done}
          onCancel={trial.cancel}
        />
        <span className="text-sm text-faint" data-testid="nudge-of-step">
          {((Math.abs(nudge) / stepMs) * 100).toFixed(1)} % of a {grid}
        </span>
      </div>
      <TrialButtons trial={trial} />
      <Leans />
      <div className="flex flex-wrap items-center gap-1">
        <Button size="small" onClick={() => nudgeSelection(store, -1)}>
          Earlier
        </Button>
        <Button size="small" onClick={() => nudgeSelection(store, 1)}>
          Later
        </Button>
        <span className="text-faint">by</span>
        <Picker
          label="Nudge by"
          value={unit}
          choices={NUDGE_UNITS.map((u) => ({ value: u, text: u }))}
          onChange={(u) => store.getState().setUi({ nudgeUnit: u as NudgeUnit })}
        />
      </div>
      <div className="flex flex-wrap gap-1">
        <Button size="small" disabled={chosen.every((h) => !h.nudge?.ms)} onClick={() => clearNudges(store)}>
          To 0
        </Button>
        <Button size="small" disabled={chosen.every((h) => !h.nudge?.ms)} onClick={() => mirrorSelection(store)}>
          Mirror
        </Button>
        {!one && (
          <Button
            size="small"
            onClick={() => store.getState().run(`Nudge all to ${nudge.toFixed(1)} ms`, (p) => setNudges(p, selection, () => nudge))}
          >
            All to {nudge.toFixed(1)} ms
          </Button>
        )}
      </div>
      <Apart />
      <Homes />
    </div>
  );
}

/** Where the selected hits are heard against their lines: written place, feel and nudge together. */
const Leans = memo(function Leans() {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const performance = performanceOf(part);
  const leans = part.hits.flatMap((hit, i) => (selection.has(hit.id) ? [leanOf(part, performance, i) as number] : []));
  if (leans.length === 0) return null;
  const [least, most] = [leans.reduce((a, b) => Math.min(a, b)), leans.reduce((a, b) => Math.max(a, b))];
  return (
    <p className="text-sm text-faint" data-testid="leans">
      This is the nudge alone. As heard, {plural(leans.length, 'it leans', 'they lean')} {leanText(mean(leans))}
      {leans.length > 1 && most - least >= 1 ? ` on average, from ${leanText(least)} to ${leanText(most)}` : ''}.
    </p>
  );
});

/** Hits that fall together, set apart by hand. */
const Apart = memo(function Apart() {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const [ms, setMs] = useState(6);
  const [leader, setLeader] = useState<string | null>(null);
  const voices = voicesTogether(part, selection);
  if (voices.length < 2) return null;
  const leads = leader && voices.includes(leader) ? leader : (voices[voices.length - 1] as string);
  return (
    <div className="flex flex-wrap items-baseline gap-1 leading-8">
      <span>These fall together:</span>
      <Picker label="Who leads" value={leads} choices={voices.map((v) => ({ value: v, text: labelOfRow(part, v) }))} onChange={setLeader} />
      <span>leads, the next</span>
      <NumberField
        label="Apart by"
        value={ms}
        min={0}
        max={60}
        digits={1}
        unit="ms later"
        className="[&_input]:w-[2.8em]"
        onChange={setMs}
      />
      <Button size="small" onClick={() => setSelectionApart(store, ms, leads)}>
        Set apart
      </Button>
    </div>
  );
});

/** Uncertain hits, lines that were decided, and hits that stray from their row. */
const Homes = memo(function Homes() {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const performance = performanceOf(part);
  const strays = useBench((s) => (s.whole?.part === calmPart(s) ? s.whole.strays : null));
  const flags = doubtfulFlags(part);
  const one = selection.size === 1;
  let doubtful = 0;
  let decided = 0;
  let stray: number | null = null;
  let strayCount = 0;
  part.hits.forEach((hit, i) => {
    if (!selection.has(hit.id)) return;
    doubtful += flags[i] as number;
    if (hit.decided) decided++;
    if (strays?.flags[i]) {
      stray ??= i;
      strayCount++;
    }
  });
  const decide = (side: Side) => actOnSelection(store, `Belongs to the ${side} line:`, (p, ids) => decideHomes(p, ids, side));
  return (
    <>
      {strayCount > 0 && stray !== null && (
        <p className="text-sm text-faint" data-testid="stray">
          {strayCount === 1
            ? `It strays from its row: ${leanText(leanOf(part, performance, stray))}, the row's mean is ${leanText(strays?.meanLean.get((part.hits[stray] as Hit).voice) ?? 0)}.`
            : `${strayCount} stray more than 20 % of a step from their rows' means.`}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-1">
        <span className="mr-1">
          {doubtful > 0
            ? `${doubtful} uncertain: ${plural(doubtful, 'it belongs', 'they belong')} to`
            : one
              ? 'It belongs to'
              : 'They belong to'}
        </span>
        <Button size="small" onClick={() => decide('earlier')}>
          The earlier line
        </Button>
        <Button size="small" onClick={() => decide('later')}>
          The later line
        </Button>
        {decided > 0 && (
          <Button
            size="small"
            title="Removes your choice and finds the line from the playing again"
            onClick={() => void detectAgain(store, selection, { undecide: true })}
          >
            Detect again
          </Button>
        )}
      </div>
    </>
  );
});
