'use client';

import { Dices } from 'lucide-react';
import { PRACTICE_PATTERNS } from '@/core/take/practice-patterns';
import type { Practice } from '@/core/take/practice';
import { IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useRecorded, useRecording } from '../../recording/context';

const narrow = '[&_input]:w-[2.8em]';

/** How the practice player plays. */
export function PracticeSettings() {
  const { recorder } = useRecording();
  const practice = useRecorded((s) => s.practice);
  const pattern = useRecorded((s) => s.pattern);
  const isFree = useRecorded((s) => s.free);
  const set = (change: Partial<Practice>) => recorder.set({ practice: { ...practice, ...change } });
  const number = (label: string, name: keyof Practice, min: number, max: number, unit: string, scale = 1, step = 1) => (
    <NumberField
      label={label}
      value={practice[name] * scale}
      min={min}
      max={max}
      step={step}
      digits={step < 1 ? 1 : 0}
      unit={unit}
      default={0}
      className={narrow}
      onChange={(v) => set({ [name]: v / scale })}
    />
  );
  return (
    <div className="space-y-1 rounded-md border border-line p-2 text-sm">
      <p className="text-faint">A simulated player for those without hardware: it plays along while you record.</p>
      <div className="flex items-baseline gap-2">
        plays
        <Picker
          label="Pattern"
          value={String(pattern)}
          choices={PRACTICE_PATTERNS.map((p, i) => ({ value: String(i), text: p.name }))}
          onChange={(i) => recorder.set({ pattern: Number(i) })}
        />
        <IconButton label={`Another player (seed ${practice.seed})`} size="small" wide onClick={() => set({ seed: practice.seed + 1 })}>
          <Dices size={15} /> <span className="text-faint">{practice.seed}</span>
        </IconButton>
      </div>
      <div className="flex flex-wrap gap-x-3">
        {number('Bias', 'biasMs', -80, 80, practice.biasMs < 0 ? 'ms early' : 'ms late')}
        {number('Scatter of timing', 'spreadMs', 0, 60, 'ms of scatter')}
        {number('Slowing down', 'driftPercent', -5, 5, '% slower', 1, 0.1)}
        {isFree && number('Tempo drift', 'wanderPercent', 0, 12, '% tempo drift')}
        {number('Scatter of velocity', 'velocitySpread', 0, 40, 'of velocity')}
        {number('Weaker hand', 'weakHandPercent', 0, 60, '% softer second')}
        {number('Missed strokes', 'missed', 0, 90, '% missed', 100)}
        {number('Doubled strokes', 'doubled', 0, 50, '% doubled', 100)}
        {number('Latency of the device', 'latencyMs', 0, 300, 'ms latency')}
        {number('Jitter of the device', 'jitterMs', 0, 40, 'ms jitter')}
      </div>
    </div>
  );
}
