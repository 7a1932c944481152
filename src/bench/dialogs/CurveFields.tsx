'use client';

import type { VelocityCurve } from '@/core/velocity-curve';
import { NumberField } from '@/ui/NumberField';

const narrow = '[&_input]:w-[3em]';

/** Bend, floor and ceiling of a velocity curve. `what` is what they are called beside others: "sent". */
export function CurveFields({
  curve,
  what = '',
  onChange,
  onDone,
}: {
  curve: VelocityCurve;
  what?: string;
  onChange: (curve: VelocityCurve) => void;
  onDone?: () => void;
}) {
  const of = (name: string): string => (what ? `${name} ${what}` : name);
  const done = onDone ? { onDone } : {};
  return (
    <>
      <NumberField
        label={of('Bend of the velocity curve')}
        value={curve.power}
        min={0.25}
        max={4}
        step={0.05}
        digits={2}
        unit={curve.power < 1 ? 'bend, louder' : curve.power > 1 ? 'bend, softer' : 'bend, straight'}
        default={1}
        className={narrow}
        onChange={(power) => onChange({ ...curve, power })}
        {...done}
      />
      <NumberField
        label={of('Softest velocity')}
        value={curve.floor}
        min={1}
        max={curve.ceiling - 1}
        unit="softest"
        default={1}
        className={narrow}
        onChange={(floor) => onChange({ ...curve, floor })}
        {...done}
      />
      <NumberField
        label={of('Loudest velocity')}
        value={curve.ceiling}
        min={curve.floor + 1}
        max={127}
        unit="loudest"
        default={127}
        className={narrow}
        onChange={(ceiling) => onChange({ ...curve, ceiling })}
        {...done}
      />
    </>
  );
}
