'use client';

import { Popover } from 'radix-ui';
import { deleteTempoChange, setTempoChange } from '@/core/commands/tempo-changes';
import { meterMapOf } from '@/core/part/part-time';
import { bpmOf } from '@/core/time/tempo-map';
import { bpm, MAX_BPM, MIN_BPM } from '@/core/units';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { openPage } from '../actions/open-page';
import { useBench, useBenchStore } from '../store/context';
import { useSweep } from '../store/use-sweep';
import { axisOf, xOf, type Axis } from './geometry/axis';

/** Marks nearer to each other than this are not shown one by one. */
const CLOSEST = 76;
/** Right of the bar's flag. */
const BESIDE_FLAG = 50;
/** No window is wider. */
const WIDEST = 4000;

export type SongMark = { kind: 'tempo'; index: number; tick: number } | { kind: 'meter'; tick: number; text: string };

/** Those of the marks that are in sight and have room. */
export default function MarksInSight({ marks }: { marks: readonly SongMark[] }) {
  const view = useBench((s) => s.view);
  const shown = apart(marks, axisOf(view));
  return (
    <div className="pointer-events-none absolute inset-x-0 top-0 h-5">
      {shown.map(({ mark, x }) => (
        <div
          key={`${mark.kind}${mark.tick}`}
          className="pointer-events-auto absolute top-0"
          style={{ left: x }}
          onPointerDown={(e) => e.stopPropagation()}
        >
          {mark.kind === 'tempo' ? <TempoMark index={mark.index} /> : <MeterMark tick={mark.tick} text={mark.text} />}
        </div>
      ))}
    </div>
  );
}

/** The marks in sight that have room. */
function apart(marks: readonly SongMark[], axis: Axis): { mark: SongMark; x: number }[] {
  const shown: { mark: SongMark; x: number }[] = [];
  for (const mark of marks) {
    const x = xOf(axis, mark.tick) + BESIDE_FLAG;
    if (x > WIDEST) break;
    if (x >= 0 && x - (shown.at(-1)?.x ?? -Infinity) >= CLOSEST) shown.push({ mark, x });
  }
  return shown;
}

const sign = 'h-5 rounded px-1 text-xs font-semibold text-accent hover:bg-sunk';
const panel = 'z-50 flex flex-wrap items-center gap-2 rounded-md border border-strong bg-surface px-4 py-3 shadow-md';

function TempoMark({ index }: { index: number }) {
  const { getState } = useBenchStore();
  const value = useBench((s) => (s.part.tempo[index] ? bpmOf(s.part.tempo[index]) : 0));
  const sweep = useSweep();
  return (
    <Popover.Root>
      <Popover.Trigger className={sign} aria-label={`Tempo ${value.toFixed(1)} from here`}>
        {value.toFixed(value % 1 < 0.05 ? 0 : 1)} BPM
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={4} aria-label="A tempo change" className={panel}>
          From here on
          <NumberField
            label="Tempo from here"
            value={value}
            min={MIN_BPM}
            max={MAX_BPM}
            digits={1}
            unit="BPM"
            onChange={(v) => sweep.show('Change the tempo', (p) => setTempoChange(p, index, bpm(v)))}
            onDone={sweep.done}
            onCancel={sweep.cancel}
          />
          <Button size="small" onClick={() => getState().run('Delete a tempo change', (p) => deleteTempoChange(p, index))}>
            Delete this change
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A meter is edited on the page of bars, for the bars that have it. */
function MeterMark({ tick, text }: { tick: number; text: string }) {
  const store = useBenchStore();
  const edit = () => {
    const { part, setTransport } = store.getState();
    const map = meterMapOf(part);
    const from = map.barAt(tick as Parameters<typeof map.barAt>[0]).index;
    const next = part.meter.find((m) => m.tick > tick);
    setTransport({ loop: true, fromBar: from, toBar: next ? map.barAt(next.tick).index : part.bars });
    openPage(store, 'bars', 'lines');
  };
  return (
    <button type="button" className={sign} aria-label={`Meter ${text} from here: edit it`} onClick={edit}>
      {text}
    </button>
  );
}
