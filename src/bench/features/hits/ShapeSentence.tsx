'use client';

import { Dices } from 'lucide-react';
import type { ReactNode } from 'react';
import { QUALITY, type QualityName } from '@/core/shaping/qualities';
import type { Shape } from '@/core/shaping/shape-hits';
import type { Few } from '@/core/shaping/shapes';
import { GRIDS, type GridName } from '@/core/time/grid';
import { IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { LevelStems } from '@/ui/LevelStems';

interface Props {
  shape: Shape;
  quality: QualityName;
  /** How many hits are touched. */
  count: number;
  /** How long a sixteenth lasts, in ms. */
  sixteenthMs: number;
  onChange: (shape: Shape) => void;
}

/** A shape as a sentence whose numbers are edited in place. */
export function ShapeSentence({ shape, quality, count, sixteenthMs, onChange }: Props) {
  const { min, max, digits, unit } = QUALITY[quality];
  const span = max - min;
  const value = (
    label: string,
    v: number,
    set: (v: number) => Shape,
    more: Partial<{ min: number; max: number; unit: string; digits: number; default: number }> = {},
  ) => (
    <NumberField
      label={label}
      value={v}
      min={min}
      max={max}
      digits={digits}
      unit={unit}
      className="[&_input]:w-[3.2em]"
      {...more}
      onChange={(n) => onChange(set(n))}
    />
  );
  switch (shape.kind) {
    case 'set':
      return <Words>to {value('Set to', shape.value, (v) => ({ ...shape, value: v }))}</Words>;
    case 'add':
      return <Words>by {value('Add', shape.by, (by) => ({ ...shape, by }), { min: -span, max: span, default: 0 })}</Words>;
    case 'scale':
      return (
        <Words>
          to{' '}
          {value('Scale to', shape.percent, (percent) => ({ ...shape, percent }), { min: 0, max: 400, unit: '%', digits: 0, default: 100 })}{' '}
          of itself
        </Words>
      );
    case 'stretch':
      return (
        <Words>
          to{' '}
          {value('Compress to', shape.percent, (percent) => ({ ...shape, percent }), {
            min: 0,
            max: 400,
            unit: '%',
            digits: 0,
            default: 100,
          })}{' '}
          of the distance from {value('Pivot', shape.pivot, (pivot) => ({ ...shape, pivot }))}
        </Words>
      );
    case 'limit':
      return (
        <Words>
          between {value('Lowest', shape.low, (low) => ({ ...shape, low }))} and{' '}
          {value('Highest', shape.high, (high) => ({ ...shape, high }))}
        </Words>
      );
    case 'ramp':
      return (
        <Words>
          from {value('Ramp from', shape.from, (from) => ({ ...shape, from }))} to {value('Ramp to', shape.to, (to) => ({ ...shape, to }))}{' '}
          bent{' '}
          {value('Bend', shape.bend * 100, (b) => ({ ...shape, bend: b / 100 }), { min: -100, max: 100, unit: '%', digits: 0, default: 0 })}
        </Words>
      );
    case 'alternate':
      return (
        <Words>
          <LevelStems
            label="Level"
            levels={shape.levels}
            min={min}
            max={max}
            unit={unit}
            most={8}
            onChange={(levels) => onChange({ ...shape, levels })}
          />
        </Words>
      );
    case 'accents':
      return (
        <div>
          <Words>
            on{' '}
            <Picker
              label="Grid of the accents"
              value={shape.grid}
              choices={GRIDS.map((g) => ({ value: g, text: g }))}
              onChange={(g) => onChange({ ...shape, grid: g as GridName })}
            />{' '}
            to{' '}
            {value('Depth', shape.depth * 100, (d) => ({ ...shape, depth: d / 100 }), {
              min: 0,
              max: 100,
              unit: '% depth',
              digits: 0,
              default: 100,
            })}
          </Words>
          <LevelStems
            label="Accent"
            levels={shape.levels.map((l) => Math.round(l * 100))}
            min={0}
            max={200}
            unit="%"
            most={16}
            onChange={(levels) => onChange({ ...shape, levels: levels.map((l) => l / 100) })}
          />
        </div>
      );
    case 'crescendo':
      return (
        <Words>
          from {value('Swell from', shape.from, (from) => ({ ...shape, from }), { min: 0, max: 300, unit: '%', digits: 0, default: 100 })}{' '}
          to {value('Swell to', shape.to, (to) => ({ ...shape, to }), { min: 0, max: 300, unit: '%', digits: 0, default: 100 })} of itself,
          bent{' '}
          {value('Bend', shape.bend * 100, (b) => ({ ...shape, bend: b / 100 }), { min: -100, max: 100, unit: '%', digits: 0, default: 0 })}
        </Words>
      );
    case 'between':
      return (
        <Words>
          from {value('Draw from', shape.from, (from) => ({ ...shape, from }))} to {value('Draw to', shape.to, (to) => ({ ...shape, to }))}
          <IconButton
            label={`New variation (seed ${shape.seed})`}
            size="small"
            onClick={() => onChange({ ...shape, seed: shape.seed + 1 })}
          >
            <Dices size={15} />
          </IconButton>
          <FewWords few={shape} count={count} onChange={(few) => onChange(withFew(shape, few))} />
        </Words>
      );
    case 'scatter':
      return (
        <Words>
          by up to {value('Randomize by', shape.range, (range) => ({ ...shape, range }), { min: 0, max: span / 2 })} either way
          {quality === 'timing' && (
            <>
              (
              {value(
                'Randomize by, of a sixteenth',
                (shape.range / sixteenthMs) * 100,
                (percent) => ({ ...shape, range: (percent / 100) * sixteenthMs }),
                { min: 0, max: 100, unit: '% of a 1/16', digits: 0 },
              )}
              )
            </>
          )}
          <IconButton
            label={`New variation (seed ${shape.seed})`}
            size="small"
            onClick={() => onChange({ ...shape, seed: shape.seed + 1 })}
          >
            <Dices size={15} />
          </IconButton>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-accent"
              checked={shape.keepMean}
              onChange={(e) => onChange({ ...shape, keepMean: e.target.checked })}
            />{' '}
            keep the average
          </label>
          <FewWords few={shape} count={count} onChange={(few) => onChange(withFew(shape, few))} />
        </Words>
      );
    default:
      return null;
  }
}

/** A shape with another few; what is not asked for is not kept. */
function withFew<S extends Few>(shape: S, { of, apart, keepEnds }: Few): S {
  const { of: _of, apart: _apart, keepEnds: _keepEnds, ...rest } = shape;
  return { ...rest, ...(of === undefined ? {} : { of }), ...(apart ? { apart } : {}), ...(keepEnds ? { keepEnds } : {}) } as S;
}

/** Only some of the touched hits. */
function FewWords({ few, count, onChange }: { few: Few; count: number; onChange: (few: Few) => void }) {
  if (count < 2) return null;
  const check = (label: string, is: boolean, set: (on: boolean) => Few) => (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" className="accent-accent" checked={is} onChange={(e) => onChange(set(e.target.checked))} /> {label}
    </label>
  );
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      of{' '}
      <NumberField
        label="How many of them"
        value={few.of ?? count}
        min={1}
        max={count}
        default={count}
        unit={`of ${count},`}
        className="[&_input]:w-[2.6em]"
        onChange={(n) => onChange({ ...few, of: n >= count ? undefined : n } as Few)}
      />
      {check('skip adjacent hits', few.apart === true, (apart) => ({ ...few, apart }))}
      {check('the first and last stay', few.keepEnds === true, (keepEnds) => ({ ...few, keepEnds }))}
    </span>
  );
}

const Words = ({ children }: { children: ReactNode }) => (
  <div className="flex flex-wrap items-baseline gap-x-1.5 leading-8">{children}</div>
);
