'use client';

import { Dices } from 'lucide-react';
import type { ComponentType, ReactNode } from 'react';
import type { Member, MoveSpec } from '@/core/feel/move-spec';
import type { Move } from '@/core/model/feel';
import { GRIDS, type GridName } from '@/core/time/grid';
import { IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import type { Edit } from '../edit';
import type { Small } from './small-stems';

/** How a kind of move is said and seen: the twin of its spec. The list of them all is all.ts. */
export interface MoveView<M extends { kind: string } = Move> {
  spec: MoveSpec<M & Move>;
  word: string;
  /** What goes in and what comes out, behind its sign of help. */
  about: string;
  /** Words of the trade that it is searched by, beside its own. */
  also: readonly string[];
  /** The move as a sentence whose words and numbers are edited in place. */
  Sentence: ComponentType<{ move: M; edit: Edit }>;
  /** What it says of single hits or places of the part, under its sentence. */
  Below?: ComponentType<{ index: number }>;
  /** Its tiny picture: stems, or something of its own. */
  picture(move: M): readonly Small[] | ReactNode;
  /** In a few words: what is offered in place of one that changes nothing. */
  brief(move: M): string;
}

/** The face of a move's kind. @throws Error where the list has none */
export function viewOfMove(faces: readonly MoveView[], kind: string): MoveView {
  const face = faces.find((f) => f.spec.kind === kind);
  if (!face) throw new Error(`no move is called ${kind}`);
  return face;
}

export const Words = ({ children }: { children: ReactNode }) => (
  <div className="flex flex-wrap items-baseline gap-x-1.5 leading-8">{children}</div>
);

interface NumberProps<M> {
  spec: MoveSpec<M & Move>;
  move: M;
  edit: Edit;
  name: keyof M & string;
  label: string;
  unit: string;
  /** Shown so many times as large as it is kept: 100 for percent. */
  scale?: number;
  digits?: number;
  min?: number;
  max?: number;
}

/** A number of a move, swept in place; its limits and what it is without are the spec's. */
export function MoveNumber<M extends { kind: string }>({
  spec,
  move,
  edit,
  name,
  label,
  unit,
  scale = 1,
  digits = 0,
  min,
  max,
}: NumberProps<M>) {
  const limits = (spec.members as Readonly<Record<string, Member>>)[name];
  if (limits?.is !== 'number') throw new Error(`${name} is no number`);
  const plain = (spec.plain as Readonly<Record<string, unknown>>)[name] as number | undefined;
  return (
    <NumberField
      label={label}
      value={(move[name] as number) * scale}
      min={min ?? limits.min * scale}
      max={max ?? limits.max * scale}
      digits={digits}
      unit={unit}
      default={plain === undefined ? undefined : plain * scale}
      className="[&_input]:w-[3em]"
      onChange={(v) => edit.sweep({ [name]: v / scale } as Partial<Move>)}
      onDone={edit.done}
      onCancel={edit.cancel}
    />
  );
}

/** A move's grid. */
export function MoveGrid({
  value,
  edit,
  change = (grid) => ({ grid }),
}: {
  value: GridName;
  edit: Edit;
  change?: (grid: GridName) => Partial<Move>;
}) {
  return (
    <Picker
      label="Grid"
      value={value}
      choices={GRIDS.map((g) => ({ value: g, text: g }))}
      onChange={(g) => edit.set('Change a grid', change(g as GridName))}
    />
  );
}

/** Drawn again by a press: the seed is shown, so that a draw can be found again. */
export function Seed({ move, edit }: { move: Move; edit: Edit }) {
  return (
    <IconButton
      label={move.seed === undefined ? 'New variation' : `New variation (seed ${move.seed})`}
      size="small"
      wide
      onClick={() => edit.set('New variation', { seed: (move.seed ?? 0) + 1 })}
    >
      <Dices size={15} /> <span className="text-sm text-faint">{move.seed ?? 'seed of the feel'}</span>
    </IconButton>
  );
}
