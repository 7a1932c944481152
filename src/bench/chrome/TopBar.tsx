'use client';

import { counted } from '@/core/plurals';
import { ArrowLeft, Play, Repeat, Search, Share, Square, X } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRef, useState } from 'react';
import { renamePart, setTempo, startTempo } from '@/core/commands/settings';
import { gridOfPlayer } from '@/core/part/grid-of-player';
import { bpm, clamp, MAX_BPM, MIN_BPM } from '@/core/units';
import { Button, Hint, IconButton } from '@/ui/Button';
import { HoldButton } from '@/ui/HoldButton';
import { NumberField } from '@/ui/NumberField';
import { ThemeToggle } from '@/ui/ThemeToggle';
import { useIsPlaying } from '@/ui/use-engine';
import { openPage } from '../actions/open-page';
import { keyText } from '../words/key-text';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { useImported } from '../store/use-imported';
import { useSweep } from '../store/use-sweep';
import { RecordingMark } from './RecordingMark';
import { tapTempo } from './tap-tempo';
import { SaveMark } from './SaveMark';
import type { LaterTempos } from './LaterTempos';

const LaterTemposDialog = dynamic(() => import('./LaterTempos'), { ssr: false });

const ExportDialog = dynamic(() => import('../dialogs/ExportDialog').then((m) => m.ExportDialog), { ssr: false });

/** Part, transport, tempo, loop, compare, search, export. */
export function TopBar({ playback }: { playback: Playback }) {
  const exporting = useBench((s) => s.ui.dialog === 'export');
  const { getState } = useBenchStore();
  return (
    <header className="flex min-h-[60px] flex-wrap items-center gap-x-4 gap-y-1 px-4 py-1.5 tight:gap-x-2">
      <PartName />
      <Transport playback={playback} />
      <Tempo />
      <Loop />
      <WrittenButton playback={playback} />
      <OtherButton playback={playback} />
      <div className="ml-auto flex items-center gap-1">
        <VersionsButton />
        <ThemeToggle />
        <FindButton />
        <Button look="strong" className="ml-1" onClick={() => getState().setUi({ dialog: 'export' })}>
          <Share size={15} /> Export
        </Button>
      </div>
      {exporting && <ExportDialog onClose={() => getState().setUi({ dialog: null })} />}
    </header>
  );
}

function FindButton() {
  const { getState } = useBenchStore();
  return (
    <Hint text={`Find anything (${keyText('mod+k')})`}>
      <Button look="plain" aria-label="Find anything" className="text-faint" onClick={() => getState().setUi({ dialog: 'find' })}>
        <Search size={16} />
        <span className="max-[1239px]:hidden">find</span>
        <kbd className="font-sans text-xs max-[1239px]:hidden">{keyText('mod+k')}</kbd>
      </Button>
    </Hint>
  );
}

function VersionsButton() {
  const { getState } = useBenchStore();
  return (
    <Button
      look="plain"
      className="!px-2"
      title="Save a version, compare, restore"
      onClick={() => getState().setUi({ dialog: 'versions' })}
    >
      Versions
    </Button>
  );
}

/** Held, it shows and plays what is compared with: what was chosen, else the part as it was imported. */
function OtherButton({ playback }: { playback: Playback }) {
  useImported();
  const name = useBench((s) => (s.ui.other ?? s.ui.imported)?.name ?? null);
  const heard = useBench((s) => s.transport.version === 'other');
  if (name === null) return null;
  return (
    <HoldButton hint={`Hear and see ${name}: hold it, or hold Shift Q; tapped, it stays`} held={heard} onHold={playback.holdOther}>
      <span className="max-w-28 truncate">{name}</span> <kbd className="font-sans text-sm opacity-70">{keyText('shift+q')}</kbd>
    </HoldButton>
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
      <Hint text="Back to the Shelf">
        <Link
          href="/"
          prefetch={false}
          aria-label="Back to the Shelf"
          className="flex size-8 items-center justify-center rounded-md hover:bg-sunk"
        >
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
          className="w-44 tight:w-36 truncate rounded bg-transparent px-1 font-serif text-lg leading-6 font-semibold hover:bg-sunk focus:bg-surface"
        />
        <SaveMark />
      </div>
    </div>
  );
}

function Transport({ playback }: { playback: Playback }) {
  const playing = useIsPlaying(playback.engine);
  return (
    <div className="flex items-center gap-2">
      <Hint text={playing ? 'Stop (Space)' : 'Play (Space)'}>
        <button
          type="button"
          aria-label={playing ? 'Stop' : 'Play'}
          onClick={playback.toggle}
          className="flex size-10 items-center justify-center rounded-full border-[1.5px] border-ink hover:bg-sunk"
        >
          {playing ? <Square size={15} fill="currentColor" /> : <Play size={17} fill="currentColor" className="ml-0.5" />}
        </button>
      </Hint>
      <RecordingMark />
    </div>
  );
}

function Tempo() {
  const tempo = useBench((s) => startTempo(s.part));
  const changes = useBench((s) => s.part.tempo.length);
  const isPlayers = useBench((s) => gridOfPlayer(s.part) === 'follows');
  const store = useBenchStore();
  const { getState } = store;
  const sweep = useSweep();
  const taps = useRef<number[]>([]);
  // With later changes it is asked once what becomes of them, after the first change of this visit.
  const [later, setLater] = useState<LaterTempos | null>(null);
  const [asking, setAsking] = useState<number | null>(null);
  const wanted = useRef<number>(tempo);
  const change = (v: number, how = later ?? 'proportion') => {
    wanted.current = v;
    sweep.show('Change the tempo', (part) => setTempo(part, bpm(v), how));
  };
  const done = () => (changes > 1 && !isPlayers && later === null ? setAsking(wanted.current) : sweep.done());
  const choose = (how: LaterTempos) => {
    setLater(how);
    change(asking ?? wanted.current, how);
    sweep.done();
    setAsking(null);
  };
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
        onChange={(v) => change(v)}
        onDone={done}
        onCancel={sweep.cancel}
      />
      {isPlayers && (
        <Hint text="The grid follows the player. Changing the tempo scales the whole take. Click to open Tempo">
          <button
            type="button"
            className="text-sm text-faint underline decoration-dotted underline-offset-2"
            onClick={() => openPage(store, 'tempo')}
          >
            follows player
          </button>
        </Hint>
      )}
      {changes > 1 && !isPlayers && (
        <Hint
          text={`The tempo changes ${counted(changes - 1, 'time')} later. ${later === 'here' ? 'Those changes stay as they are' : 'They change in proportion'}; click to choose`}
        >
          <button
            type="button"
            aria-label="Later tempo changes"
            className="text-sm text-faint underline decoration-dotted underline-offset-2"
            onClick={() => setLater(later === 'here' ? 'proportion' : 'here')}
          >
            +{changes - 1}
            <span className="sr-only">{later === 'here' ? ' stay' : ' in proportion'}</span>
          </button>
        </Hint>
      )}
      {asking !== null && (
        <LaterTemposDialog
          changes={changes - 1}
          onChoose={choose}
          onCancel={() => {
            sweep.cancel();
            setAsking(null);
          }}
        />
      )}
      <Hint text="Tap the beat four times or more">
        <Button look="plain" className="!px-2 text-faint" onClick={tap}>
          Tap
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
  const order = useBench((s) => s.transport.order && s.part.order !== undefined);
  const set = (change: { fromBar?: number; toBar?: number; loop?: boolean }) => getState().setTransport(change);
  if (order) {
    return (
      <div className="flex items-center gap-1">
        <span className="text-accent">running order</span>
        <IconButton label="Play the loop instead" size="small" onClick={() => getState().setTransport({ order: false })}>
          <X size={15} />
        </IconButton>
      </div>
    );
  }
  return (
    <div className="flex items-center gap-1">
      <IconButton label="Loop" aria-pressed={loop} onClick={() => set({ loop: !loop })} className={loop ? 'text-accent' : 'text-faint'}>
        <Repeat size={17} />
      </IconButton>
      {loop ? (
        <span className="flex items-baseline gap-1">
          <span className="max-[1239px]:hidden">bars</span>
          <NumberField
            label="First bar of the loop"
            value={from + 1}
            min={1}
            max={bars}
            unit="to"
            className="[&_input]:w-[2.6em]"
            onChange={(v) => set({ fromBar: v - 1, toBar: Math.max(to, v) })}
          />
          <NumberField
            label="Last bar of the loop"
            value={to}
            min={1}
            max={bars}
            unit={`of ${bars}`}
            className="[&_input]:w-[2.6em]"
            onChange={(v) => set({ toBar: v, fromBar: Math.min(from, v - 1) })}
          />
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
