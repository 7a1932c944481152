'use client';

import { counted } from '@/core/plurals';
import { FilePlus2, FolderOpen, Search } from 'lucide-react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { useStore } from 'zustand';
import { useStored } from '@/storage/use-stored';
import { errorOfFile } from '@/core/errors';
import type { LaneContent } from '@/core/smf/lanes';
import type { PartRow } from '@/storage/database';
import { deletedStore } from '@/storage/deleted-store';
import { addMissingDemos } from '@/storage/demo-seed';
import { laneHearing } from '@/sound/lane-hearing';
import { dismissLoss, libraryLoss } from '@/storage/library-mark';
import { partStore } from '@/storage/part-store';
import { prepareStore } from '@/storage/prepare';
import { unsavedParts } from '@/editing/unsaved';
import { Button } from '@/ui/Button';
import { showError, tell } from '@/ui/notify';
import { FileField } from '@/ui/FileField';
import { EmptyPicture } from '@/ui/EmptyPicture';
import { Help } from '@/ui/Help';
import { StoreNotice } from '@/ui/StoreNotice';
import { ThemeToggle } from '@/ui/ThemeToggle';
import { useUndoKey } from '@/ui/undo-key';
import type { LaneQuestion } from '@/workers/midi-file';
import type { ImportStep } from './import-flow';
import type { Beginning } from '@/core/part/empty-part';
import { arranged, shelfView } from './arrange';
import { endAudition } from './audition';
import { chosenParts, keepChosen } from './chosen';
import { partsText } from './part-actions';
import { PartGrid } from './PartGrid';
import { ShelfLine } from './ShelfLine';
import { useShelfKeys } from './use-shelf-keys';

const LostNotice = dynamic(() => import('./LostNotice'), { ssr: false });
const LaneDialog = dynamic(() => import('@/ui/LaneDialog').then((m) => m.LaneDialog), { ssr: false });
const UnsavedParts = dynamic(() => import('./UnsavedParts').then((m) => m.UnsavedParts), { ssr: false });
const ShelfSounds = dynamic(() => import('./ShelfSounds'), { ssr: false });
const ChosenBar = dynamic(() => import('./ChosenBar'), { ssr: false });
const TagsDialog = dynamic(() => import('./TagsDialog'), { ssr: false });
const BatchDialog = dynamic(() => import('./BatchDialog'), { ssr: false });
const BackupReminder = dynamic(() => import('./BackupReminder'), { ssr: false });
const BackupDialog = dynamic(() => import('@/keep/BackupDialog'), { ssr: false });
const RestoreDialog = dynamic(() => import('@/keep/RestoreDialog'), { ssr: false });
const DeletedDialog = dynamic(() => import('./DeletedDialog'), { ssr: false });
const NewPartDialog = dynamic(() => import('./NewPartDialog').then((m) => m.NewPartDialog), { ssr: false });

/** Loaded with the first file. */
const importFlow = () => import('./import-flow');
/** A zip is a library, or else a kit: its contents tell. */
const isLibraryFile = async (file: File): Promise<boolean> => (await import('@/formats/library-zip')).isLibrary(file);

/** What is written into a library file: some parts, or (null) everything. */
interface StorageStatus {
  parts: { ids: readonly string[]; name: string } | null;
}

/** The start: all parts; files may be dropped anywhere. */
export function Shelf() {
  const router = useRouter();
  const lost = useStore(libraryLoss, (s) => s.lost);
  const unsaved = useStore(unsavedParts, (parts) => parts.size > 0);
  const [seeded, setSeeded] = useState(false);
  const [question, setQuestion] = useState<LaneQuestion | null>(null);
  const [starting, setStarting] = useState(false);
  const [sounds, setSounds] = useState<File | null>(null);
  const [tagging, setTagging] = useState<readonly string[] | null>(null);
  const [drawer, setDrawer] = useState(false);
  const [backing, setBacking] = useState<StorageStatus | null>(null);
  const [restoring, setRestoring] = useState<File | null>(null);
  const [batch, setBatch] = useState<readonly File[] | null>(null);
  const batchInput = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);

  const rows = useStored(() => partStore.list().catch(() => null), []);
  const deleted = useStored(() => deletedStore.list().catch(() => []), []);
  useEffect(() => {
    prepareStore().then((rescued) => {
      setSeeded(true);
      for (const name of rescued) tell(`“${name}” could not be saved before. It is back, as you left it.`);
    }, showError);
    deletedStore.forgetOld().catch(() => undefined);
    return () => void endAudition();
  }, []);

  const view = useStore(shelfView);
  const shown = useMemo(() => arranged(rows ?? [], view), [rows, view]);
  const chosen = useStore(chosenParts, (s) => s.ids);
  const chosenRows = useMemo(() => (rows ?? []).filter((row) => chosen.has(row.id)), [rows, chosen]);
  useEffect(() => {
    if (rows) keepChosen(new Set(rows.map((row) => row.id)));
  }, [rows]);
  useShelfKeys(shown);
  useUndoKey();

  const take = async (work: (signal: AbortSignal) => Promise<ImportStep>, name: string) => {
    const controller = new AbortController();
    abort.current = controller;
    setBusy(name);
    try {
      const step = await work(controller.signal);
      if (step.kind === 'ask') return setQuestion(step.question);
      for (const notice of step.notices) tell(notice);
      if (step.place !== null) router.push(step.place);
    } catch (e) {
      if (!controller.signal.aborted) showError(errorOfFile(e, name));
    } finally {
      setBusy(null);
    }
  };

  /** Several at once: MIDI files may be given one feel, all else comes in one by one. */
  const bringMany = (files: readonly File[]) => {
    if (files.every((f) => /\.midi?$/i.test(f.name))) setBatch(files);
    else bringAll(files);
  };
  const bringAll = (files: readonly File[]) => {
    const controller = new AbortController();
    abort.current = controller;
    const work = async () =>
      (await import('./import-many')).importMany(files, (name, n) => setBusy(`${name}, ${n} of ${files.length}`), controller.signal);
    work()
      .catch(showError)
      .finally(() => setBusy(null));
  };

  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => {
      const [file] = files;
      if (files.length > 1) bringMany(files);
      else if (file && /\.zip$/i.test(file.name)) isLibraryFile(file).then((is) => (is ? setRestoring(file) : setSounds(file)), showError);
      else if (file) void take(async (signal) => (await importFlow()).importFile(file, signal), file.name);
    },
  });

  const start = async (beginning: Beginning) => {
    setStarting(false);
    try {
      const { emptyPart } = await import('@/core/part/empty-part');
      router.push(`/bench/${await partStore.create(emptyPart(beginning))}`);
    } catch (e) {
      showError(e);
    }
  };

  const startAgain = async () => {
    dismissLoss();
    await restoreDemos();
  };

  const restoreDemos = async () => {
    try {
      const added = await addMissingDemos();
      tell(added === 0 ? 'No demo part was missing; your parts were not changed.' : `${counted(added, 'demo part')} restored.`);
    } catch (e) {
      showError(e);
    }
  };

  const tagOne = useCallback((some: readonly PartRow[]) => setTagging(some.map((row) => row.id)), []);

  const pick = (lanes: LaneContent[]) => {
    const asked = question;
    setQuestion(null);
    if (asked) void take(async (signal) => (await importFlow()).importLanes(asked, lanes, signal), asked.fileName);
  };

  return (
    <div {...getRootProps()} className="min-h-full">
      <header className="mx-auto flex max-w-6xl flex-wrap items-center gap-3 px-6 pt-7 pb-5">
        <h1 className="mr-auto font-serif text-3xl tracking-tight whitespace-nowrap">
          Nod <em>Sway</em>
        </h1>
        <label className="flex h-8 items-center gap-2 rounded-md border border-strong px-2">
          <Search size={15} className="text-faint" aria-hidden="true" />
          <input
            value={view.search}
            onChange={(e) => shelfView.setState({ search: e.target.value })}
            placeholder="Name, tag or tempo"
            aria-label="Search the shelf"
            className="w-44 bg-transparent outline-none placeholder:text-faint"
          />
        </label>
        <Link href="/grooves" prefetch={false} className="px-1 underline-offset-4 hover:underline">
          Grooves
        </Link>
        <Link href="/library" prefetch={false} className="px-1 underline-offset-4 hover:underline">
          Library
        </Link>
        <Button onClick={() => setStarting(true)}>
          <FilePlus2 size={16} /> New part
        </Button>
        <Button look="strong" onClick={open}>
          <FolderOpen size={16} /> Open a MIDI file
        </Button>
        <ThemeToggle />
        <Help about="the Shelf" text={ABOUT} />
      </header>

      <main className="mx-auto max-w-6xl px-6 pb-16">
        <input {...getInputProps()} aria-label="MIDI or part file" data-testid="file-input" />
        <FileField ref={batchInput} label="MIDI files for the batch" onChoose={setBatch} />
        <StoreNotice />
        {lost && <LostNotice lost={lost} onRestore={setRestoring} onDemos={() => void startAgain()} onDismiss={dismissLoss} />}
        {unsaved && <UnsavedParts />}
        {busy && (
          <p role="status" className="mb-4 flex items-center gap-3 rounded-md border border-strong px-4 py-2">
            Reading {busy} … <Button onClick={() => abort.current?.abort(new Error('cancelled'))}>Cancel</Button>
          </p>
        )}
        {rows && rows.length === 0 && seeded && (
          <div className="rounded-lg border border-dashed border-strong px-8 py-14 text-center">
            <EmptyPicture className="mx-auto mb-3" />
            <p className="font-serif text-xl">The Shelf is empty.</p>
            <p className="mt-1 mb-5 text-faint">
              Drop a MIDI file or a recorded loop anywhere on this page, start a new part, or restore the demo parts.
            </p>
            <Button onClick={() => void restoreDemos()}>Restore the demo parts</Button>
          </div>
        )}
        {rows && <BackupReminder rows={rows} onBackUp={() => setBacking({ parts: null })} />}
        {rows && rows.length > 0 && <ShelfLine rows={rows} shown={shown.length} />}
        {rows && rows.length > 0 && shown.length === 0 && (
          <p className="py-10 text-center text-faint">{view.search.trim() ? `No part matches “${view.search}”.` : 'No part matches.'}</p>
        )}
        <PartGrid rows={shown} onTags={tagOne} />
        {chosenRows.length > 0 && (
          <ChosenBar
            rows={chosenRows}
            shown={shown}
            onTags={tagOne}
            onExport={(some) => setBacking({ parts: { ids: some.map((row) => row.id), name: partsText(some) } })}
          />
        )}
        {rows && rows.length > 0 && (
          <p className="mt-8 flex flex-wrap gap-x-4 text-sm text-faint">
            <span>Drop a .mid file, a drum loop (.wav) or a backup anywhere. Everything stays in this browser.</span>
            <Foot onClick={() => batchInput.current?.click()}>Batch: many MIDI files …</Foot>
            <Foot onClick={() => setBacking({ parts: null })}>Back up everything</Foot>
            <Foot onClick={() => void restoreDemos()}>Restore missing demo parts</Foot>
            <Link href="/guide" className="underline underline-offset-2 hover:text-ink">
              Guide
            </Link>
            {deleted && deleted.length > 0 && <Foot onClick={() => setDrawer(true)}>Recently deleted ({deleted.length})</Foot>}
          </p>
        )}
      </main>

      {isDragActive && (
        <div className="pointer-events-none fixed inset-3 z-30 flex items-center justify-center rounded-xl border-2 border-dashed border-accent bg-ground/85">
          <p className="font-serif text-2xl">Drop to import</p>
        </div>
      )}
      {starting && <NewPartDialog onStart={(beginning) => void start(beginning)} onClose={() => setStarting(false)} />}
      {sounds && <ShelfSounds file={sounds} />}
      {tagging && rows && <TagsDialog rows={rows.filter((row) => tagging.includes(row.id))} all={rows} onClose={() => setTagging(null)} />}
      {backing && <BackupDialog parts={backing.parts} onClose={() => setBacking(null)} />}
      {restoring && <RestoreDialog file={restoring} onClose={() => setRestoring(null)} />}
      {batch && (
        <BatchDialog
          files={batch}
          onParts={() => {
            setBatch(null);
            bringAll(batch);
          }}
          onClose={() => setBatch(null)}
        />
      )}
      {drawer && <DeletedDialog onClose={() => setDrawer(false)} />}
      {question && (
        <LaneDialog question={question} onPick={pick} hear={laneHearing(question, showError)} onClose={() => setQuestion(null)} />
      )}
    </div>
  );
}

/** A quiet action at the foot of the page. */
function Foot({ onClick, children }: { onClick: () => void; children: ReactNode }) {
  return (
    <button type="button" className="underline underline-offset-2 hover:text-ink" onClick={onClick}>
      {children}
    </button>
  );
}

const ABOUT =
  'All your parts. Drop a drum file (.mid) or a recorded drum loop (.wav) anywhere here to make a part of it. Click a part to open it on the Bench, its arrow to hear it, and right-click it for more. Several are chosen by their boxes. Everything is kept in this browser. A part file, exported on the Bench, keeps all of a part and opens here again.';
