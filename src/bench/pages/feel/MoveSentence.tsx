'use client';

import { Dices } from 'lucide-react';
import type { ReactNode } from 'react';
import { MAX_SWING, MIN_SWING, type APART_GROUPS, STRAIGHT, type AccentsMove, type HumanizeMove, type Move, type ApartMove, type GrooveMove, type QuantizeMove, type TimbreMove } from '@/core/model/feel';
import { GRIDS, isTriplet, type GridName } from '@/core/time/grid';
import { Button, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { LevelStems } from '@/ui/LevelStems';
import type { Edit } from './edit';
import { GrooveOfMove } from './GrooveOfMove';
import { loosenessWord } from './looseness';
import { SwingSentence } from './SwingSentence';

const Words = ({ children }: { children: ReactNode }) => <div className="flex flex-wrap items-baseline gap-x-1.5 leading-8">{children}</div>;
const narrow = '[&_input]:w-[3em]';

/** A move as a sentence whose words and numbers are edited in place. */
export function MoveSentence({ move, edit }: { move: Move; edit: Edit }) {
  const number = <M extends Move>(label: string, value: number, name: keyof M, min: number, max: number, unit: string, more: { digits?: number; default?: number; scale?: number } = {}) => {
    const scale = more.scale ?? 1;
    return <NumberField label={label} value={value * scale} min={min} max={max} digits={more.digits ?? 0} unit={unit} default={more.default} className={narrow} onChange={(v) => edit.sweep({ [name]: v / scale } as Partial<Move>)} onDone={edit.done} onCancel={edit.cancel} />;
  };
  const grid = (label: string, value: GridName, change: (g: GridName) => Partial<Move>) => <Picker label={label} value={value} choices={GRIDS.map((g) => ({ value: g, text: g }))} onChange={(g) => edit.set('Change a grid', change(g as GridName))} />;
  switch (move.kind) {
    case 'quantize':
      return (
        <Words>
          pulls {number<QuantizeMove>('Strength', move.strength, 'strength', 0, 100, '%', { scale: 100, default: 75 })} of the way to {grid('Grid', move.grid, (g) => ({ grid: g, ...(isTriplet(g) ? { swingPercent: STRAIGHT } : {}) }))}
          {!isTriplet(move.grid) && <>swung {number<QuantizeMove>('Swing of the lines', move.swingPercent, 'swingPercent', MIN_SWING, MAX_SWING, '%', { digits: 1, default: STRAIGHT })}</>}
          <span>what lies within {number<QuantizeMove>('Reach', move.outer, 'outer', 0, 100, '% of the half gap,', { scale: 100, default: 100 })}</span>
          <span>leaving the last {number<QuantizeMove>('Tolerance', move.innerMs, 'innerMs', 0, 50, 'ms', { digits: 1, default: 0 })}</span>
        </Words>
      );
    case 'swing':
      return <SwingSentence move={move} edit={edit} />;
    case 'groove':
      return (
        <Words>
          plays like
          <GrooveOfMove move={move} edit={edit} />
          : {number<GrooveMove>('Lean', move.lean, 'lean', 0, 150, '% of its lean,', { scale: 100, default: 100 })}
          {number<GrooveMove>('Level', move.level, 'level', 0, 150, '% of its level', { scale: 100, default: 100 })}
        </Words>
      );
    case 'lay':
      return (
        <Words>
          lies {number('Lay', move.ms, 'ms' as keyof Move, -80, 80, move.ms < 0 ? 'ms early' : move.ms > 0 ? 'ms late' : 'ms', { digits: 1, default: 0 })}
        </Words>
      );
    case 'humanize':
      return (
        <Words>
          wanders by {number<HumanizeMove>('Drift in time', move.timingMs, 'timingMs', 0, 80, 'ms', { digits: 1, default: 4 })} and {number<HumanizeMove>('Drift in velocity', move.velocityPercent, 'velocityPercent', 0, 40, '% of velocity,', { digits: 1, default: 8 })}
          <span>{number<HumanizeMove>('Memory', move.memory, 'memory', 0, 100, `% ${memoryWord(move.memory)},`, { scale: 100, default: 40 })}</span>
          <span>even over {number<HumanizeMove>('Span', move.span, 'span', 1, 32, move.span === 1 ? 'bar,' : 'bars,', { default: 4 })}</span>
          <span>sparing strong beats by {number<HumanizeMove>('Anchor', move.anchor, 'anchor', 0, 100, '%', { scale: 100, default: 50 })}</span>
          <Seed move={move} edit={edit} />
          <span className="font-serif italic" data-testid="looseness">{loosenessWord(move.timingMs)}</span>
        </Words>
      );
    case 'apart':
      return (
        <div>
          <Words>
            sets what falls together {number<ApartMove>('Spread', move.ms, 'ms', 0, 30, 'ms apart:', { digits: 1, default: 5 })}
            <Seed move={move} edit={edit} />
          </Words>
          <ol className="flex flex-wrap gap-1 text-sm">
            {move.order.map((group, i) => (
              <li key={group}>
                <Button className="!h-6 !px-1.5 text-sm" disabled={i === 0} title="Let it sound earlier" onClick={() => edit.set('Change who sounds first', { order: swapped(move.order, i) })}>
                  {GROUP_WORDS[group]}
                </Button>
              </li>
            ))}
          </ol>
        </div>
      );
    case 'timbre':
      return (
        <Words>
          sounds of their own: pan {number<TimbreMove>('Pan', move.pan, 'pan', 0, 100, '%,', { default: 0 })}
          <span>pitch {number<TimbreMove>('Pitch', move.pitch, 'pitch', 0, 12, 'semitones,', { digits: 2, default: 0 })}</span>
          <span>brightness {number<TimbreMove>('Brightness', move.brightness, 'brightness', 0, 100, '% to either side;', { default: 0 })}</span>
          <span>brighter by velocity {number<TimbreMove>('Brightness by velocity', move.velocityBrightness, 'velocityBrightness', -100, 100, '%,', { default: 0 })}</span>
          <span>panned by pitch {number<TimbreMove>('Pan by pitch', move.pitchPan, 'pitchPan', -100, 100, '% an octave', { default: 0 })}</span>
          <Seed move={move} edit={edit} />
        </Words>
      );
    case 'accents':
      return <Accents move={move} edit={edit} number={number} grid={grid} />;
  }
}

const GROUP_WORDS: Readonly<Record<(typeof APART_GROUPS)[number], string>> = { 'ride-and-hats': 'ride and hats', kick: 'kick', snare: 'snare', clap: 'clap', toms: 'toms', crash: 'crash', others: 'others' };

/** An item one place further to the front. */
function swapped<T>(list: readonly T[], i: number): T[] {
  const next = [...list];
  [next[i - 1], next[i]] = [next[i] as T, next[i - 1] as T];
  return next;
}

/** Re-rolled by a press: the seed is shown, so that a roll can be found again. */
function Seed({ move, edit }: { move: Move; edit: Edit }) {
  return (
    <IconButton label={move.seed === undefined ? 'Roll again' : `Roll again (seed ${move.seed})`} className="!h-7 !w-auto !px-1" onClick={() => edit.set('Roll again', { seed: (move.seed ?? 0) + 1 })}>
      <Dices size={15} /> <span className="text-sm text-faint">{move.seed ?? 'feel’s'}</span>
    </IconButton>
  );
}

const memoryWord = (memory: number): string => (memory < 0.25 ? 'scattered' : memory < 0.6 ? 'mixed' : memory < 0.85 ? 'flowing' : 'wandering');

const PRESETS: readonly { name: string; grid: GridName; levels: readonly number[] }[] = [
  { name: 'flat', grid: '1/16', levels: [1] },
  { name: 'downbeat first', grid: '1/4', levels: [1.15, 0.92, 1.02, 0.92] },
  { name: 'backbeat', grid: '1/4', levels: [0.96, 1.12, 0.96, 1.12] },
  { name: 'on-beats lead', grid: '1/8', levels: [1.1, 0.8] },
  { name: 'off-beats lead', grid: '1/8', levels: [0.86, 1.12] },
  { name: 'first of four', grid: '1/16', levels: [1.15, 0.74, 0.92, 0.74] },
];

interface AccentsProps {
  move: AccentsMove;
  edit: Edit;
  number: <M extends Move>(label: string, value: number, name: keyof M, min: number, max: number, unit: string, more?: { digits?: number; default?: number; scale?: number }) => ReactNode;
  grid: (label: string, value: GridName, change: (g: GridName) => Partial<Move>) => ReactNode;
}

function Accents({ move, edit, number, grid }: AccentsProps) {
  const preset = PRESETS.find((p) => p.grid === move.grid && p.levels.length === move.levels.length && p.levels.every((l, i) => l === move.levels[i]));
  return (
    <div>
      <Words>
        accents
        <Picker
          label="Accents"
          value={preset?.name ?? 'own'}
          choices={[...PRESETS.map((p) => ({ value: p.name, text: p.name })), ...(preset ? [] : [{ value: 'own', text: 'of its own' }])]}
          onChange={(name) => {
            const chosen = PRESETS.find((p) => p.name === name);
            if (chosen) edit.set(`Accents: ${name}`, { grid: chosen.grid, levels: chosen.levels });
          }}
        />
        on {grid('Grid', move.grid, (g) => ({ grid: g }))} to {number<AccentsMove>('Depth', move.depth, 'depth', 0, 100, '%', { scale: 100, default: 100 })}
      </Words>
      <LevelStems label="Accent" levels={move.levels.map((l) => Math.round(l * 100))} min={0} max={200} unit="%" most={64} onChange={(levels) => edit.sweep({ levels: levels.map((l) => l / 100) })} onDone={edit.done} />
      <Words>
        contrast {number<AccentsMove>('Contrast', move.contrast, 'contrast', 0, 300, '%,', { scale: 100, default: 100 })}
        all at {number<AccentsMove>('Scale', move.scale, 'scale', 0, 200, '%,', { scale: 100, default: 100 })}
        jitter {number<AccentsMove>('Jitter', move.jitter, 'jitter', 0, 40, '', { default: 0 })}
        within {number<AccentsMove>('Floor', move.floor, 'floor', 1, move.ceiling, 'to', { default: 1 })}
        {number<AccentsMove>('Ceiling', move.ceiling, 'ceiling', move.floor, 127, '', { default: 127 })}
        {move.jitter > 0 && <Seed move={move} edit={edit} />}
      </Words>
    </div>
  );
}
