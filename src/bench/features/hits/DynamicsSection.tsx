'use client';

import { Dices } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { QUALITIES, QUALITY, readQuality, type QualityName } from '@/core/shaping/qualities';
import { shapeHits, type Shape } from '@/core/shaping/shape-hits';
import { startTempo } from '@/core/commands/settings';
import { counted } from '@/core/plurals';
import type { Part } from '@/core/model/part';
import { momentsOf } from '@/core/shaping/shapes';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart, shownHits } from '../../store/derived';
import { TrialButtons } from '../../shared/TrialButtons';
import { useTrial } from '../../store/use-sweep';
import { firstShape, SHAPE_KINDS, SHAPE_WORDS, shapeLabel, type OfferedKind } from './shape-kinds';
import { ShapeSentence } from './ShapeSentence';
import { useTouched } from './use-touched';

/** Charts come with the first selection that is looked at. */
const DistributionChart = dynamic(() => import('./DistributionChart'), { ssr: false, loading: () => <div className="h-[84px]" /> });

const NAMES: Readonly<Record<QualityName, string>> = {
  velocity: 'velocity',
  pan: 'pan',
  pitch: 'pitch',
  brightness: 'brightness',
  length: 'length',
  timing: 'timing',
};

/** Velocity, pan, pitch, brightness and length of the touched hits: their distribution, and shapes to give them. */
export function DynamicsSection() {
  const touched = useTouched();
  const hits = useBench(shownHits);
  const [quality, setQuality] = useState<QualityName>('velocity');
  const [shape, setShape] = useState<Shape | null>(null);
  const [seed, setSeed] = useState(0);
  const trial = useTrial();

  const values = useMemo(() => hits.filter((h) => touched.ids.has(h.id)).map((h) => readQuality(h, quality)), [hits, touched, quality]);
  const moments = useMemo(() => momentsOf(values), [values]);
  const before = useBench((s) => calmPart(s).hits);
  const calm = useMemo(
    () => momentsOf(before.filter((h) => touched.ids.has(h.id)).map((h) => readQuality(h, quality))),
    [before, touched, quality],
  );
  // Mean and deviation are set one after the other: what was asked for counts, not what the limits left of it.
  const [goal, setGoal] = useState<{ mean: number; deviation: number } | null>(null);
  const reshape = (change: Partial<{ mean: number; deviation: number }>) => {
    const next = { ...(trial.active && goal ? goal : calm), ...change };
    setShape(null);
    setGoal(next);
    // What is equal has no shape that could be widened: it is drawn, and the same draw widened when another is typed.
    tryOut(calm.deviation === 0 && next.deviation > 0 ? { kind: 'reroll', ...next, seed: seed + 1 } : { kind: 'reshape', ...next });
  };
  const { min, max, digits, unit, rest } = QUALITY[quality];
  const one = values.length === 1;
  // Where the chart begins and ends, and as wide as values may deviate there.
  const [low, high] = QUALITY[quality].usual
    ? [QUALITY[quality].usual.min, values.reduce((most, v) => Math.max(most, v), QUALITY[quality].usual.max)]
    : [min, max];
  const ends = { onDone: trial.done, onCancel: trial.cancel };

  const { getState } = useBenchStore();
  /** How many hits the shape that is tried out changes. */
  const [changed, setChanged] = useState(0);
  const tryOut = (next: Shape) => {
    const base = calmPart(getState());
    const n = countChanged(base, shapeHits(base, touched.ids, quality, next));
    setChanged(n);
    trial.show(shapeLabel(next, quality, n < touched.ids.size ? counted(n, 'hit') : touched.what), (from) =>
      shapeHits(from, touched.ids, quality, next),
    );
  };
  const edit = (next: Shape) => {
    setShape(next);
    setGoal(null);
    tryOut(next);
  };
  const pick = (kind: OfferedKind) => edit(firstShape(kind, quality, calm));
  const nothing = touched.ids.size === 0;
  const sixteenthMs = useBench((s) => 15_000 / startTempo(s.part));
  const tenths = (v: number): number => Math.round(v * 10) / 10;

  return (
    <Section
      name="dynamics"
      title="Dynamics"
      note={nothing ? 'all locked' : `${NAMES[quality]} ${tenths(moments.mean)} ± ${tenths(moments.deviation)}`}
    >
      <div className="flex items-baseline justify-between leading-8">
        <Picker
          label="What is shaped"
          value={quality}
          choices={QUALITIES.map((q) => ({ value: q, text: NAMES[q] }))}
          onChange={(q) => {
            setQuality(q as QualityName);
            setShape(null);
          }}
        />
        <span className="text-sm text-faint" data-testid="touched-count">
          {trial.active ? `${changed} of ${counted(touched.ids.size, 'hit')} change` : counted(touched.ids.size, 'hit')}
        </span>
      </div>
      <DistributionChart values={values} min={low} max={high} label={NAMES[quality]} />
      <div className="flex flex-wrap items-baseline justify-between gap-x-2 leading-8">
        <span className="text-faint">{one ? NAMES[quality] : 'mean'}</span>
        <NumberField
          label={one ? capital(NAMES[quality]) : `Mean ${NAMES[quality]}`}
          value={moments.mean}
          min={min}
          max={max}
          digits={one ? digits : Math.max(1, digits)}
          unit={unit || 'of 127'}
          disabled={nothing}
          default={rest}
          className="[&_input]:w-[3.4em]"
          onChange={(v) => (one ? tryOut({ kind: 'set', value: v }) : reshape({ mean: v }))}
          {...ends}
        />
        {!one && (
          <>
            <span className="text-faint">spread ±</span>
            <NumberField
              label={`Spread (± SD) of the ${NAMES[quality]}`}
              value={moments.deviation}
              min={0}
              max={(high - low) / 2}
              digits={Math.max(1, digits)}
              unit={unit || 'SD'}
              disabled={nothing}
              className="[&_input]:w-[3.2em]"
              onChange={(deviation) => reshape({ deviation })}
              {...ends}
            />
            <Button
              size="small"
              disabled={nothing}
              title="New random values with the same mean and spread"
              onClick={() => {
                setSeed(seed + 1);
                setGoal(null);
                setShape(null);
                tryOut({ kind: 'reroll', mean: calm.mean, deviation: Math.max(calm.deviation, (high - low) / 42), seed: seed + 1 });
              }}
            >
              <Dices size={14} /> New variation{seed > 0 ? `, seed ${seed}` : ''}
            </Button>
          </>
        )}
      </div>
      <div className="mt-2 leading-8" data-testid="shape">
        <Picker
          label="What to do"
          value={trial.active && shape && isOffered(shape.kind) ? shape.kind : ''}
          placeholder="choose what to do …"
          choices={VERBS}
          onChange={(kind) => !nothing && pick(kind as OfferedKind)}
        />
        {trial.active && shape && ` the ${NAMES[quality]}`}
        {trial.active && shape && (
          <ShapeSentence shape={shape} quality={quality} count={touched.ids.size} sixteenthMs={sixteenthMs} onChange={edit} />
        )}
      </div>
      <TrialButtons trial={trial} className="mt-1" />
    </Section>
  );
}

function countChanged(before: Part, after: Part): number {
  const known = new Map(before.hits.map((h) => [h.id, h]));
  return after.hits.filter((h) => known.get(h.id) !== h).length;
}

const VERBS = SHAPE_KINDS.map((kind) => ({ value: kind, text: SHAPE_WORDS[kind] }));

const isOffered = (kind: Shape['kind']): kind is OfferedKind => (SHAPE_KINDS as readonly string[]).includes(kind);

const capital = (word: string): string => `${word[0]?.toUpperCase()}${word.slice(1)}`;
