'use client';

import { counted } from '@/core/plurals';
import { memo } from 'react';
import { STRAIGHT, MAX_SWING, MIN_SWING, SWING_DIVISIONS, type Scope, type SwingDivision, type SwingMove } from '@/core/model/feel';
import { percentOfRatio, ratioOfPercent, SWING_RATIOS, swingMilliseconds, wordOfPercent } from '@/core/feel/swing';
import { foundSwings } from '@/core/homes/swings';
import { scopeTest } from '@/core/feel/scope';
import { homesOf } from '@/core/homes/homes';
import { startTempo } from '@/core/commands/settings';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Range } from '@/ui/Range';
import { say } from '@/ui/notify';
import { useBench, useBenchStore } from '../../store/context';
import { tapPair } from './tap-pair';
import { PairPicture } from './PairPicture';
import type { Edit } from './edit';

/** Swing by ratio, by number, by sweeping, by dragging the off-beat of the picture; or as much as the part already has. */
export function SwingSentence({ move, edit }: { move: SwingMove; edit: Edit }) {
  const tempo = useBench((s) => startTempo(s.part));
  const ms = swingMilliseconds(move.percent, move.division, tempo);
  const sweep = (percent: number) => edit.sweep({ percent: Math.min(MAX_SWING, Math.max(MIN_SWING, percent)) });
  return (
    <div>
      <p className="leading-8">
        {move.inverse ? 'straightens' : 'swings'} <Division value={move.division} edit={edit} /> at{' '}
        <Ratio value={ratioOfPercent(move.percent)} edit={edit} />
      </p>
      <PairPicture percent={move.percent} division={move.division} onSweep={sweep} onDone={edit.done} />
      <Range
        label="Swing in percent"
        value={move.percent}
        min={MIN_SWING}
        max={MAX_SWING}
        step={0.5}
        valueText={`${move.percent} %, ${wordOfPercent(move.percent)}`}
        marks={MARKS}
        onChange={sweep}
        onDone={edit.done}
      />
      <div className="flex items-baseline justify-between gap-2">
        <NumberField
          label="Swing"
          value={move.percent}
          min={MIN_SWING}
          max={MAX_SWING}
          digits={2}
          unit="%"
          default={STRAIGHT}
          onChange={sweep}
          onDone={edit.done}
          onCancel={edit.cancel}
        />
        <span data-testid="swing-ms">
          {Math.abs(ms).toFixed(1)} ms {ms < 0 ? 'early' : 'late'}
        </span>
        <span data-testid="swing-word" className="font-serif italic">
          {wordOfPercent(move.percent)}
        </span>
      </div>
      <Ratios value={ratioOfPercent(move.percent)} edit={edit} />
      <OtherWays scope={move.scope} inverse={move.inverse === true} edit={edit} />
    </div>
  );
}

// What does not change while an amount is swept stands in parts of its own, so that a sweep need not make it anew at every frame.

const MARKS = SWING_RATIOS.map(percentOfRatio);
const DIVISIONS = SWING_DIVISIONS.map((d) => ({ value: d, text: d }));
const RATIOS = SWING_RATIOS.map((r) => ({ value: r, text: r }));

const Division = memo(function Division({ value, edit }: { value: SwingDivision; edit: Edit }) {
  return (
    <Picker
      label="Division"
      value={value}
      choices={DIVISIONS}
      onChange={(d) => edit.set('Change the swing division', { division: d as SwingDivision })}
    />
  );
});

const Ratio = memo(function Ratio({ value, edit }: { value: string; edit: Edit }) {
  return (
    <Picker
      label="Ratio"
      value={value}
      choices={RATIOS}
      onChange={(r) => edit.set('Change the swing', { percent: percentOfRatio(r as (typeof SWING_RATIOS)[number]) })}
    />
  );
});

const Ratios = memo(function Ratios({ value, edit }: { value: string; edit: Edit }) {
  return (
    <div className="mt-2 flex flex-wrap gap-1" role="group" aria-label="Ratios">
      {SWING_RATIOS.map((r) => (
        <Button
          key={r}
          look={value === r ? 'strong' : 'quiet'}
          size="small"
          onClick={() => edit.set('Change the swing', { percent: percentOfRatio(r) })}
        >
          {r}
        </Button>
      ))}
    </div>
  );
});

/** Measured, straightened, tapped. */
const OtherWays = memo(function OtherWays({ scope, inverse, edit }: { scope: Scope | undefined; inverse: boolean; edit: Edit }) {
  const { getState } = useBenchStore();
  const measure = () => {
    const { part } = getState();
    const inScope = scopeTest(scope, part, homesOf(part));
    const swings = foundSwings(part, undefined, inScope);
    if (!swings) return say('No swing found. The hits are straight, or there are too few off-beats.');
    const { division, whole: found } = swings;
    const percent = Math.round(found.percent * 100) / 100;
    say(`Measured ${percent} % on ${division}, from ${counted(found.n, 'hit')}.`);
    edit.set(`Swing as measured: ${percent} %`, { division, percent });
  };
  return (
    <div className="mt-1 flex flex-wrap gap-1">
      <Button size="small" onClick={measure}>
        Measure
      </Button>
      <Button
        size="small"
        aria-pressed={inverse}
        onClick={() =>
          edit.set(inverse ? 'Swing instead of straightening' : 'Straighten a swung part', { inverse: inverse ? undefined : true })
        }
      >
        {inverse ? 'Swing instead' : 'Straighten instead'}
      </Button>
      <PairTap onPercent={(percent) => edit.set('Swing as tapped', { percent })} />
    </div>
  );
});

/** Taps of a pair, long and short in turn: their mean ratio. */
function PairTap({ onPercent }: { onPercent: (percent: number) => void }) {
  const tap = () => {
    const { taps, percent } = tapPair(tapped, performance.now());
    tapped = taps;
    if (percent !== null) onPercent(percent);
  };
  return (
    <Button size="small" title="Tap long, short, long, short: the first tap is on the beat" onClick={tap}>
      Tap the pair
    </Button>
  );
}

let tapped: readonly number[] = [];
