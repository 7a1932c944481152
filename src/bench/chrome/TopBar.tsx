'use client';

import { ArrowLeft, Play, Repeat, Share, Square } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRef, useState } from 'react';
import { renamePart, setTempo, startTempo } from '@/core/commands/settings';
import { bpm, clamp, MAX_BPM, MIN_BPM } from '@/core/units';
import { Button, Hint, IconButton } from '@/ui/Button';
import { HoldButton } from '@/ui/HoldButton';
import { NumberField } from '@/ui/NumberField';
import { ThemeToggle } from '@/ui/ThemeToggle';
import { UndoButtons } from '@/ui/UndoButtons';
import { useIsPlaying } from '@/ui/use-engine';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { useSweep } from '../store/use-sweep';
import { tapTempo } from './tap-tempo';
import { SaveMark } from './SaveMark';

const ExportDialog = dynamic(() => import('../dialogs/ExportDialog').then((m) => m.ExportDialog), { ssr: false });

/** Part, transport, tempo, loop, compare, undo, export. */
export function TopBar({ playback }: { playback: Playback }) {
  const [exporting, setExporting] = useState(false);
  return (
    <header className="flex h-[60px] items-center gap-4 px-4">
      <PartName />
      <Transport playback={playback} />
      <Tempo />
      <Loop />
      <WrittenButton playback={playback} />
      <div className="ml-auto flex items-center gap-1">
        <VersionsButton />
        <UndoRedo />
        <ThemeToggle />
        <Button look="strong" className="ml-2" onClick={() => setExporting(true)}>
          <Share size={15} /> Export
        </Button>
      </div>
      {exporting && <ExportDialog onClose={() => setExporting(false)} />}
    </header>
  );
}

function VersionsButton() {
  const compared = useBench((s) => (s.desk.other?.part ? s.desk.other.name : null));
  const heard = useBench((s) => s.transport.version === 'other');
  const { getState } = useBenchStore();
  return (
    <Button look="plain" className="mr-2 !px-2" title="Keep the part as it stands, compare, go back" onClick={() => getState().setDesk({ dialog: 'versions' })}>
      versions
      {compared !== null && <span className={`max-w-28 truncate text-sm ${heard ? 'text-accent' : 'text-faint'}`}>Q {compared}</span>}
    </Button>
  );
}

function PartName() {
  const name = useBench((s) => s.part.name);
  const { getState } = useBenchStore();
  const [draft, setDraft] = useState<string | null>(null);
  const take = () => {
    if (draft !== null) getState().run('Rename the part', (part) => renamePart(part, draft));
    setDraft(null);
  };
  return (
    <div className="flex min-w-0 items-center gap-1">
      <Hint text="Back to the shelf">
        <Link href="/" aria-label="Back to the shelf" className="flex size-8 items-center justify-center rounded-md hover:bg-sunk">
          <ArrowLeft size={18} />
        </Link>
      </Hint>
      <div className="min-w-0">
        <input
          aria-label="Name of the part"
          value={draft ?? name}
          onChange={(e) => setDraft(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') setDraft(null);
          }}
          className="w-44 truncate rounded bg-transparent px-1 font-serif text-lg leading-6 hover:bg-sunk focus:bg-surface"
        />
        <SaveMark />
      </div>
    </div>
  );
}

function Transport({ playback }: { playback: Playback }) {
  const playing = useIsPlaying(playback.engine);
  return (
    <Hint text={playing ? 'Stop (Space)' : 'Play (Space)'}>
      <button type="button" aria-label={playing ? 'Stop' : 'Play'} onClick={playback.toggle} className="flex size-10 items-center justify-center rounded-full border-[1.5px] border-ink hover:bg-sunk">
        {playing ? <Square size={15} fill="currentColor" /> : <Play size={17} fill="currentColor" className="ml-0.5" />}
      </button>
    </Hint>
  );
}

function Tempo() {
  const tempo = useBench((s) => startTempo(s.part));
  const changes = useBench((s) => s.part.tempo.length);
  const { getState } = useBenchStore();
  const sweep = useSweep();
  const taps = useRef<number[]>([]);
  const tap = () => {
    const found = tapTempo(taps.current, performance.now());
    taps.current = found.taps;
    if (found.bpm) getState().run('Tap the tempo', (part) => setTempo(part, bpm(clamp(Math.round(found.bpm as number), MIN_BPM, MAX_BPM))));
  };
  return (
    <div className="flex items-center gap-1">
      <NumberField
        label="Tempo"
        value={tempo}
        min={MIN_BPM}
        max={MAX_BPM}
        digits={1}
        unit="BPM"
        default={100}
        onChange={(v) => sweep.show('Change the tempo', (part) => setTempo(part, bpm(v)))}
        onDone={sweep.done}
        onCancel={sweep.cancel}
      />
      {changes > 1 && (
        <Hint text={`The tempo changes ${changes - 1} times; the changes keep their proportion`}>
          <span className="text-sm text-faint">+{changes - 1}</span>
        </Hint>
      )}
      <Hint text="Tap the beat four times or more">
        <Button look="plain" className="!px-2 text-faint" onClick={tap}>
          tap
        </Button>
      </Hint>
    </div>
  );
}

function Loop() {
  const loop = useBench((s) => s.transport.loop);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const bars = useBench((s) => s.part.bars);
  const { getState } = useBenchStore();
  const set = (change: { fromBar?: number; toBar?: number; loop?: boolean }) => getState().setTransport(change);
  return (
    <div className="flex items-center gap-1">
      <IconButton label={loop ? 'Play the whole part once' : 'Repeat a range of bars'} aria-pressed={loop} onClick={() => set({ loop: !loop })} className={loop ? 'text-accent' : 'text-faint'}>
        <Repeat size={17} />
      </IconButton>
      {loop ? (
        <span className="flex items-baseline gap-1">
          <NumberField label="First bar of the loop" value={from + 1} min={1} max={bars} unit="to" className="[&_input]:w-[2.6em]" onChange={(v) => set({ fromBar: v - 1, toBar: Math.max(to, v) })} />
          <NumberField label="Last bar of the loop" value={to} min={1} max={bars} unit={`of ${bars}`} className="[&_input]:w-[2.6em]" onChange={(v) => set({ toBar: v, fromBar: Math.min(from, v - 1) })} />
        </span>
      ) : (
        <span className="text-faint">all {bars} bars</span>
      )}
    </div>
  );
}

/** Held, it shows and plays the written part. */
function WrittenButton({ playback }: { playback: Playback }) {
  const written = useBench((s) => s.transport.version === 'written');
  return (
    <HoldButton hint="Hold, or hold W: hear and see the part as written" held={written} onHold={playback.holdWritten}>
      as written <kbd className="font-sans text-sm opacity-70">W</kbd>
    </HoldButton>
  );
}

function UndoRedo() {
  const back = useBench((s) => s.history.undo.at(-1)?.label);
  const forth = useBench((s) => s.history.redo.at(-1)?.label);
  const { getState } = useBenchStore();
  return <UndoButtons back={back} forth={forth} onUndo={() => getState().undo()} onRedo={() => getState().redo()} />;
}
