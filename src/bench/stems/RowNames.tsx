'use client';

import { EllipsisVertical, ListPlus, Lock } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { moveRow, renameRow } from '@/core/commands/rows';
import { labelOfRow } from '@/core/part/rows';
import { setRow } from '@/core/commands/settings';
import type { Hit, Row } from '@/core/model/part';
import { GRIDS, type GridName } from '@/core/time/grid';
import { Hint } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { belowButton, type MenuPlace } from '@/ui/menu-place';
import { useSortable } from '@/ui/use-sortable';
import type { ItemDrag } from '@/ui/sortable';
import { scrollRowsBy } from '../actions/view-control';
import { pointAtRow } from '../actions/pointing';
import type { Playback } from '../playback/use-playback';
import { REACHES, type LensReach } from '../store/view';
import { useBench, useBenchStore } from '../store/context';
import { shownPart } from '../store/derived';
import { layoutRows, mostRowScroll, rowsInView, RULER_HEIGHT } from './geometry/rows';

const RowDialog = dynamic(() => import('../dialogs/RowDialog').then((m) => m.RowDialog), { ssr: false });

const RowMenu = dynamic(() => import('./RowMenu'), { ssr: false });
const RowsMenu = dynamic(() => import('./RowsMenu'), { ssr: false });

/** What is open about a row: its name in place, its menu, or the dialog. */
type Editing = { voice: string; what: 'name' | 'dialog' } | { voice: string; what: 'menu'; at: MenuPlace } | null;

const NO_HITS: readonly Hit[] = [];

/**
 * Where the name of the open row was when it was clicked: there it stays, in pixels from the top, so that a click moves nothing from under
 * the pointer.
 */
interface Clicked {
  voice: string;
  bottom: number;
}

/**
 * Names of the rows beside their stems: a click sounds the voice and opens its row, a drag moves the row; each can be muted, soloed and
 * changed.
 */
export function RowNames({ playback }: { playback: Playback }) {
  // While a version is heard its rows are seen, and nothing is changed by their names.
  const rows = useBench((s) => shownPart(s).rows);
  const other = useBench((s) => shownPart(s) !== s.part);
  const hideEmpty = useBench((s) => s.view.hideEmpty);
  // Only hiding depends on the hits: while velocities are swept the names stay as they are.
  const hits = useBench((s) => (s.view.hideEmpty ? shownPart(s).hits : NO_HITS));
  const focus = useBench((s) => s.focus);
  const scrollRows = useBench((s) => s.view.scrollRows);
  const { getState } = useBenchStore();
  const box = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(0);
  const [editing, setEditing] = useState<Editing>(null);
  useEffect(() => {
    const frame = box.current;
    if (!frame) return;
    const observer = new ResizeObserver(() => setHeight(frame.clientHeight));
    observer.observe(frame);
    return () => observer.disconnect();
  }, []);
  const shown = rowsInView({ rows, hits }, hideEmpty);
  const boxes = height > 0 ? layoutRows(shown, height, focus, scrollRows) : [];
  const most = height > 0 ? mostRowScroll(shown, height, focus) : 0;
  const [SortableList, onNear] = useSortable();
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const [clicked, setClicked] = useState<Clicked | null>(null);
  const menuRow = rows.find((r) => r.voice === editing?.voice);
  const onMove = (voice: string, onto: string) =>
    getState().run(`Move the row ${labelOfRow({ rows }, voice).toLowerCase()}`, (part) =>
      moveRow(
        part,
        voice,
        rows.findIndex((r) => r.voice === onto),
      ),
    );
  const render = (voice: string, drag: ItemDrag): ReactNode => {
    const i = boxes.findIndex((b) => b.voice === voice);
    const b = boxes[i];
    const row = shown[i];
    // Within its row, wherever that is now.
    const bottom =
      b && clicked?.voice === voice && focus === voice
        ? Math.min(b.top + b.height, Math.max(b.top + NAME_HEIGHT, clicked.bottom))
        : undefined;
    return (
      b &&
      row && (
        <RowName
          key={voice}
          row={row}
          top={b.top}
          height={b.height}
          lift={bottom === undefined ? 0 : b.top + b.height - bottom}
          onClicked={(at) => setClicked({ voice, bottom: at })}
          playback={playback}
          drag={drag}
          naming={editing?.what === 'name' && editing.voice === voice}
          onMenu={(at) => setEditing({ voice, what: 'menu', at })}
          onNamed={() => setEditing(null)}
        />
      )
    );
  };
  /** A name that gets the focus comes into sight by the one scroll position that names and hits have; the browser's own is taken back. */
  const showRowOf = (focused: Element) => {
    const row = boxes.find((b) => b.voice === focused.closest<HTMLElement>('[data-row]')?.dataset.row);
    if (!row) return;
    const [above, below] = [RULER_HEIGHT - row.top, row.top + row.height - height];
    if (above > 0) scrollRowsBy({ getState }, -above, height);
    else if (below > 0) scrollRowsBy({ getState }, below, height);
  };
  return (
    <div
      ref={box}
      data-row-names=""
      className="relative w-[184px] shrink-0 overflow-hidden"
      onPointerEnter={onNear}
      onWheel={(e) => scrollRowsBy({ getState }, e.deltaY, height)}
      onScroll={(e) => (e.currentTarget.scrollTop = 0)}
      onFocus={(e) => showRowOf(e.target)}
      inert={other}
    >
      {SortableList ? (
        <SortableList ids={boxes.map((b) => b.voice)} onMove={onMove} render={render} />
      ) : (
        boxes.map((b) => render(b.voice, {}))
      )}
      {most > 0 && <RowScroll rows={height - RULER_HEIGHT} most={most} at={scrollRows} />}
      <div className="absolute inset-x-0 top-0 flex items-center bg-ground pr-1 pl-4" style={{ height: RULER_HEIGHT }}>
        <Lens />
        <button
          type="button"
          aria-label="Rows"
          aria-haspopup="menu"
          aria-expanded={menu !== null}
          title="Add rows, hide empty ones, the drum map"
          onClick={(e) => setMenu(belowButton(e.currentTarget))}
          className="rounded p-1 text-faint hover:bg-sunk hover:text-ink"
        >
          <ListPlus size={17} />
        </button>
        {menu && <RowsMenu at={menu} onClose={() => setMenu(null)} />}
      </div>
      {editing?.what === 'menu' && menuRow && (
        <RowMenu
          at={editing.at}
          row={menuRow}
          label={labelOfRow({ rows }, editing.voice)}
          onClose={() => setEditing((now) => (now?.what === 'menu' ? null : now))}
          onEdit={(what) => setEditing({ voice: editing.voice, what })}
        />
      )}
      {editing?.what === 'dialog' && <RowDialog voice={editing.voice} onClose={() => setEditing(null)} />}
    </div>
  );
}

/** Where one is among more rows than there is room for. */
function RowScroll({ rows, most, at }: { rows: number; most: number; at: number }) {
  const share = rows / (rows + most);
  return (
    <div
      aria-hidden="true"
      className="absolute right-0 w-[3px] rounded-full bg-strong"
      style={{ top: RULER_HEIGHT + (at / (rows + most)) * rows, height: share * rows }}
    />
  );
}

interface RowNameProps {
  row: Row;
  top: number;
  height: number;
  playback: Playback;
  drag: ItemDrag;
  naming: boolean;
  onMenu: (at: MenuPlace) => void;
  onNamed: () => void;
  /** The name stands so many pixels above the foot of its row. */
  lift: number;
  /** Its name was clicked, when the foot it stood on was so far down. */
  onClicked: (bottom: number) => void;
}

const NAME_HEIGHT = 30;

function RowName({
  row,
  top,
  height,
  playback,
  drag: { frame, handle, style, dragging },
  naming,
  onMenu,
  onNamed,
  lift,
  onClicked,
}: RowNameProps) {
  const store = useBenchStore();
  const { getState } = store;
  const focused = useBench((s) => s.focus === row.voice);
  const anySolo = useBench((s) => s.part.rows.some((r) => r.soloed));
  const label = labelOfRow({ rows: [row] }, row.voice);
  const change = (what: string, next: Partial<Row>) =>
    getState().run(`${what} ${label.toLowerCase()}`, (part) => setRow(part, row.voice, next));
  const small = 'flex h-6 items-center justify-center rounded px-1 text-xs hover:bg-sunk pointer-coarse:h-9 pointer-coarse:px-2';
  const faded = row.muted === true || (!row.soloed && anySolo);
  return (
    <div
      ref={frame}
      data-row={row.voice}
      className={`absolute inset-x-0 flex items-end pl-3 ${dragging ? 'z-10 bg-sunk' : ''}`}
      style={{ top, height, paddingBottom: lift + 2, ...style }}
      onContextMenu={(e) => {
        e.preventDefault();
        onMenu({ x: e.clientX, y: e.clientY });
      }}
    >
      {naming ? (
        <input
          autoFocus
          defaultValue={label}
          aria-label={`Name of the row ${label}`}
          maxLength={40}
          className="min-w-0 flex-1 rounded bg-surface px-1 leading-6"
          onFocus={(e) => e.target.select()}
          onBlur={(e) => {
            const name = e.target.value;
            getState().run(`Rename ${label.toLowerCase()}`, (part) => renameRow(part, row.voice, name));
            onNamed();
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') onNamed();
          }}
        />
      ) : (
        <button
          type="button"
          title="Click to hear the row and open it; drag to move it"
          aria-label={`Open ${label}`}
          aria-expanded={focused}
          {...handle}
          onClick={() => {
            if (getState().ui.pointing !== null) return pointAtRow(store, row.voice);
            playback.audition(row.voice);
            onClicked(top + height - lift);
            getState().setFocus(focused ? null : row.voice);
          }}
          className={`min-w-0 flex-1 truncate rounded px-1 text-left leading-6 hover:bg-sunk ${faded ? 'text-faint opacity-75' : ''} ${focused ? 'font-semibold' : ''}`}
        >
          {row.locked && <Lock size={12} className="mr-1 inline text-faint" aria-label="locked" />}
          {label}
        </button>
      )}
      <Hint text={row.muted ? 'Unmute this row' : 'Mute this row'}>
        <button
          type="button"
          aria-label={`Mute ${label}`}
          aria-pressed={row.muted === true}
          onClick={() => change(row.muted ? 'Unmute' : 'Mute', { muted: !row.muted })}
          className={`${small} ${row.muted ? 'font-semibold text-accent' : 'text-faint'}`}
        >
          mute
        </button>
      </Hint>
      <Hint text={row.soloed ? 'Hear all rows again' : 'Hear this row alone'}>
        <button
          type="button"
          aria-label={`Solo ${label}`}
          aria-pressed={row.soloed === true}
          onClick={() => change(row.soloed ? 'Unsolo' : 'Solo', { soloed: !row.soloed })}
          className={`${small} ${row.soloed ? 'font-semibold text-accent' : 'text-faint'}`}
        >
          solo
        </button>
      </Hint>
      <button
        type="button"
        aria-label={`More about ${label}`}
        aria-haspopup="menu"
        onClick={(e) => onMenu(belowButton(e.currentTarget))}
        className="mr-1 flex h-6 items-center rounded px-0.5 text-faint hover:bg-sunk"
      >
        <EllipsisVertical size={14} />
      </button>
    </div>
  );
}

/** The lens is named by its reach; beside it the grid for placing. */
function Lens() {
  const reach = useBench((s) => s.view.reach);
  const grid = useBench((s) => s.view.grid);
  const { getState } = useBenchStore();
  return (
    <div className="flex-1 text-xs leading-[18px] text-faint pointer-coarse:flex pointer-coarse:items-center pointer-coarse:gap-1">
      <div title="How many milliseconds early or late count as a full lean">
        <span className="pointer-coarse:hidden">lean scale</span>{' '}
        <Picker
          className="!leading-4"
          label="Lean scale"
          value={String(reach)}
          choices={REACHES.map((r) => ({ value: String(r), text: `${r} ms = full` }))}
          onChange={(v) => getState().setView({ reach: Number(v) as LensReach })}
        />
      </div>
      <div title="Grid for placing hits; it does not move existing ones">
        <span className="pointer-coarse:hidden">grid</span>{' '}
        <Picker
          className="!leading-4"
          label="Grid for placing"
          value={grid}
          choices={GRIDS.map((g) => ({ value: g, text: g }))}
          onChange={(v) => getState().setView({ grid: v as GridName })}
        />
      </div>
    </div>
  );
}
