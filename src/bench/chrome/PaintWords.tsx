'use client';

import { ordinalEnding, plural } from '@/core/plurals';
import { Popover } from 'radix-ui';
import { Button } from '@/ui/Button';
import { LevelStems } from '@/ui/LevelStems';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../store/context';
import { MOST_LEVELS, MOST_STRIDE, type Paint, paintGhosts } from '../store/tools';

/** What follows the number in “every 2nd 1/16”; every one is “every 1/16”. @example ordinalOf(2, '1/16') // 'nd 1/16' */
const ordinalOf = (n: number, grid: string): string => `${ordinalEnding(n)} ${grid}`;

const ACCENTS: readonly { name: string; levels: readonly number[] }[] = [
  { name: 'even', levels: [96] },
  { name: 'loud, soft', levels: [108, 74] },
  { name: 'soft, loud', levels: [74, 108] },
  { name: 'first of four', levels: [112, 70, 88, 70] },
  { name: 'first of three', levels: [110, 72, 80] },
  { name: 'ghosts', levels: [26] },
];

const sameLevels = (a: readonly number[], b: readonly number[]): boolean => a.length === b.length && a.every((v, i) => v === b[i]);

/** What is painted as hits: velocity or accents, stride, ghosts. */
export default function PaintWords({ paint }: { paint: Paint }) {
  const grid = useBench((s) => s.view.grid);
  const { getState } = useBenchStore();
  const set = (change: Partial<Paint>) => getState().setUi({ paint: { ...getState().ui.paint, ...change } });
  const accent = ACCENTS.find((a) => sameLevels(a.levels, paint.levels));
  return (
    <>
      <span className="text-faint">at</span>
      {paint.levels.length === 1 && (
        <NumberField
          label="Velocity of painted hits"
          value={paint.levels[0] as number}
          min={1}
          max={127}
          unit="of 127"
          default={96}
          className="[&_input]:w-[2.8em]"
          onChange={(v) => set({ levels: [v] })}
        />
      )}
      <Picker
        label="Accents of painted hits"
        value={accent?.name ?? 'own'}
        choices={[
          ...ACCENTS.map((a) => ({ value: a.name, text: a.name })),
          ...(accent ? [] : [{ value: 'own', text: plural(paint.levels.length, 'even', 'custom accents') }]),
        ]}
        onChange={(name) => {
          const chosen = ACCENTS.find((a) => a.name === name);
          if (chosen) set({ levels: chosen.levels, ghosts: name === 'ghosts' });
        }}
      />
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button size="small">Shape the accents</Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            sideOffset={6}
            aria-label="Accents of painted hits"
            className="z-50 rounded-md border border-strong bg-surface p-4 shadow-md"
          >
            <p className="mb-2 text-sm text-faint">One stroke after another, from each bar line on. Drag one up or down.</p>
            <LevelStems
              label="Accent of painted hits"
              levels={paint.levels}
              min={1}
              max={127}
              most={MOST_LEVELS}
              onChange={(levels) => set({ levels })}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <span className="text-faint">every</span>
      <NumberField
        label="Stride of painted hits"
        value={paint.stride}
        min={1}
        max={MOST_STRIDE}
        unit={ordinalOf(paint.stride, grid)}
        default={1}
        className="[&_input]:w-[2.2em]"
        onChange={(stride) => set({ stride })}
      />
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={paint.ghosts}
          onChange={(e) => set(paintGhosts(paint, e.target.checked))}
          className="accent-accent"
        />{' '}
        as ghosts
      </label>
    </>
  );
}
