'use client';

import { GRIDS, type GridName } from '@/core/time/grid';
import { Picker } from '@/ui/Picker';
import { useRecorded, useRecording } from '../../recording/context';
import { PadButtons } from './InputSection';

/** For devices that are too slow to play along: a length, a pad, and the cursor moves on. */
export function StepEntry() {
  const { recorder } = useRecording();
  const on = useRecorded((s) => s.stepEntry);
  const length = useRecorded((s) => s.stepLength);
  return (
    <div className="space-y-2">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-accent"
          checked={on}
          onChange={(e) =>
            recorder.set({ stepEntry: e.target.checked, padsShown: e.target.checked || recorder.state.getState().padsShown })
          }
        />{' '}
        each pad adds a hit at the step cursor
      </label>
      <p className="leading-8">
        and the cursor moves on by{' '}
        <Picker
          label="Step length"
          value={length}
          choices={GRIDS.map((g) => ({ value: g, text: g }))}
          onChange={(g) => recorder.set({ stepLength: g as GridName })}
        />
      </p>
      <p className="text-sm text-faint">
        Pads struck together fall on one step. The loop may run meanwhile. C shows the cursor, arrows move it.
      </p>
      <PadButtons />
    </div>
  );
}
