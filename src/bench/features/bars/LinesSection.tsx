'use client';

import { counted, plural } from '@/core/plurals';
import { useState } from 'react';
import { hitsBeyondMeter, pickupOf, setMeter, setPickup } from '@/core/commands/meter';
import { detectAgain } from '../../actions/detect';
import { setOrigin } from '@/core/commands/settings';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import { defaultGroups } from '@/core/time/meter-map';
import { stepOf } from '@/core/time/grid';
import { milliseconds, roundHalfUp, ticks, TICKS_PER_WHOLE } from '@/core/units';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { barsText } from '../../actions/arrange';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { calmPart, originFindingOf } from '../../store/derived';
import { groupings } from './groupings';

const DENOMINATORS = [2, 4, 8, 16] as const;

/** Meter, grouping, pickup and origin. */
export function LinesSection() {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBench(calmPart);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const meter = meterMapOf(part).barOf(from).meter;
  const many = part.meter.length > 1 && pickupOf(part) === null;
  const whole = from === 0 && to >= part.bars;
  const where = whole ? 'the part' : barsText({ from, to });
  const range = { from: whole ? 0 : from, to: whole ? part.bars : to };
  const [wish, setWish] = useState<{ numerator: number; denominator: number } | null>(null);
  const sweep = useSweep();
  const shown = wish ?? meter;
  const changed = wish !== null && (wish.numerator !== meter.numerator || wish.denominator !== meter.denominator);
  const lost = changed ? hitsBeyondMeter(part, range, shown).size : 0;
  const change = (numerator: number, denominator: number, groups?: readonly number[]) => {
    setWish(null);
    getState().run(`Make ${where} ${numerator}/${denominator}${groups ? `, ${groups.join('+')}` : ''}`, (p) =>
      setMeter(p, range, { numerator, denominator, ...(groups ? { groups } : {}) }),
    );
  };
  const groups = (meter.groups ?? defaultGroups(meter.numerator, meter.denominator)).join('+');

  const tempo = tempoMapOf(part);
  const zero = ticks(0);
  const originMs = tempo.between(zero, part.origin);
  const pickup = pickupOf(part);
  const unit = TICKS_PER_WHOLE / meter.denominator;
  const pickups = Array.from({ length: meterMapOf(part).barOf(1).meter.numerator - 1 }, (_, i) => i + 1);
  const finding = part.hits.length >= 8 ? originFindingOf(part) : null;
  const moveOrigin = (ms: number) =>
    sweep.show('Move the lines', (p) => setOrigin(p, ticks(roundHalfUp(tempoMapOf(p).shift(zero, milliseconds(ms))))));
  return (
    <Section name="lines" title="Time signature and grid" note={`${meter.numerator}/${meter.denominator}${many ? ', changes' : ''}`}>
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        <span>{whole ? 'The part is in' : `${where[0]?.toUpperCase()}${where.slice(1)} in`}</span>
        <NumberField
          label="Beats per bar"
          value={shown.numerator}
          min={1}
          max={32}
          unit="/"
          className="[&_input]:w-[2.2em]"
          onChange={(numerator) => setWish({ numerator, denominator: shown.denominator })}
        />
        <Picker
          label="Unit"
          value={String(shown.denominator)}
          choices={DENOMINATORS.map((d) => ({ value: String(d), text: String(d) }))}
          onChange={(d) => setWish({ numerator: shown.numerator, denominator: Number(d) })}
        />
        {changed ? (
          <span className="flex gap-1">
            <Button size="small" look="strong" onClick={() => change(shown.numerator, shown.denominator)}>
              Make it {shown.numerator}/{shown.denominator}
            </Button>
            <Button size="small" onClick={() => setWish(null)}>
              Cancel
            </Button>
          </span>
        ) : (
          <>
            <span>counted</span>
            <Picker
              label="Grouping"
              value={groups}
              choices={withCurrent(
                groupings(meter.numerator, meter.denominator).map((g) => g.join('+')),
                groups,
              ).map((g) => ({ value: g, text: g }))}
              onChange={(g) => change(meter.numerator, meter.denominator, g.split('+').map(Number))}
            />
          </>
        )}
      </div>
      <p className="text-sm text-faint" role="status" data-testid="meter-cost">
        {lost > 0
          ? `${counted(lost, 'hit lies', 'hits lie')} beyond the shorter ${plural(range.to - range.from, 'bar')} and would go.`
          : 'Hits keep their place in their bar; what follows moves along.'}
        {changed && part.source ? ' The song with these drums can then no longer be exported: its other tracks keep their bars.' : ''}
      </p>
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        <span>Pickup</span>
        <Picker
          label="Pickup"
          value={pickup === null ? '0' : String(Math.round(pickup / unit))}
          choices={[{ value: '0', text: 'none' }, ...pickups.map((n) => ({ value: String(n), text: `${n}/${meter.denominator}` }))]}
          onChange={(n) =>
            getState().run(n === '0' ? 'No pickup' : `Pickup of ${n}/${meter.denominator}`, (p) =>
              setPickup(p, n === '0' ? null : ticks(Number(n) * unit)),
            )
          }
        />
      </div>
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        <NumberField
          label="Start of bar 1"
          showLabel
          value={originMs}
          min={-4000}
          max={4000}
          digits={1}
          unit="ms after the start of the file"
          default={0}
          className="[&_input]:w-[3.6em]"
          onChange={moveOrigin}
          onDone={sweep.done}
          onCancel={sweep.cancel}
        />
      </div>
      <div className="flex flex-wrap gap-1">
        <Button
          size="small"
          onClick={() => getState().run('Move the lines a 1/16 earlier', (p) => setOrigin(p, ticks(p.origin - stepOf('1/16'))))}
        >
          A 1/16 earlier
        </Button>
        <Button
          size="small"
          onClick={() => getState().run('Move the lines a 1/16 later', (p) => setOrigin(p, ticks(p.origin + stepOf('1/16'))))}
        >
          A 1/16 later
        </Button>
        {finding && finding.offset !== 0 && Math.abs(finding.offset - part.origin) > 1 && (
          <Button
            size="small"
            onClick={() =>
              void detectAgain(store, null, { label: 'Move the lines to the hits', before: (p) => setOrigin(p, finding.offset) })
            }
          >
            To the hits ({tempo.between(zero, finding.offset).toFixed(0)} ms)
          </Button>
        )}
      </div>
    </Section>
  );
}

const withCurrent = (list: string[], current: string): string[] => (list.includes(current) ? list : [current, ...list]);
