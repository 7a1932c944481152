'use client';

import { Plus, Trash2 } from 'lucide-react';
import { Switch } from 'radix-ui';
import { MAX_SWING, MIN_SWING, STRAIGHT, SWING_DIVISIONS, type SwingDivision, type SwingMove } from '@/core/feel/feel';
import { percentOfRatio, ratioOfPercent, SWING_RATIOS, swingMilliseconds, wordOfPercent } from '@/core/feel/swing';
import { removeSwing, setSway, setSwing, startTempo, swingOf } from '@/core/part/commands/settings';
import { Button, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Range } from '@/ui/Range';
import { useBench, useBenchStore } from '../store/context';
import { PairPicture } from './PairPicture';

/** The moves of the feel and how much of them is used. */
export function FeelPage() {
  const sway = useBench((s) => s.part.feel.sway);
  const swing = useBench((s) => swingOf(s.part.feel));
  const { getState } = useBenchStore();
  const sweepSway = (percent: number) => {
    if (!getState().gesture) getState().begin('Change the sway');
    getState().preview((part) => setSway(part, percent / 100));
  };
  return (
    <div className="space-y-6">
      <section aria-label="Sway">
        <div className="flex items-baseline justify-between">
          <h2 className="font-serif text-lg">Sway</h2>
          <NumberField label="Sway" value={Math.round(sway * 100)} min={0} max={100} unit="%" default={100} onChange={sweepSway} onDone={() => getState().commit()} onCancel={() => getState().cancel()} />
        </div>
        <Range label="Sway in percent" value={Math.round(sway * 100)} min={0} max={100} step={1} valueText={`${Math.round(sway * 100)} %`} marks={[0, 25, 50, 75, 100]} onChange={sweepSway} onDone={() => getState().commit()} />
        <p className="text-sm text-faint">{sway === 0 ? 'The part as written.' : sway === 1 ? 'All of the feel below.' : 'Between the written part and the feel below.'}</p>
      </section>
      {swing ? (
        <SwingSection swing={swing} />
      ) : (
        <section className="rounded-md border border-dashed border-strong p-4">
          <p className="mb-3 text-faint">No moves yet: the part is heard as written. Swing makes the off-beats late; the written hits stay untouched.</p>
          <Button onClick={() => getState().run('Add swing', (part) => setSwing(part, { percent: percentOfRatio('4:3') }))}>
            <Plus size={15} /> Add swing
          </Button>
        </section>
      )}
    </div>
  );
}

function SwingSection({ swing }: { swing: SwingMove }) {
  const tempo = useBench((s) => startTempo(s.part));
  const { getState } = useBenchStore();
  const on = swing.on !== false;
  const ms = swingMilliseconds(swing.percent, swing.division, tempo);
  const sweep = (percent: number) => {
    if (!getState().gesture) getState().begin('Change the swing');
    getState().preview((part) => setSwing(part, { percent }));
  };
  const done = () => getState().commit();
  const set = (label: string, change: Partial<SwingMove>) => getState().run(label, (part) => setSwing(part, change));
  return (
    <section aria-label="Swing" className={on ? '' : 'opacity-60'}>
      <div className="mb-2 flex items-center gap-2">
        <Switch.Root checked={on} onCheckedChange={(next) => set(next ? 'Switch the swing on' : 'Switch the swing off', { on: next })} aria-label="Swing on" className="h-5 w-9 shrink-0 rounded-full border border-strong bg-ground data-[state=checked]:bg-accent">
          <Switch.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-strong transition-transform data-[state=checked]:translate-x-[17px] data-[state=checked]:bg-on-accent" />
        </Switch.Root>
        <h2 className="flex-1 font-serif text-lg">Swing</h2>
        <IconButton label="Remove the swing" onClick={() => getState().run('Remove the swing', removeSwing)}>
          <Trash2 size={16} />
        </IconButton>
      </div>
      <p className="leading-8">
        All rows, all bars: swing{' '}
        <Picker label="Division" value={swing.division} choices={SWING_DIVISIONS.map((d) => ({ value: d, text: d }))} onChange={(d) => set('Change the swing division', { division: d as SwingDivision })} /> at{' '}
        <Picker label="Ratio" value={ratioOfPercent(swing.percent)} choices={SWING_RATIOS.map((r) => ({ value: r, text: r }))} onChange={(r) => set('Change the swing', { percent: percentOfRatio(r as (typeof SWING_RATIOS)[number]) })} />
      </p>
      <PairPicture percent={swing.percent} division={swing.division} />
      <Range label="Swing in percent" value={swing.percent} min={MIN_SWING} max={MAX_SWING} step={0.5} valueText={`${swing.percent} %, ${wordOfPercent(swing.percent)}`} marks={SWING_RATIOS.map(percentOfRatio)} onChange={sweep} onDone={done} />
      <div className="flex items-baseline justify-between gap-2">
        <NumberField label="Swing" value={swing.percent} min={MIN_SWING} max={MAX_SWING} digits={2} unit="%" default={STRAIGHT} onChange={sweep} onDone={done} onCancel={() => getState().cancel()} />
        <span data-testid="swing-ms">
          {Math.abs(ms).toFixed(1)} ms {ms < 0 ? 'early' : 'late'}
        </span>
        <span data-testid="swing-word" className="font-serif italic">
          {wordOfPercent(swing.percent)}
        </span>
      </div>
      <div className="mt-3 flex flex-wrap gap-1" role="group" aria-label="Ratios">
        {SWING_RATIOS.map((r) => (
          <Button key={r} look={ratioOfPercent(swing.percent) === r ? 'strong' : 'quiet'} className="!h-7 !px-2 text-sm" onClick={() => set('Change the swing', { percent: percentOfRatio(r) })}>
            {r}
          </Button>
        ))}
      </div>
    </section>
  );
}
