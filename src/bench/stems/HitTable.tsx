'use client';

import { counted } from '@/core/plurals';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent } from 'react';
import { MAX_NUDGE_MS, setNudges, setVelocities } from '@/core/commands/hits';
import { setQuality } from '@/core/shaping/qualities';
import { IconButton } from '@/ui/Button';
import { hitLines, type HitLine } from '../words/hit-lines';
import { useBench, useBenchStore } from '../store/context';
import { calmPart, performanceOf } from '../store/derived';
import { reveal } from '../actions/view-control';
import { stemsFacts } from '../store/stems-facts';
import { EditableNumber } from './EditableNumber';

const ROW_HEIGHT = 28;
const isNumber = (column: string): boolean => ['velocity', 'heard', 'nudge', 'lean', 'length'].includes(column);
const column = createColumnHelper<HitLine>();

/** The accessible twin of the stems: every hit as a line, sortable and editable; it follows the selection and sets it. */
export default function HitTable() {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const [sorting, setSorting] = useState<SortingState>([]);
  const scroller = useRef<HTMLDivElement>(null);
  const anchor = useRef<number | null>(null);

  const lines = useMemo(() => hitLines(part, performanceOf(part)), [part]);

  const strokes = lines.length - part.hits.length;
  const howMany = `${counted(part.hits.length, 'hit')}${strokes > 0 ? ` and ${counted(strokes, 'further stroke')}` : ''}`;

  const columns = useMemo(
    () => [
      column.accessor('row', { header: 'Row', size: 130 }),
      column.accessor('tick', { header: 'Place', size: 120, cell: (c) => c.row.original.place }),
      column.accessor('velocity', {
        header: 'Velocity',
        size: 84,
        // A stroke's velocity and place are its ornament's: there is nothing to type.
        cell: (c) =>
          c.row.original.stroke === 0 && (
            <EditableNumber
              label={`Velocity of ${c.row.original.row}, ${c.row.original.place}`}
              value={c.getValue()}
              min={1}
              max={127}
              disabled={c.row.original.locked}
              onChange={(v) => getState().run(`Set a velocity to ${v}`, (p) => setVelocities(p, new Set([c.row.original.id]), () => v))}
            />
          ),
      }),
      column.accessor('heard', { header: 'Heard', size: 70 }),
      column.accessor('nudge', {
        header: 'Nudge, ms',
        size: 92,
        cell: (c) =>
          c.row.original.stroke === 0 && (
            <EditableNumber
              label={`Nudge of ${c.row.original.row}, ${c.row.original.place}, in ms`}
              value={c.getValue()}
              min={-MAX_NUDGE_MS}
              max={MAX_NUDGE_MS}
              digits={1}
              disabled={c.row.original.locked}
              onChange={(v) => getState().run(`Set a nudge to ${v} ms`, (p) => setNudges(p, new Set([c.row.original.id]), () => v))}
            />
          ),
      }),
      column.accessor('lean', { header: 'Lean, ms', size: 84, cell: (c) => c.getValue().toFixed(1) }),
      column.accessor('length', {
        header: 'Length, 1/16',
        size: 104,
        cell: (c) =>
          c.row.original.stroke === 0 && (
            <EditableNumber
              label={`Length of ${c.row.original.row}, ${c.row.original.place}, in sixteenths`}
              value={c.getValue()}
              min={0.01}
              max={1024}
              digits={2}
              disabled={c.row.original.locked}
              onChange={(v) =>
                getState().run(`Set a length to ${v} sixteenths`, (p) => setQuality(p, new Set([c.row.original.id]), 'length', () => v))
              }
            />
          ),
      }),
      column.accessor('marks', { header: 'Marks', size: 140 }),
    ],
    [getState],
  );
  // The compiler cannot memoize the package's table; nothing here relies on that.
  // eslint-disable-next-line react-hooks/incompatible-library
  const table = useReactTable({
    data: lines,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getRowId: (l) => l.line,
  });
  const rows = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 6,
  });

  // What is selected on the stems comes into sight here.
  const firstSelected = useMemo(() => (selection.size === 0 ? -1 : rows.findIndex((r) => selection.has(r.original.id))), [rows, selection]);
  useEffect(() => {
    if (firstSelected >= 0) virtual.scrollToIndex(firstSelected, { align: 'auto' });
  }, [firstSelected, virtual]);

  const choose = (at: number, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const id = rows[at]?.original.id;
    if (!id) return;
    if (e.shiftKey && anchor.current !== null) {
      const [from, to] = [Math.min(anchor.current, at), Math.max(anchor.current, at)];
      getState().select([...getState().selection, ...rows.slice(from, to + 1).map((r) => r.original.id)]);
    } else if (e.ctrlKey || e.metaKey) {
      const next = new Set(getState().selection);
      if (!next.delete(id)) next.add(id);
      getState().select(next);
    } else getState().select([id]);
    if (!e.shiftKey) anchor.current = at;
    const hit = part.hits.find((h) => h.id === id);
    if (hit) reveal(store, hit.tick, stemsFacts(store).width);
  };
  const onRowKey = (e: KeyboardEvent<HTMLElement>, at: number) => {
    if (e.target !== e.currentTarget) return;
    if (e.key === 'Enter' || e.key === ' ') choose(at, e);
    else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      const next = e.key === 'ArrowDown' ? e.currentTarget.nextElementSibling : e.currentTarget.previousElementSibling;
      (next as HTMLElement | null)?.focus();
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const grid = {
    gridTemplateColumns: table
      .getVisibleLeafColumns()
      .map((c) => `minmax(${c.getSize()}px, ${c.getSize()}fr)`)
      .join(' '),
  };
  return (
    <section aria-label="Table of hits" className="relative flex h-56 shrink-0 flex-col border-t border-line bg-surface">
      <IconButton
        label="Close the table"
        size="small"
        className="absolute top-0 right-2 z-10"
        onClick={() => getState().setUi({ table: false })}
      >
        <X size={15} />
      </IconButton>
      <div role="table" aria-rowcount={lines.length + 1} aria-label="Hits" className="flex min-h-0 flex-1 flex-col">
        <div role="rowgroup" className="relative border-b border-line">
          <div role="row" aria-rowindex={1} className="grid pr-12 pl-4 text-sm" style={grid}>
            {table.getFlatHeaders().map((h) => {
              const sorted = h.column.getIsSorted();
              return (
                <div
                  key={h.id}
                  role="columnheader"
                  className={isNumber(h.id) ? 'flex justify-end pr-6' : ''}
                  aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                >
                  <button
                    type="button"
                    className="flex items-center gap-1 py-1 text-faint hover:text-ink"
                    onClick={h.column.getToggleSortingHandler()}
                  >
                    {flexRender(h.column.columnDef.header, h.getContext())}
                    {sorted === 'asc' && <ArrowUp size={12} />}
                    {sorted === 'desc' && <ArrowDown size={12} />}
                  </button>
                </div>
              );
            })}
          </div>
        </div>
        <div
          ref={scroller}
          role="rowgroup"
          tabIndex={0}
          aria-label={howMany}
          className="min-h-0 flex-1 overflow-auto"
          data-testid="hit-lines"
        >
          <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const row = rows[item.index];
              if (!row) return null;
              const selected = selection.has(row.original.id);
              return (
                <div
                  key={row.id}
                  role="row"
                  aria-rowindex={item.index + 2}
                  aria-selected={selected}
                  tabIndex={0}
                  className={`absolute inset-x-0 grid items-center pr-12 pl-4 ${selected ? 'bg-sunk font-semibold' : 'hover:bg-sunk/60'}`}
                  style={{ ...grid, height: ROW_HEIGHT, transform: `translateY(${item.start}px)` }}
                  onClick={(e: MouseEvent) => choose(item.index, e)}
                  onKeyDown={(e) => onRowKey(e, item.index)}
                >
                  {row.getVisibleCells().map((cell) => (
                    <div key={cell.id} role="cell" className={isNumber(cell.column.id) ? 'pr-6 text-right' : 'truncate pr-2'}>
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </div>
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </section>
  );
}
