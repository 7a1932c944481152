'use client';

import dynamic from 'next/dynamic';
import { useEffect, useMemo } from 'react';
import { withVoices } from '@/core/breaks/rows';
import { mayBeHalfDone } from '@/editing/settle';
import { followWhole } from './store/follow-whole';
import { useBench, useBenchStore } from './store/context';
import { PlaybackProvider } from './playback/context';
import { usePlayback, type Playback } from './playback/use-playback';
import { RecordingProvider, useRecorded } from './recording/context';
import { useKeys } from './keys/use-keys';
import { useDiagnostics } from './diagnostics';
import { useFileDrop } from './own-sounds/use-file-drop';
import { LegendLine } from './chrome/Legend';
import { Toolbar } from './chrome/Toolbar';
import { PhraseStrip } from './chrome/PhraseStrip';
import { RowNames } from './stems/RowNames';
import { BENCH_PAGES } from './pages/all';
import { SidePanel } from './chrome/SidePanel';
import { StemCanvas } from './stems/StemCanvas';
import { TopBar } from './chrome/TopBar';

// What is not needed at first comes when it is asked for.
const TouchPad = dynamic(() => import('./stems/TouchPad').then((m) => m.TouchPad), { ssr: false });
const PadStrip = dynamic(() => import('./pages/takes/PadStrip'), { ssr: false });
const HitTable = dynamic(() => import('./stems/HitTable'), { ssr: false });
const KeysDialog = dynamic(() => import('./keys/KeysDialog').then((m) => m.KeysDialog), { ssr: false });
const FeelsDialog = dynamic(() => import('./dialogs/FeelsDialog').then((m) => m.FeelsDialog), { ssr: false });
const VersionsDialog = dynamic(() => import('./dialogs/VersionsDialog'), { ssr: false });
const TwoTabs = dynamic(() => import('./dialogs/TwoTabs'), { ssr: false });
const DroppedDialog = dynamic(() => import('./dialogs/DroppedDialog'), { ssr: false });
const LearnFromBench = dynamic(() => import('./dialogs/LearnFromBench'), { ssr: false });
const FindLine = dynamic(() => import('./keys/FindLine'), { ssr: false });
const AddRowDialog = dynamic(() => import('./dialogs/AddRowDialog').then((m) => m.AddRowDialog), { ssr: false });
const OwnRowDialog = dynamic(() => import('./dialogs/OwnRowDialog').then((m) => m.OwnRowDialog), { ssr: false });
const PatternsDialog = dynamic(() => import('./dialogs/PatternsDialog'), { ssr: false });
const BenchSounds = dynamic(() => import('./own-sounds/BenchSounds').then((m) => m.BenchSounds), { ssr: false });
const BreakStrip = dynamic(() => import('./breaks/BreakStrip'), { ssr: false });
const OutputMapDialog = dynamic(() => import('./dialogs/OutputMapDialog'), { ssr: false });
const KitDialog = dynamic(() => import('./dialogs/KitDialog').then((m) => m.KitDialog), { ssr: false });

/** One part: rows in the middle, transport and compare on top, one side panel, the phrase strip below. */
export function Bench() {
  const playback = usePlayback();
  useDiagnostics(playback);
  useFileDrop();
  const store = useBenchStore();
  useEffect(() => followWhole(store), [store]);
  // What tries sounds on an open row answers its first key at once.
  const isOpen = useBench((s) => s.focus !== null);
  useEffect(() => void (isOpen && import('./own-sounds/step-sound')), [isOpen]);
  const name = useBench((s) => s.part.name);
  const touch = useBench((s) => s.ui.touch);
  const table = useBench((s) => s.ui.table);
  const dialog = useBench((s) => s.ui.dialog);
  useEffect(() => {
    document.title = `${name} · Nod Sway`;
  }, [name]);
  // Before the page is loaded anew, what is half done is kept.
  useEffect(
    () =>
      mayBeHalfDone(() => {
        if (store.getState().recording) return 'A take is being recorded: end it first.';
        store.getState().settle();
        return null;
      }),
    [store],
  );
  const conflict = useBench((s) => s.conflict);
  // What both changed is asked about at once; the line above the stems asks on.
  useEffect(() => void (conflict !== null && store.getState().setUi({ dialog: 'two-tabs' })), [store, conflict]);
  return (
    <PlaybackProvider value={playback}>
      <RecordingProvider playback={playback}>
        <div className="flex h-dvh min-h-[480px] flex-col overflow-hidden">
          <Keys playback={playback} />
          <SkipLinks />
          <TopBar playback={playback} />
          <main className="flex min-h-0 flex-1 border-t border-line narrow:flex-col">
            <h1 className="sr-only">{name}</h1>
            <div id="hits" tabIndex={-1} className="flex min-h-0 min-w-0 flex-1 flex-col outline-none narrow:basis-0 narrow:grow-[3]">
              <Toolbar playback={playback} />
              <Breaks playback={playback} />
              <div className="relative flex min-h-0 flex-1">
                <RowNames playback={playback} />
                <StemCanvas playback={playback} />
                {touch && <TouchPad />}
              </div>
              <LegendLine />
              {table && <HitTable />}
              <Pads />
              <PhraseStrip />
            </div>
            <SidePanel pages={BENCH_PAGES} />
          </main>
          {dialog === 'find' && <FindLine playback={playback} />}
          {dialog === 'two-tabs' && <TwoTabs />}
          {dialog === 'dropped' && <DroppedDialog />}
          {dialog === 'keys' && <KeysDialog />}
          {dialog === 'kit' && <KitDialog />}
          {dialog === 'target' && <OutputMapDialog />}
          {dialog === 'add-row' && <AddRowDialog />}
          {dialog === 'own-row' && <OwnRowDialog />}
          {dialog === 'sounds' && <BenchSounds />}
          {dialog === 'patterns' && <PatternsDialog />}
          {dialog === 'feels' && <FeelsDialog />}
          {dialog === 'versions' && <VersionsDialog />}
          {dialog === 'learn' && <LearnSelected />}
        </div>
      </RecordingProvider>
    </PlaybackProvider>
  );
}

const skip = 'absolute top-1 left-1 z-50 -translate-y-20 rounded bg-ink px-3 py-1.5 text-ground focus:translate-y-0';

/** For those who go by Tab: past the transport. */
function SkipLinks() {
  return (
    <nav aria-label="Skip to">
      <a href="#hits" className={skip}>
        To the hits
      </a>
      <a href="#page" className={skip}>
        To the page
      </a>
    </nav>
  );
}

/** Within the recording, since a key records. */
function Keys({ playback }: { playback: Playback }) {
  useKeys(playback);
  return null;
}

function LearnSelected() {
  const part = useBench((s) => s.part);
  const learnt = useMemo(() => withVoices(part), [part]);
  const selected = useBench((s) => s.selection);
  const { getState } = useBenchStore();
  return <LearnFromBench part={learnt} selected={selected} onClose={() => getState().setUi({ dialog: null })} />;
}

/** Recorded loops stand over the stems. */
function Breaks({ playback }: { playback: Playback }) {
  const any = useBench((s) => (s.part.breaks?.length ?? 0) > 0 && s.ui.breakShown);
  return any ? <BreakStrip playback={playback} /> : null;
}

/** Pads stand below the stems while they are shown. */
function Pads() {
  return useRecorded((s) => s.padsShown) ? <PadStrip /> : null;
}
