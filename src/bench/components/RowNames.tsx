'use client';

import { Ear, EarOff } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { setRow } from '@/core/part/commands/settings';
import type { Row } from '@/core/part/part';
import { labelOfVoice } from '@/core/voices';
import { Hint } from '@/ui/Button';
import { layoutRows, RULER_HEIGHT } from '../geometry/rows';
import type { Playback } from '../playback/use-playback';
import { REACHES, type Reach } from '../view';
import { GRIDS, type GridName } from '@/core/time/grid';
import { useBench, useBenchStore } from '../store/context';
import { Picker } from '@/ui/Picker';

/** Names of the rows beside their stems: a click sounds the voice; each row can be muted or heard alone. */
export function RowNames({ playback }: { playback: Playback }) {
  const rows = useBench((s) => s.part.rows);
  const focus = useBench((s) => s.focus);
  const scrollRows = useBench((s) => s.view.scrollRows);
  const box = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(0);
  useEffect(() => {
    const frame = box.current;
    if (!frame) return;
    const observer = new ResizeObserver(() => setHeight(frame.clientHeight));
    observer.observe(frame);
    return () => observer.disconnect();
  }, []);
  const boxes = height > 0 ? layoutRows(rows, height, focus, scrollRows) : [];
  return (
    <div ref={box} className="relative w-[168px] shrink-0 overflow-hidden">
      {boxes.map((b, i) => (
        <RowName key={b.voice} row={rows[i] as Row} top={b.top} height={b.height} playback={playback} />
      ))}
      <div className="absolute inset-x-0 top-0 flex items-center gap-1 bg-ground pl-4" style={{ height: RULER_HEIGHT }}>
        <Lens />
      </div>
    </div>
  );
}

function RowName({ row, top, height, playback }: { row: Row; top: number; height: number; playback: Playback }) {
  const { getState } = useBenchStore();
  const focused = useBench((s) => s.focus === row.voice);
  const label = labelOfVoice(row.voice);
  const change = (what: string, next: Partial<Row>) => getState().run(`${what} ${label.toLowerCase()}`, (part) => setRow(part, row.voice, next));
  const small = 'flex h-6 items-center justify-center rounded px-1 text-xs';
  return (
    <div className="absolute inset-x-0 flex items-end pb-0.5 pl-3" style={{ top, height }}>
      <button
        type="button"
        title="Hear it, and open the row tall"
        aria-label={`${label}: hear it`}
        onClick={() => {
          playback.audition(row.voice);
          getState().setFocus(focused ? null : row.voice);
        }}
        className={`min-w-0 flex-1 truncate rounded px-1 text-left leading-6 hover:bg-sunk ${row.muted ? 'text-faint line-through' : ''} ${focused ? 'font-semibold' : ''}`}
      >
        {label}
      </button>
      <Hint text={row.muted ? 'Let it sound' : 'Silence this row'}>
        <button type="button" aria-label={`Silence ${label}`} aria-pressed={row.muted === true} onClick={() => change(row.muted ? 'Unmute' : 'Mute', { muted: !row.muted })} className={`${small} hover:bg-sunk ${row.muted ? 'text-danger' : 'text-faint'}`}>
          {row.muted ? <EarOff size={14} /> : <Ear size={14} />}
        </button>
      </Hint>
      <Hint text={row.soloed ? 'Hear all rows again' : 'Hear this row alone'}>
        <button type="button" aria-label={`Hear ${label} alone`} aria-pressed={row.soloed === true} onClick={() => change(row.soloed ? 'Unsolo' : 'Solo', { soloed: !row.soloed })} className={`${small} mr-1 hover:bg-sunk ${row.soloed ? 'bg-accent text-on-accent' : 'text-faint'}`}>
          only
        </button>
      </Hint>
    </div>
  );
}

/** The lens is named by its reach; beside it the grid for placing. */
function Lens() {
  const reach = useBench((s) => s.view.reach);
  const grid = useBench((s) => s.view.grid);
  const { getState } = useBenchStore();
  return (
    <div className="text-xs leading-[18px] text-faint">
      <div>
        full lean <Picker label="Lens" value={String(reach)} choices={REACHES.map((r) => ({ value: String(r), text: `${r} ms` }))} onChange={(v) => getState().setView({ reach: Number(v) as Reach })} />
      </div>
      <div>
        place on <Picker label="Grid for placing" value={grid} choices={GRIDS.map((g) => ({ value: g, text: g }))} onChange={(v) => getState().setView({ grid: v as GridName })} />
      </div>
    </div>
  );
}
