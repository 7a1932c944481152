'use client';

import { Keyboard, Table2 } from 'lucide-react';
import { Popover, ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button, Hint, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { LevelStems } from '@/ui/LevelStems';
import { describeHits } from '../words/describe';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { calmPart } from '../store/derived';
import { MOST_LEVELS, MOST_STRIDE, TOOLS, type Brush, type Tool } from '../store/tools';
import { useNotice } from './Banners';

const HINTS: Readonly<Record<Tool, string>> = {
  hold: 'Take, drag and select stems (H)',
  brush: 'Paint hits along a row (B)',
  wipe: 'Take hits away along a row (Shift+B)',
  line: 'Draw a straight line of velocities (V)',
  curve: 'Draw velocities freely (Shift+V)',
};

/** What the pointer does, in words that are edited in place, and what is selected. */
export function HandLine({ playback, onReload }: { playback: Playback; onReload: () => void }) {
  const desk = useBench((s) => s.desk);
  const { getState } = useBenchStore();
  const notice = useNotice(playback, onReload);
  return (
    <div className="flex h-11 shrink-0 items-center gap-3 border-b border-line px-4" role="toolbar" aria-label="Hands">
      <ToggleGroup.Root type="single" value={desk.tool} onValueChange={(v) => v && getState().setDesk({ tool: v as Tool })} aria-label="What the pointer does" className="flex gap-0.5">
        {TOOLS.map((tool) => (
          <Hint key={tool} text={HINTS[tool]}>
            <ToggleGroup.Item value={tool} className="rounded px-2 py-0.5 text-faint hover:bg-sunk aria-checked:bg-ink aria-checked:text-ground">
              {tool}
            </ToggleGroup.Item>
          </Hint>
        ))}
      </ToggleGroup.Root>
      <span className="h-5 w-px bg-line" aria-hidden="true" />
      <Doing tool={desk.tool} brush={desk.brush} notice={notice} />
      <div className="ml-auto flex shrink-0 items-center gap-1">
        <IconButton label="Table of hits" hint="Table of hits (X)" aria-pressed={desk.table} className={desk.table ? 'text-accent' : 'text-faint'} onClick={() => getState().setDesk({ table: !desk.table })}>
          <Table2 size={17} />
        </IconButton>
        <IconButton label="All shortcuts" hint="All shortcuts (?)" className="text-faint" onClick={() => getState().setDesk({ dialog: 'keys' })}>
          <Keyboard size={17} />
        </IconButton>
      </div>
    </div>
  );
}

function Doing({ tool, brush, notice }: { tool: Tool; brush: Brush; notice: ReactNode }) {
  const underway = useBench((s) => s.underway);
  const pointing = useBench((s) => s.desk.pointing);
  if (pointing !== null) return <Pointing index={pointing} />;
  if (underway?.kind === 'trial') return <Trying label={underway.label} />;
  if (notice) return notice;
  if (tool === 'hold') return <Selected />;
  if (tool === 'brush') return <BrushWords brush={brush} />;
  if (tool === 'wipe') return <p className="truncate text-faint">Drag along a row: the hits that it crosses go. Esc ends it.</p>;
  return <DrawWords />;
}

/** A move's scope is pointed out on the Bench itself. */
function Pointing({ index }: { index: number }) {
  const { getState } = useBenchStore();
  return (
    <div className="flex min-w-0 items-center gap-2" role="status">
      <span className="truncate">Point out what move {index + 1} touches: row names, bars on the ruler, stems for their steps.</span>
      <Button look="strong" size="small" onClick={() => getState().setDesk({ pointing: null })}>
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
        Keep
      </Button>
      <Button size="small" onClick={() => getState().putBack()}>
        Put back
      </Button>
    </div>
  );
}

function Selected() {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const { getState } = useBenchStore();
  if (selection.size === 0) return <p className="truncate text-faint">Nothing selected. Drag over empty ground to select, click an empty step to place.</p>;
  return (
    <p className="flex min-w-0 items-baseline gap-2">
      <span className="truncate" data-testid="selected">
        {describeHits(part, selection)}
      </span>
      <button type="button" className="shrink-0 text-faint underline underline-offset-2 hover:text-ink" onClick={() => getState().select([])}>
        none
      </button>
    </p>
  );
}

const ACCENTS: readonly { name: string; levels: readonly number[] }[] = [
  { name: 'even', levels: [96] },
  { name: 'loud, soft', levels: [108, 74] },
  { name: 'soft, loud', levels: [74, 108] },
  { name: 'first of four', levels: [112, 70, 88, 70] },
  { name: 'first of three', levels: [110, 72, 80] },
  { name: 'ghosts', levels: [26] },
];

const sameLevels = (a: readonly number[], b: readonly number[]): boolean => a.length === b.length && a.every((v, i) => v === b[i]);

function BrushWords({ brush }: { brush: Brush }) {
  const grid = useBench((s) => s.view.grid);
  const { getState } = useBenchStore();
  const set = (change: Partial<Brush>) => getState().setDesk({ brush: { ...getState().desk.brush, ...change } });
  const accent = ACCENTS.find((a) => sameLevels(a.levels, brush.levels));
  return (
    <div className="flex min-w-0 items-center gap-2 whitespace-nowrap">
      <span className="text-faint">paints</span>
      {brush.levels.length === 1 && <NumberField label="Velocity of the brush" value={brush.levels[0] as number} min={1} max={127} unit="of 127" default={96} className="[&_input]:w-[2.8em]" onChange={(v) => set({ levels: [v] })} />}
      <Picker
        label="Accents of the brush"
        value={accent?.name ?? 'own'}
        choices={[...ACCENTS.map((a) => ({ value: a.name, text: a.name })), ...(accent ? [] : [{ value: 'own', text: brush.levels.length === 1 ? 'even' : 'own accents' }])]}
        onChange={(name) => {
          const chosen = ACCENTS.find((a) => a.name === name);
          if (chosen) set({ levels: chosen.levels, ghosts: name === 'ghosts' });
        }}
      />
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button size="small">shape the accents</Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content sideOffset={6} aria-label="Accents of the brush" className="z-50 rounded-md border border-strong bg-surface p-4 shadow-md">
            <p className="mb-2 text-sm text-faint">One stroke after another, from each bar line on. Drag a stem up or down.</p>
            <LevelStems label="Accent of the brush" levels={brush.levels} min={1} max={127} most={MOST_LEVELS} onChange={(levels) => set({ levels })} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <span className="text-faint">on every</span>
      <NumberField label="Stride of the brush" value={brush.stride} min={1} max={MOST_STRIDE} unit={`of ${grid}`} default={1} className="[&_input]:w-[2.2em]" onChange={(stride) => set({ stride })} />
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={brush.ghosts} onChange={(e) => set({ ghosts: e.target.checked })} className="accent-accent" /> as ghosts
      </label>
    </div>
  );
}

function DrawWords() {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  return <p className="truncate text-faint">Drag along a row: velocities follow. It touches {selection.size > 0 ? `${describeHits(part, selection)} of that row` : 'all hits of that row'}, as far as the line reaches.</p>;
}
