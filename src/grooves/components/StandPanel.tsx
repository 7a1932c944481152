'use client';

import { plural } from '@/core/plurals';
import { useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { X } from 'lucide-react';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { GrooveMove } from '@/core/model/feel';
import { meetingOf } from '@/core/groove/meeting';
import { meterMapOf } from '@/core/part/part-time';
import { changeMove, removeMove } from '@/core/commands/moves';
import { putGroove } from '@/core/commands/grooves';
import { labelOfRow } from '@/core/part/rows';
import type { Part, Row } from '@/core/model/part';
import { sweepOf } from '@/editing/sweep';
import { Button, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { scopeWords } from '@/ui/scope-words';
import { say } from '@/ui/notify';
import type { PartRow } from '@/storage/database';
import { chosenRows, handGroove, heardParts } from '../store/heard';
import type { GroovesStoreApi } from '../store/grooves-store';
import { useGrooves, useGroovesStore, useHandGroove } from '../store/context';
import { meetingWords } from '../words/words';
import { RowStems, smallStems, type SmallStem } from '../pictures/RowStems';

/** Where a card may be let go: a part that is not on the stand, the whole part on it, or a row. */
export type DropTarget = { part: string } | { row: string | null };

const NO_STEMS: readonly SmallStem[] = [];
const PICTURED_BARS = 2;

/** Uses the groove in hand on rows, or on all. */
export function takeOn({ getState }: GroovesStoreApi, rows: readonly string[] | undefined): void {
  const state = getState();
  const groove = handGroove(state);
  const { stand, lean, level } = state;
  if (!stand) return;
  const where = rows ? rows.map((v) => labelOfRow(stand.part, v).toLowerCase()).join(', ') : 'all rows';
  let stays: readonly string[] = [];
  state.run(`Play ${where} like ${groove.name}`, (p) => {
    const put = putGroove(p, groove, { voices: rows, lean, level });
    stays = put.stays;
    return put.part;
  });
  if (stays.length > 0)
    say(`${groove.name} is on ${where}. ${[...new Set(stays)].join(', ')} ${plural(stays.length, 'stays', 'stay')} beside it.`);
  getState().set({ trying: false });
}

/** The part that grooves are tried on: its rows take them. */
export function StandPanel({ parts }: { parts: readonly PartRow[] }) {
  const part = useGrooves((s) => s.stand?.part);
  return (
    <aside
      aria-label="On the part"
      className="flex w-[312px] shrink-0 flex-col overflow-auto tight:w-full tight:overflow-visible tight:border-t tight:border-l-0 narrow:min-w-0 narrow:flex-1 narrow:shrink narrow:overflow-auto narrow:border-t-0 narrow:border-l border-l border-line px-4 pt-3 pb-6"
    >
      {part ? <OnPart part={part} /> : <PickPart parts={parts} />}
    </aside>
  );
}

function PickPart({ parts }: { parts: readonly PartRow[] }) {
  return (
    <>
      <h2 className="font-serif text-lg">On a part</h2>
      <p className="mb-3 text-sm text-faint">
        Heard on a neutral pattern now. Drop a groove on a part to use it there, or open one to try grooves on it.
      </p>
      <ul className="space-y-1.5">
        {parts.map((row) => (
          <PartOutputMap key={row.id} row={row} />
        ))}
      </ul>
    </>
  );
}

function PartOutputMap({ row }: { row: PartRow }) {
  const { setNodeRef, isOver } = useDroppable({ id: `part ${row.id}`, data: { part: row.id } satisfies DropTarget });
  return (
    <li ref={setNodeRef} className={clsx('rounded-md border', isOver ? 'border-accent bg-sunk' : 'border-line hover:border-strong')}>
      <Link href={`/grooves?part=${encodeURIComponent(row.id)}`} replace className="block px-3 py-1.5">
        <span className="font-serif">{row.name}</span>
        <span className="block text-sm text-faint">
          {row.summary.meter.join('/')} · {row.summary.tempo} BPM · {row.summary.bars} bars
        </span>
      </Link>
    </li>
  );
}

function OnPart({ part }: { part: Part }) {
  const store = useGroovesStore();
  const { getState } = store;
  const hand = useHandGroove();
  const ticked = useGrooves((s) => s.ticked);
  const lean = useGrooves((s) => s.lean);
  const level = useGrooves((s) => s.level);
  const trying = useGrooves((s) => s.trying);
  const grooved = useGrooves((s) => heardParts(s).grooved);
  const from = useGrooves((s) => s.bars.from);
  const rows = useGrooves(chosenRowsText);
  const stems = useMemo(() => {
    const map = meterMapOf(grooved);
    return smallStems(grooved, map.barOf(from).start, map.barOf(Math.min(grooved.bars, from + PICTURED_BARS)).start);
  }, [grooved, from]);
  const meeting = meetingWords(meetingOf(hand, part));
  const { setNodeRef, isOver } = useDroppable({ id: 'whole', data: { row: null } satisfies DropTarget });
  return (
    <>
      <div
        ref={setNodeRef}
        className={clsx('-mx-2 rounded-md border border-dashed px-2 py-1', isOver ? 'border-accent bg-sunk' : 'border-transparent')}
        data-testid="whole-part"
      >
        <h2 className="truncate font-serif text-lg">On {part.name}</h2>
        <p className="text-sm text-faint">Drop a groove here for all rows, or on one row. Only ticked rows are tried.</p>
      </div>
      <ul className="mt-1" aria-label="Rows">
        {part.rows.map((row) => (
          <RowOutput key={row.voice} part={part} row={row} stems={stems.get(row.voice) ?? NO_STEMS} ticked={ticked.has(row.voice)} />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-baseline gap-x-3">
        <NumberField
          label="Lean"
          value={Math.round(lean * 100)}
          min={0}
          max={150}
          unit="% lean"
          default={100}
          className="[&_input]:w-[3em]"
          onChange={(v) => getState().set({ lean: v / 100, trying: true })}
        />
        <NumberField
          label="Level"
          value={Math.round(level * 100)}
          min={0}
          max={150}
          unit="% level"
          default={100}
          className="[&_input]:w-[3em]"
          onChange={(v) => getState().set({ level: v / 100, trying: true })}
        />
      </div>
      {meeting && (
        <p className="mt-1 text-sm text-faint" data-testid="meeting">
          {meeting}
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button look="strong" className="!h-auto min-h-8 py-1 !whitespace-normal" onClick={() => takeOn(store, chosenRows(getState()))}>
          Use {hand.name} on {rows === '' ? 'all rows' : rows}
        </Button>
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="accent-accent"
            checked={trying}
            onChange={(e) => getState().set({ trying: e.target.checked })}
          />{' '}
          try it
        </label>
      </div>
      <UsedGrooves part={part} />
      <p className="mt-3">
        <Link href={`/bench/${encodeURIComponent(getState().stand?.id ?? '')}`} className="underline underline-offset-4">
          Open it on the Bench
        </Link>
      </p>
    </>
  );
}

const chosenRowsText = (s: Parameters<typeof chosenRows>[0] & { stand: { part: Part } | null }): string =>
  (chosenRows(s) ?? []).map((v) => (s.stand ? labelOfRow(s.stand.part, v).toLowerCase() : v)).join(', ');

function RowOutput({ part, row, stems, ticked }: { part: Part; row: Row; stems: readonly SmallStem[]; ticked: boolean }) {
  const { getState } = useGroovesStore();
  const { setNodeRef, isOver } = useDroppable({ id: `row ${row.voice}`, data: { row: row.voice } satisfies DropTarget });
  const label = labelOfRow(part, row.voice);
  const toggle = () => {
    const next = new Set(getState().ticked);
    if (!next.delete(row.voice)) next.add(row.voice);
    getState().set({ ticked: next });
  };
  return (
    <li
      ref={setNodeRef}
      data-row={row.voice}
      className={clsx('-mx-2 rounded-md border px-2', isOver ? 'border-accent bg-sunk' : 'border-transparent')}
    >
      <label className="flex items-center gap-2 py-0.5">
        <input type="checkbox" className="accent-accent" checked={ticked} onChange={toggle} />
        <span className="min-w-0 flex-1 truncate">{label}</span>
        <RowStems stems={stems} />
      </label>
    </li>
  );
}

/** The part's template moves, each with its amounts. */
function UsedGrooves({ part }: { part: Part }) {
  const { getState } = useGroovesStore();
  const [sweep] = useState(() => sweepOf(getState().openPart, 'drag'));
  const used = part.feel.moves.flatMap((move, index) => (move.kind === 'groove' ? [{ move, index }] : []));
  if (used.length === 0) return null;
  const change = (index: number, what: string, by: Partial<GrooveMove>) => sweep.show(what, (p) => changeMove<GrooveMove>(p, index, by));
  return (
    <section aria-label="Grooves in use" className="mt-4 border-t border-line pt-2">
      <h3 className="font-serif text-base">In use</h3>
      <ul>
        {used.map(({ move, index }) => (
          <li key={index} className="border-b border-line py-1.5">
            <div className="flex items-center gap-1">
              <span className="min-w-0 flex-1">
                <span className="block truncate font-serif">{move.groove.name}</span>
                <span className="block truncate text-sm text-faint">
                  {scopeWords(part, move.scope)}
                  {move.on === false ? ', off' : ''}
                </span>
              </span>
              <IconButton
                label={`Delete ${move.groove.name} from the part`}
                size="small"
                className="text-faint"
                onClick={() => getState().run(`Delete ${move.groove.name} from the part`, (p) => removeMove(p, index))}
              >
                <X size={15} />
              </IconButton>
            </div>
            <div className="flex gap-x-3 text-sm">
              <NumberField
                label={`Lean of ${move.groove.name}`}
                value={Math.round(move.lean * 100)}
                min={0}
                max={150}
                unit="% lean"
                default={100}
                className="[&_input]:w-[3em]"
                onChange={(v) => change(index, 'Change the lean', { lean: v / 100 })}
                onDone={sweep.done}
                onCancel={sweep.cancel}
              />
              <NumberField
                label={`Level of ${move.groove.name}`}
                value={Math.round(move.level * 100)}
                min={0}
                max={150}
                unit="% level"
                default={100}
                className="[&_input]:w-[3em]"
                onChange={(v) => change(index, 'Change the level', { level: v / 100 })}
                onDone={sweep.done}
                onCancel={sweep.cancel}
              />
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
