'use client';

import { BookOpen, Keyboard, Table2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button, Hint, IconButton } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { UndoButtons } from '@/ui/UndoButtons';
import { redo, undo } from '../actions/undo';
import { describeHits } from '../words/describe';
import type { Playback } from '../playback/use-playback';
import { usePages } from '../shared/features';
import { useBench, useBenchStore } from '../store/context';
import { calmPart } from '../store/derived';
import type { Paint, Tool } from '../store/tools';
import { useNotice } from './Banners';
import { Legend } from './Legend';

const PaintWords = dynamic(() => import('./PaintWords'), { ssr: false });

/** What painting paints, as its sentence says it. */
const PAINTS: readonly { value: Exclude<Tool, 'select'>; text: string }[] = [
  { value: 'hits', text: 'hits' },
  { value: 'nothing', text: 'nothing (erase)' },
  { value: 'line', text: 'velocity along a line' },
  { value: 'free', text: 'velocity freely' },
];

const mode = 'rounded px-2 py-0.5 text-faint hover:bg-sunk aria-checked:bg-ink aria-checked:text-ground pointer-coarse:py-1.5';

/**
 * What the pointer does, in words that are edited in place, and what is selected. As high as two lines of words: what is chosen moves no
 * row.
 */
export function Toolbar({ playback }: { playback: Playback }) {
  const ui = useBench((s) => s.ui);
  const { getState } = useBenchStore();
  const notice = useNotice(playback);
  const painting = ui.tool !== 'select';
  return (
    <div
      // On a phone the words have a line of their own below: beside the buttons there is no room for any.
      className="flex h-[52px] shrink-0 items-center gap-3 overflow-hidden border-b border-line px-4 max-[639px]:h-[100px] max-[639px]:flex-wrap max-[639px]:content-center max-[639px]:gap-y-1"
      role="toolbar"
      aria-label="Pointer and selection"
    >
      <ToggleGroup.Root
        type="single"
        value={painting ? 'paint' : 'select'}
        onValueChange={(v) => v && getState().setUi({ tool: v === 'paint' ? 'hits' : 'select' })}
        aria-label="What the pointer does"
        className="flex shrink-0 gap-0.5"
      >
        <Hint text="Select, take and drag hits (Esc)">
          <ToggleGroup.Item value="select" className={mode}>
            select
          </ToggleGroup.Item>
        </Hint>
        <Hint text="Paint along a row (H)">
          <ToggleGroup.Item value="paint" className={mode}>
            paint
          </ToggleGroup.Item>
        </Hint>
      </ToggleGroup.Root>
      <span className="h-5 w-px shrink-0 bg-line max-[639px]:hidden" aria-hidden="true" />
      <div className="flex min-w-0 flex-1 max-[639px]:order-last max-[639px]:basis-full">
        <Doing tool={ui.tool} paint={ui.paint} notice={notice} />
      </div>
      <div className="ml-auto flex shrink-0 items-center gap-1">
        <UndoRedo />
        <IconButton
          label="Table of hits"
          hint="Table of hits (X)"
          aria-pressed={ui.table}
          className={ui.table ? 'text-accent' : 'text-faint'}
          onClick={() => getState().setUi({ table: !ui.table })}
        >
          <Table2 size={17} />
        </IconButton>
        <IconButton
          label="Pattern book"
          hint="Pattern book: save these hits or place others"
          className="text-faint"
          onClick={() => getState().setUi({ dialog: 'patterns' })}
        >
          <BookOpen size={17} />
        </IconButton>
        <Legend />
        <IconButton label="All keys" hint="All keys (?)" className="text-faint" onClick={() => getState().setUi({ dialog: 'keys' })}>
          <Keyboard size={17} />
        </IconButton>
      </div>
    </div>
  );
}

function UndoRedo() {
  const back = useBench((s) => s.history.undo.at(-1)?.label);
  const forth = useBench((s) => s.history.redo.at(-1)?.label);
  const store = useBenchStore();
  return <UndoButtons back={back} forth={forth} onUndo={() => undo(store)} onRedo={() => redo(store)} />;
}

function Doing({ tool, paint, notice }: { tool: Tool; paint: Paint; notice: ReactNode }) {
  const underway = useBench((s) => s.underway);
  const pointing = useBench((s) => s.ui.pointing);
  const leading = useBench((s) => s.ui.leading);
  if (leading) return <PageLetters />;
  if (pointing !== null) return <Pointing index={pointing} />;
  if (underway?.kind === 'trial') return <Trying label={underway.label} />;
  if (notice) return notice;
  if (tool === 'select') return <Selected />;
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-x-2 py-1 whitespace-nowrap">
      <PaintWhat tool={tool} />
      {tool === 'hits' && <PaintWords paint={paint} />}
      {tool !== 'hits' && <VariationWords erases={tool === 'nothing'} />}
    </div>
  );
}

/** P was pressed: which letters lead on. */
function PageLetters() {
  const pages = usePages();
  return <p role="status">{`P, then a letter: ${pages.map((p) => `${p.letter.toUpperCase()} for ${p.title}`).join(', ')}.`}</p>;
}

function PaintWhat({ tool }: { tool: Tool }) {
  const { getState } = useBenchStore();
  return <Picker label="What is painted" value={tool} choices={PAINTS} onChange={(v) => getState().setUi({ tool: v as Tool })} />;
}

/** A move's scope is pointed out on the Bench itself. */
function Pointing({ index }: { index: number }) {
  const { getState } = useBenchStore();
  return (
    <div className="flex min-w-0 items-center gap-2" role="status">
      <span className="truncate">Choose what move {index + 1} touches: row names, bars on the ruler, hits for their steps.</span>
      <Button look="strong" size="small" onClick={() => getState().setUi({ pointing: null })}>
        Done
      </Button>
    </div>
  );
}

/** A change that is tried out is kept or put back here, wherever it was made. */
function Trying({ label }: { label: string }) {
  const { getState } = useBenchStore();
  return (
    <div className="flex min-w-0 items-center gap-2" role="status">
      <span className="truncate">{label}</span>
      <Button look="strong" size="small" onClick={() => getState().settle()}>
        Apply
      </Button>
      <Button size="small" onClick={() => getState().putBack()}>
        Cancel
      </Button>
    </div>
  );
}

function Selected() {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const { getState } = useBenchStore();
  if (selection.size === 0)
    return <p className="truncate text-faint">Nothing selected. Drag over empty ground to select, click an empty step to place.</p>;
  return (
    <p className="flex min-w-0 items-baseline gap-2">
      <span className="truncate" data-testid="selected">
        {describeHits(part, selection)}
      </span>
      <button
        type="button"
        className="shrink-0 text-faint underline underline-offset-2 hover:text-ink"
        onClick={() => getState().select([])}
      >
        none
      </button>
    </p>
  );
}

function VariationWords({ erases }: { erases: boolean }) {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  if (erases) return <p className="truncate text-faint">Drag along a row: the hits that it crosses are deleted. Esc ends it.</p>;
  return (
    <p className="truncate text-faint">
      Drag along a row. It changes {selection.size > 1 ? `${describeHits(part, selection)} of that row` : 'all hits of that row'}, as far as
      you drag.
    </p>
  );
}
