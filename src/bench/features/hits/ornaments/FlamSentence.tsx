'use client';

import { plural } from '@/core/plurals';
import { ORNAMENT_LIMITS, type Flam } from '@/core/model/ornament';
import { NumberField } from '@/ui/NumberField';
import { narrow, useOrnamentEdit, type OrnamentSentence } from './sentence';

const L = ORNAMENT_LIMITS;

export const FlamSentence: OrnamentSentence<Flam> = ({ ornament: flam }) => {
  const edit = useOrnamentEdit('flam');
  const ends = { onDone: edit.done, onCancel: edit.cancel };
  return (
    <>
      <NumberField
        label="Grace strokes"
        value={flam.strokes}
        min={L.graces[0]}
        max={L.graces[1]}
        unit={plural(flam.strokes, 'grace stroke,', 'grace strokes,')}
        className={narrow}
        onChange={(strokes) => edit.sweep({ strokes })}
        {...ends}
      />{' '}
      <NumberField
        label="Spacing"
        value={flam.spacingMs}
        min={L.spacingMs[0]}
        max={L.spacingMs[1]}
        digits={1}
        unit="ms apart,"
        default={25}
        className={narrow}
        onChange={(spacingMs) => edit.sweep({ spacingMs })}
        {...ends}
      />{' '}
      at{' '}
      <NumberField
        label="Level"
        value={flam.level * 100}
        min={L.level[0] * 100}
        max={L.level[1] * 100}
        step={5}
        unit="% of its velocity,"
        default={55}
        className={narrow}
        onChange={(v) => edit.sweep({ level: v / 100 })}
        {...ends}
      />{' '}
      <NumberField
        label="Slope"
        value={flam.slope * 100}
        min={-100}
        max={100}
        step={5}
        unit={flam.slope < 0 ? '% falling' : '% rising'}
        default={0}
        className={narrow}
        onChange={(v) => edit.sweep({ slope: v / 100 })}
        {...ends}
      />
    </>
  );
};
