'use client';

import { plural } from '@/core/plurals';
import { labelOfRow } from '@/core/part/rows';
import { ORNAMENT_LIMITS, type Echo } from '@/core/model/ornament';
import type { GridName } from '@/core/time/grid';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { narrow, useOrnamentEdit, type OrnamentSentence } from './sentence';

const L = ORNAMENT_LIMITS;

export const EchoSentence: OrnamentSentence<Echo> = ({ part, ornament: echo }) => {
  const edit = useOrnamentEdit('echo');
  const ends = { onDone: edit.done, onCancel: edit.cancel };
  const grids: readonly GridName[] = ['1/8', '1/16', '1/32', '1/8T', '1/16T'];
  return (
    <>
      <NumberField
        label="Repeats"
        value={echo.repeats}
        min={L.repeats[0]}
        max={L.repeats[1]}
        unit={plural(echo.repeats, 'repeat')}
        className={narrow}
        onChange={(repeats) => edit.sweep({ repeats })}
        {...ends}
      />{' '}
      every{' '}
      <NumberField
        label="Steps apart"
        value={echo.steps}
        min={L.steps[0]}
        max={L.steps[1]}
        unit="of"
        className={narrow}
        onChange={(steps) => edit.sweep({ steps })}
        {...ends}
      />{' '}
      <Picker
        label="Grid of the echo"
        value={echo.grid}
        choices={grids.map((g) => ({ value: g, text: g }))}
        onChange={(grid) => edit.set({ grid: grid as GridName })}
      />
      , each at{' '}
      <NumberField
        label="Decay"
        value={echo.decay * 100}
        min={L.decay[0] * 100}
        max={L.decay[1] * 100}
        step={5}
        unit="% of the one before,"
        default={65}
        className={narrow}
        onChange={(v) => edit.sweep({ decay: v / 100 })}
        {...ends}
      />{' '}
      by{' '}
      <Picker
        label="Voice of the echo"
        value={echo.voice ?? 'own'}
        choices={[{ value: 'own', text: 'itself' }, ...part.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))]}
        onChange={(v) => edit.set({ voice: v === 'own' ? undefined : v })}
      />
    </>
  );
};
