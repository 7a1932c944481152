'use client';

import { ArrowLeft, FolderOpen, GraduationCap, Play, Square } from 'lucide-react';
import Link from 'next/link';
import { bpm, MAX_BPM, MIN_BPM } from '@/core/units';
import type { PartRow } from '@/storage/database';
import { Button, Hint } from '@/ui/Button';
import { Help } from '@/ui/Help';
import { HoldButton } from '@/ui/HoldButton';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { ThemeToggle } from '@/ui/ThemeToggle';
import { UndoButtons } from '@/ui/UndoButtons';
import { useIsPlaying } from '@/ui/use-engine';
import { tempoOf } from '../store/heard';
import { useGrooves, useGroovesStore } from '../store/context';
import type { Hearing } from '../store/use-hearing';

export const NEUTRAL = 'neutral';

interface Props {
  hearing: Hearing;
  parts: readonly PartRow[];
  /** Opens a part, or the neutral pattern. */
  onPart: (id: string) => void;
  onLearn: () => void;
  onBring: () => void;
}

/** What grooves are heard on, and what brings new ones. */
export function TopLine({ hearing, parts, onPart, onLearn, onBring }: Props) {
  const { getState } = useGroovesStore();
  const stand = useGrooves((s) => s.stand?.id ?? null);
  const name = useGrooves((s) => s.stand?.part.name);
  const tempo = useGrooves(tempoOf);
  const playing = useIsPlaying(hearing.engine);
  const back = useGrooves((s) => s.history.undo.at(-1)?.label);
  const forth = useGrooves((s) => s.history.redo.at(-1)?.label);
  return (
    <header className="flex min-h-[60px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-1">
      <Hint text={stand ? 'Back to the Bench' : 'Back to the Shelf'}>
        <Link
          prefetch={false}
          href={stand ? `/bench/${encodeURIComponent(stand)}` : '/'}
          aria-label={stand ? 'Back to the Bench' : 'Back to the Shelf'}
          className="flex size-8 items-center justify-center rounded-md hover:bg-sunk"
        >
          <ArrowLeft size={18} />
        </Link>
      </Hint>
      <h1 className="font-serif text-2xl tracking-tight">Grooves</h1>
      <Hint text={playing ? 'Stop (Space)' : 'Play (Space)'}>
        <button
          type="button"
          aria-label={playing ? 'Stop' : 'Play'}
          onClick={hearing.toggle}
          className="ml-2 flex size-10 items-center justify-center rounded-full border-[1.5px] border-ink hover:bg-sunk"
        >
          {playing ? <Square size={15} fill="currentColor" /> : <Play size={17} fill="currentColor" className="ml-0.5" />}
        </button>
      </Hint>
      <span className="whitespace-nowrap">
        heard on{' '}
        <Picker
          label="Heard on"
          value={stand ?? NEUTRAL}
          choices={[
            { value: NEUTRAL, text: 'a neutral pattern' },
            ...parts.map((p) => ({ value: p.id, text: p.name })),
            ...(stand && !parts.some((p) => p.id === stand) ? [{ value: stand, text: name ?? 'the part' }] : []),
          ]}
          onChange={onPart}
        />
      </span>
      {stand ? (
        <HeardBars />
      ) : (
        <NumberField
          label="Tempo"
          value={tempo}
          min={MIN_BPM}
          max={MAX_BPM}
          digits={1}
          unit="BPM"
          default={96}
          onChange={(v) => getState().set({ tempo: bpm(v) })}
        />
      )}
      {stand && <span className="whitespace-nowrap text-faint">{Math.round(tempo * 10) / 10} BPM</span>}
      <HoldButton hint="Hold this or W: the same place in the loop without the groove" onHold={hearing.holdPlain}>
        without <kbd className="font-sans text-sm opacity-70">W</kbd>
      </HoldButton>
      <div className="ml-auto flex items-center gap-1">
        <UndoButtons back={back} forth={forth} onUndo={() => getState().undo()} onRedo={() => getState().redo()} />
        <ThemeToggle />
        <Help about="the grooves" text={ABOUT} />
        <Button className="ml-1" onClick={onBring}>
          <FolderOpen size={15} /> Import
        </Button>
        <Button look="strong" onClick={onLearn}>
          <GraduationCap size={16} /> Extract
        </Button>
      </div>
    </header>
  );
}

const ABOUT =
  'A groove gives each step its timing and level. Click the arrow of a card to hear it on a neutral pattern or on your part; drag it onto the part on the right to use it. In the middle you shape, blend, compare and save it.';

function HeardBars() {
  const { getState } = useGroovesStore();
  const { from, to } = useGrooves((s) => s.bars);
  const bars = useGrooves((s) => s.stand?.part.bars ?? 1);
  return (
    <span className="flex items-baseline gap-1">
      bars
      <NumberField
        label="First bar heard"
        value={from + 1}
        min={1}
        max={bars}
        unit="to"
        className="[&_input]:w-[2.4em]"
        onChange={(v) => getState().set({ bars: { from: v - 1, to: Math.max(to, v) } })}
      />
      <NumberField
        label="Last bar heard"
        value={to}
        min={1}
        max={bars}
        unit={`of ${bars}`}
        className="[&_input]:w-[2.4em]"
        onChange={(v) => getState().set({ bars: { from: Math.min(from, v - 1), to: v } })}
      />
    </span>
  );
}
