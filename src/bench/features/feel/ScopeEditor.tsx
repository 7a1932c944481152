'use client';

import { Popover } from 'radix-ui';
import { memo, useState, type ReactNode } from 'react';
import type { Scope } from '@/core/model/feel';
import { scopeOfHits } from '@/core/feel/scope-of-hits';
import { toggleRow, toggleVoice, voicesOfSeveralRows } from '@/core/feel/scope-rows';
import { labelOfRow, rowsNamed } from '@/core/part/rows';
import { GRIDS, type GridName } from '@/core/time/grid';
import { allRowsOf } from '@/core/row-names';
import { labelOfVoice } from '@/core/voices';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { say } from '@/ui/notify';
import { scopeWords } from '@/ui/scope-words';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import type { Edit } from './edit';

interface Props {
  /** The move's place in the feel. */
  index: number;
  edit: Edit;
}

const NO_SCOPE: Scope = {};

type BarsKind = 'all' | 'range' | 'odd' | 'even' | 'some';
type StepsKind = 'all' | 'on' | 'off' | 'some';

const tidy = (scope: Scope): Scope | undefined => {
  const kept = Object.fromEntries(Object.entries(scope).filter(([, v]) => v !== undefined)) as Scope;
  return Object.keys(kept).length > 0 ? kept : undefined;
};

function barsKind({ bars }: Scope): BarsKind {
  if (!bars) return 'all';
  if (bars.every === 2 && bars.at?.length === 1 && bars.from === undefined) return bars.at[0] === 1 ? 'odd' : 'even';
  return bars.every ? 'some' : 'range';
}

function stepsKind({ steps }: Scope): StepsKind {
  if (!steps) return 'all';
  if (steps.grid === '1/8' && steps.of === 2 && steps.at.length === 1) return steps.at[0] === 1 ? 'off' : 'on';
  return 'some';
}

/** The words of a move's scope; pressed, they open what they stand for. */
export const ScopeEditor = memo(function ScopeEditor({ index, edit }: Props) {
  const { getState } = useBenchStore();
  // At once, not at every second frame: a tick must stay where it was made.
  const scope = useBench((s) => s.part.feel.moves[index]?.scope) ?? NO_SCOPE;
  const part = useBench(calmPart);
  // One visit is one step: what is changed while it is open is finished when it closes.
  const onChange = (next: Scope | undefined) => edit.sweep({ scope: next });
  const set = (change: Partial<Scope>) => onChange(tidy({ ...scope, ...change }));
  const fromSelection = () => {
    const { part: now, selection, view } = getState();
    if (selection.size === 0) return say('Select the hits that the move is for, then press this again.');
    onChange(scopeOfHits(now, selection, view.grid));
  };
  // Without a choice all rows are meant, and all are ticked. The last one cannot be taken away.
  const [cleared, setCleared] = useState(false);
  const names = cleared ? [] : (scope.voices ?? part.rows.map((r) => r.voice));
  const voices = new Set(rowsNamed(part, names));
  const choose = (next: readonly string[]) => {
    if (next.length === 0) return;
    setCleared(false);
    set({ voices: rowsNamed(part, next).length === part.rows.length ? undefined : [...next] });
  };
  const bars = scope.bars;
  const steps = scope.steps;
  return (
    <Popover.Root
      onOpenChange={(open) => {
        if (open) return setCleared(false);
        edit.done();
      }}
    >
      <Popover.Trigger
        className="rounded border-b border-strong px-1 text-left hover:bg-sunk"
        aria-label={`Scope: ${scopeWords(part, scope)}`}
      >
        {scopeWords(part, scope)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="left"
          align="start"
          sideOffset={14}
          collisionPadding={8}
          aria-label="Scope of the move"
          className="z-50 max-h-[min(560px,var(--radix-popover-content-available-height))] w-[300px] space-y-3 overflow-auto rounded-md border border-strong bg-surface p-4 shadow-md"
        >
          <div className="flex flex-wrap gap-1">
            <Button size="small" onClick={fromSelection}>
              Use the selection
            </Button>
            <Popover.Close asChild>
              <Button size="small" onClick={() => getState().setUi({ pointing: index })}>
                Pick them among the hits
              </Button>
            </Popover.Close>
            <Button size="small" onClick={() => onChange(undefined)}>
              Everything
            </Button>
          </div>
          <Group label="Rows">
            {part.rows.map((r) => (
              <label key={r.voice} className="mr-2 inline-flex items-center gap-1 whitespace-nowrap">
                <input
                  type="checkbox"
                  className="accent-accent"
                  checked={voices.has(r.voice)}
                  onChange={() => choose(toggleRow(part, names, r.voice))}
                />
                {labelOfRow(part, r.voice)}
              </label>
            ))}
            <span className="inline-flex flex-wrap gap-1">
              {voicesOfSeveralRows(part).map((voice) => {
                const all = allRowsOf(voice);
                const on = names.includes(all);
                return (
                  <Button
                    key={all}
                    size="small"
                    look={on ? 'strong' : 'quiet'}
                    aria-pressed={on}
                    title="Every row of this voice, also those that are made later"
                    onClick={() => choose(toggleVoice(part, names, voice))}
                  >
                    {labelOfVoice(all)}
                  </Button>
                );
              })}
              <Button
                size="small"
                disabled={!scope.voices && !cleared}
                onClick={() => {
                  setCleared(false);
                  set({ voices: undefined });
                }}
              >
                All
              </Button>
              <Button size="small" disabled={cleared} title="Clear, then choose" onClick={() => setCleared(true)}>
                None
              </Button>
              <Button
                size="small"
                disabled={!scope.voices}
                title="All rows except these"
                onClick={() => choose(part.rows.map((r) => r.voice).filter((v) => !voices.has(v)))}
              >
                Invert
              </Button>
            </span>
          </Group>
          <Group label="Bars">
            <Picker
              label="Which bars"
              value={barsKind(scope)}
              choices={[
                { value: 'all', text: 'all' },
                { value: 'range', text: 'a range' },
                { value: 'odd', text: 'odd' },
                { value: 'even', text: 'even' },
                { value: 'some', text: 'some of a cycle' },
              ]}
              onChange={(kind) =>
                set({
                  bars:
                    kind === 'all'
                      ? undefined
                      : kind === 'range'
                        ? { from: 1, to: Math.max(1, Math.ceil(part.bars / 2)) }
                        : kind === 'odd'
                          ? { every: 2, at: [1] }
                          : kind === 'even'
                            ? { every: 2, at: [2] }
                            : { every: 4, at: [4] },
                })
              }
            />
            {bars && barsKind(scope) === 'range' && (
              <span className="ml-2">
                <NumberField
                  label="From bar"
                  value={bars.from ?? 1}
                  min={1}
                  max={part.bars}
                  unit="to"
                  className={narrow}
                  onChange={(from) => set({ bars: { from, to: Math.max(from, bars.to ?? part.bars) } })}
                />
                <NumberField
                  label="To bar"
                  value={bars.to ?? part.bars}
                  min={1}
                  max={part.bars}
                  unit=""
                  className={narrow}
                  onChange={(to) => set({ bars: { from: Math.min(to, bars.from ?? 1), to } })}
                />
              </span>
            )}
            {bars?.every && bars.at && barsKind(scope) === 'some' && (
              <div>
                of each{' '}
                <NumberField
                  label="Bars per cycle"
                  value={bars.every}
                  min={1}
                  max={Math.max(16, part.bars)}
                  unit="bars:"
                  className={narrow}
                  onChange={(every) => set({ bars: { every, at: atLeastOne(bars.at, every, 1) } })}
                />
                <Places label="Bar" of={bars.every} first={1} at={bars.at} onChange={(at) => set({ bars: { every: bars.every, at } })} />
              </div>
            )}
          </Group>
          <Group label="Steps">
            <Picker
              label="Which steps"
              value={stepsKind(scope)}
              choices={[
                { value: 'all', text: 'all' },
                { value: 'on', text: 'on-beats' },
                { value: 'off', text: 'off-beats' },
                { value: 'some', text: 'some of a cycle' },
              ]}
              onChange={(kind) =>
                set({
                  steps:
                    kind === 'all'
                      ? undefined
                      : kind === 'on'
                        ? { grid: '1/8', of: 2, at: [0] }
                        : kind === 'off'
                          ? { grid: '1/8', of: 2, at: [1] }
                          : { grid: '1/16', of: 4, at: [1, 3] },
                })
              }
            />
            {steps && stepsKind(scope) === 'some' && (
              <div>
                of each{' '}
                <NumberField
                  label="Steps per cycle"
                  value={steps.of}
                  min={1}
                  max={64}
                  unit="of"
                  className={narrow}
                  onChange={(of) => set({ steps: { ...steps, of, at: atLeastOne(steps.at, of - 1, 0) } })}
                />
                <Picker
                  label="Grid of the scope"
                  value={steps.grid}
                  choices={GRIDS.map((g) => ({ value: g, text: g }))}
                  onChange={(grid) => set({ steps: { ...steps, grid: grid as GridName } })}
                />
                <Places label="Step" of={steps.of} first={0} at={steps.at} onChange={(at) => set({ steps: { ...steps, at } })} />
              </div>
            )}
          </Group>
          <Group label="Ghosts">
            <Picker
              label="Ghosts"
              value={scope.ghosts ?? 'both'}
              choices={[
                { value: 'both', text: 'included' },
                { value: 'only', text: 'alone' },
                { value: 'none', text: 'excluded' },
              ]}
              onChange={(g) => set({ ghosts: g === 'both' ? undefined : (g as 'only' | 'none') })}
            />
          </Group>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

const narrow = '[&_input]:w-[2.4em]';

/** What is left of some places within a shorter cycle; the first where nothing is. */
const atLeastOne = (at: readonly number[] | undefined, last: number, first: number): number[] => {
  const kept = (at ?? []).filter((n) => n <= last);
  return kept.length > 0 ? kept : [first];
};

function Group({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div role="group" aria-label={label}>
      <p className="text-sm text-faint">{label}</p>
      <div className="leading-8">{children}</div>
    </div>
  );
}

/** Places of a cycle, each on or off; at least one stays on. */
function Places({
  label,
  of,
  first,
  at,
  onChange,
}: {
  label: string;
  of: number;
  first: number;
  at: readonly number[];
  onChange: (at: number[]) => void;
}) {
  const on = new Set(at);
  const toggle = (n: number) => {
    const next = new Set(on);
    if (!next.delete(n)) next.add(n);
    if (next.size > 0) onChange([...next].sort((a, b) => a - b));
  };
  return (
    <span className="flex flex-wrap gap-0.5">
      {Array.from({ length: of }, (_, i) => i + first).map((n) => (
        <button
          key={n}
          type="button"
          aria-label={`${label} ${n + 1 - first}`}
          aria-pressed={on.has(n)}
          onClick={() => toggle(n)}
          className={`h-6 min-w-6 rounded px-1 text-sm ${on.has(n) ? 'bg-ink text-ground' : 'border border-line text-faint'}`}
        >
          {n + 1 - first}
        </button>
      ))}
    </span>
  );
}
