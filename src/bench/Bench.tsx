'use client';

import dynamic from 'next/dynamic';
import { useEffect, useMemo } from 'react';
import { mayBeHalfDone } from '@/editing/settle';
import { followWhole } from './store/follow-whole';
import { useBench, useBenchStore } from './store/context';
import { PlaybackProvider } from './playback/context';
import { usePlayback, type Playback } from './playback/use-playback';
import { RecordingProvider } from './recording/context';
import { useKeys } from './keys/use-keys';
import { useDiagnostics } from './diagnostics';
import { useFileDrop } from './own-sounds/use-file-drop';
import { LegendLine } from './chrome/Legend';
import { Toolbar } from './chrome/Toolbar';
import { PhraseStrip } from './chrome/PhraseStrip';
import { RowNames } from './stems/RowNames';
import { BENCH_FEATURES } from './features/all';
import type { BenchFeature, StripSpec } from './shared/feature';
import { FeaturesProvider, useFeatures } from './shared/features';
import { SidePanel } from './chrome/SidePanel';
import { StemCanvas } from './stems/StemCanvas';
import { TopBar } from './chrome/TopBar';

// What is not needed at first comes when it is asked for.
const TouchPad = dynamic(() => import('./stems/TouchPad').then((m) => m.TouchPad), { ssr: false });
const HitTable = dynamic(() => import('./stems/HitTable'), { ssr: false });

/** Dialogs of the Bench itself; all others belong to features. */
const OWN_DIALOGS: NonNullable<BenchFeature['dialogs']> = {
  find: dynamic(() => import('./keys/FindLine'), { ssr: false }),
  keys: dynamic(() => import('./keys/KeysDialog').then((m) => m.KeysDialog), { ssr: false }),
  'two-tabs': dynamic(() => import('./dialogs/TwoTabs'), { ssr: false }),
  dropped: dynamic(() => import('./dialogs/DroppedDialog'), { ssr: false }),
};

/** One part: rows in the middle, transport and compare on top, one side panel, the phrase strip below. */
export function Bench({ features = BENCH_FEATURES }: { features?: readonly BenchFeature[] }) {
  const playback = usePlayback();
  useDiagnostics(playback);
  useFileDrop(features);
  const store = useBenchStore();
  useEffect(() => followWhole(store), [store]);
  // What tries sounds on an open row answers its first key at once.
  const isOpen = useBench((s) => s.focus !== null);
  useEffect(() => void (isOpen && import('./own-sounds/step-sound')), [isOpen]);
  const name = useBench((s) => s.part.name);
  const touch = useBench((s) => s.ui.touch);
  const table = useBench((s) => s.ui.table);
  const overlays = useMemo(() => features.flatMap((f) => f.overlays ?? []), [features]);
  const pages = useMemo(() => features.flatMap((f) => f.pages ?? []), [features]);
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
    <FeaturesProvider value={features}>
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
                <Strips where="above" playback={playback} />
                <div className="relative flex min-h-0 flex-1">
                  <RowNames playback={playback} />
                  <StemCanvas playback={playback} overlays={overlays} />
                  {touch && <TouchPad />}
                </div>
                <LegendLine />
                {table && <HitTable />}
                <Strips where="below" playback={playback} />
                <PhraseStrip />
              </div>
              <SidePanel pages={pages} />
            </main>
            <OpenDialog playback={playback} />
          </div>
        </RecordingProvider>
      </PlaybackProvider>
    </FeaturesProvider>
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

/** What features let stand over or under the stems. */
function Strips({ where, playback }: { where: StripSpec['where']; playback: Playback }) {
  const features = useFeatures();
  return features.flatMap((f) => f.strips ?? []).map((s) => s.where === where && <s.Strip key={s.id} playback={playback} />);
}

function OpenDialog({ playback }: { playback: Playback }) {
  const features = useFeatures();
  const open = useBench((s) => s.ui.dialog);
  if (open === null) return null;
  const Dialog = OWN_DIALOGS[open] ?? features.find((f) => f.dialogs?.[open])?.dialogs?.[open];
  return Dialog ? <Dialog playback={playback} /> : null;
}
