'use client';

import { ToggleGroup } from 'radix-ui';
import { useState } from 'react';
import { selectByRule, type Combining, type Rule } from '@/core/selection/rules';
import { QUALITY } from '@/core/shaping/qualities';
import { GRIDS, type GridName } from '@/core/time/grid';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { say } from '@/ui/notify';
import { useBench, useBenchStore } from '../../store/context';
import { FromTo } from './FromTo';
import { performanceOf } from '../../store/derived';

const WAYS: readonly { value: Combining; text: string }[] = [
  { value: 'replace', text: 'New selection' },
  { value: 'add', text: 'Add to selection' },
  { value: 'subtract', text: 'Remove from selection' },
  { value: 'narrow', text: 'Narrow selection' },
];

/** Selecting by rule; each rule replaces, adds to, takes from or narrows the selection. */
export function ChooseSection() {
  const { getState } = useBenchStore();
  const [way, setWay] = useState<Combining>('replace');
  const [every, setEvery] = useState({ n: 2, first: 1 });
  const [position, setPosition] = useState<{ grid: GridName; of: number; at: number }>({ grid: '1/16', of: 4, at: 3 });
  const [range, setRange] = useState({ low: 1, high: 60 });
  const [lean, setLean] = useState(5);
  const bars = useBench((s) => s.part.bars);
  const [from, setFrom] = useState(1);
  const [to, setTo] = useState(1);
  const focus = useBench((s) => s.focus);

  const choose = (rule: Rule) => {
    const { part, selection, select } = getState();
    const within = way === 'narrow' || way === 'subtract';
    if (within && selection.size === 0) return say('Nothing is selected. This rule needs a selection.');
    const next = selectByRule(part, performanceOf(part), selection, rule, way);
    const same = next.size === selection.size && [...next].every((id) => selection.has(id));
    if (next.size === 0) say(within ? 'None of the selected hits is left.' : 'No hit matches.');
    else if (same && way === 'subtract') say('None of the selected hits match.');
    else if (same && way === 'add') say('No other hit matches.');
    select(next);
  };
  return (
    <Section name="choose" title="Choose">
      <ToggleGroup.Root
        type="single"
        value={way}
        onValueChange={(v) => v && setWay(v as Combining)}
        aria-label="How a rule changes the selection"
        className="mb-2 flex gap-1 text-sm"
      >
        {WAYS.map((w) => (
          <ToggleGroup.Item
            key={w.value}
            value={w.value}
            className="rounded border border-strong px-2 py-0.5 data-[state=on]:bg-ink data-[state=on]:text-ground"
          >
            {w.text}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <div className="mb-2 flex flex-wrap gap-1">
        <Button size="small" onClick={() => choose({ kind: 'all' })}>
          All
        </Button>
        {focus && (
          <Button size="small" onClick={() => choose({ kind: 'row', voice: focus })}>
            The open row
          </Button>
        )}
        <Button size="small" onClick={() => choose({ kind: 'on-beats' })}>
          On-beats
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'off-beats' })}>
          Off-beats
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'ghosts' })}>
          Ghosts
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'doubtful' })}>
          Uncertain
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'locked' })}>
          Locked
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'pitched' })}>
          Pitched
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'panned', side: 'left' })}>
          Panned left
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'panned', side: 'right' })}>
          Panned right
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'same-place', ids: getState().selection })}>
          Same place in every bar
        </Button>
      </div>
      <Line onGo={() => choose({ kind: 'bars', from: Math.min(from, to) - 1, to: Math.max(from, to) })} name="bars">
        bars{' '}
        <FromTo
          labels={['First bar', 'Last bar']}
          from={Math.min(from, bars)}
          to={Math.min(to, bars)}
          min={1}
          max={bars}
          onChange={(first, last) => {
            setFrom(first);
            setTo(last);
          }}
        />
      </Line>
      <Line onGo={() => choose({ kind: 'every', ...every })} name="every n-th hit">
        every{' '}
        <NumberField
          label="Every n-th"
          value={every.n}
          min={1}
          max={32}
          unit="-th hit"
          className={small}
          onChange={(n) => setEvery({ n, first: Math.min(n, every.first) })}
        />
        from the{' '}
        <NumberField
          label="First one"
          value={every.first}
          min={1}
          max={every.n}
          unit=""
          className={small}
          onChange={(first) => setEvery({ ...every, first })}
        />
      </Line>
      <Line onGo={() => choose({ kind: 'positions', grid: position.grid, of: position.of, at: [position.at] })} name="positions">
        step{' '}
        <NumberField
          label="Step"
          value={position.at + 1}
          min={1}
          max={position.of}
          unit="of"
          className={small}
          onChange={(at) => setPosition({ ...position, at: at - 1 })}
        />
        <NumberField
          label="Steps per cycle"
          value={position.of}
          min={1}
          max={64}
          unit=""
          className={small}
          onChange={(of) => setPosition({ ...position, of, at: Math.min(position.at, of - 1) })}
        />
        <Picker
          label="Grid of the steps"
          value={position.grid}
          choices={GRIDS.map((g) => ({ value: g, text: g }))}
          onChange={(g) => setPosition({ ...position, grid: g as GridName })}
        />
      </Line>
      <Line
        onGo={() => choose({ kind: 'velocities', low: Math.min(range.low, range.high), high: Math.max(range.low, range.high) })}
        name="velocities"
      >
        velocity{' '}
        <FromTo
          labels={['Softest', 'Loudest']}
          from={range.low}
          to={range.high}
          min={1}
          max={127}
          onChange={(low, high) => setRange({ low, high })}
        />
      </Line>
      <TimbreLine onChoose={choose} />
      <div className="flex items-baseline gap-1 leading-8">
        <span>over</span>
        <NumberField label="Lean over" value={lean} min={0} max={60} unit="ms" className={small} onChange={setLean} />
        <Button size="small" className="ml-auto" onClick={() => choose({ kind: 'early', ms: lean })}>
          Early
        </Button>
        <Button size="small" onClick={() => choose({ kind: 'late', ms: lean })}>
          Late
        </Button>
      </div>
    </Section>
  );
}

const TIMBRES = ['pan', 'pitch', 'brightness'] as const;

/** Selects by pan, pitch or brightness from one value to another. */
function TimbreLine({ onChoose }: { onChoose: (rule: Rule) => void }) {
  const [of, setOf] = useState<(typeof TIMBRES)[number]>('pan');
  const { min, max, digits, unit } = QUALITY[of];
  const [{ low, high }, setRange] = useState({ low: -100, high: -1 });
  return (
    <Line onGo={() => onChoose({ kind: 'timbre', of, low: Math.min(low, high), high: Math.max(low, high) })} name={of}>
      <Picker
        label="Pan, pitch or brightness"
        value={of}
        choices={TIMBRES.map((t) => ({ value: t, text: t }))}
        onChange={(next) => {
          setOf(next as typeof of);
          setRange(next === 'pitch' ? { low: -24, high: -0.01 } : { low: -100, high: -1 });
        }}
      />{' '}
      <FromTo
        labels={['Lowest', 'Highest']}
        from={low}
        to={high}
        min={min}
        max={max}
        digits={digits}
        unit={unit}
        width="[&_input]:w-[3.4em]"
        onChange={(lowest, highest) => setRange({ low: lowest, high: highest })}
      />
    </Line>
  );
}

const small = '[&_input]:w-[2.4em]';

function Line({ children, onGo, name }: { children: React.ReactNode; onGo: () => void; name: string }) {
  return (
    <div className="flex flex-wrap items-baseline gap-1 leading-8">
      {children}
      <Button size="small" className="ml-auto" aria-label={`Select ${name}`} onClick={onGo}>
        Select
      </Button>
    </div>
  );
}
