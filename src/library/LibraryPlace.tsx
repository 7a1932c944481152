'use client';

import dynamic from 'next/dynamic';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { EmptyPicture } from '@/ui/EmptyPicture';
import { bringIn, broughtWords } from '@/storage/bring-in';
import { Button } from '@/ui/Button';
import { FileField } from '@/ui/FileField';
import { say, showError } from '@/ui/notify';
import { ShelfLink } from '@/ui/ShelfLink';
import { StoreNotice } from '@/ui/StoreNotice';
import { ThemeToggle } from '@/ui/ThemeToggle';
import { KeepSection } from '@/keep/KeepSection';
import { KeptRecordings } from './KeptRecordings';
import { KeptFeels, KeptKeyMaps, KeptOutputMaps } from './KeptSettings';
import { PatternBook } from './PatternBook';
import { useUndoKey } from '@/ui/undo-key';

const BackupDialog = dynamic(() => import('@/keep/BackupDialog'), { ssr: false });
const RestoreDialog = dynamic(() => import('@/keep/RestoreDialog'), { ssr: false });
const LibrarySounds = dynamic(() => import('./LibrarySounds'), { ssr: false });

const bring = async (file: File) => say(broughtWords(await bringIn(await file.text(), file.name)));

/** What is carried from part to part: the pattern book, feels, key maps, kits and sounds of the user's own. */
export function LibraryPlace() {
  useUndoKey();
  const input = useRef<HTMLInputElement>(null);
  const [sounds, setSounds] = useState<File[] | null>(null);
  const [backing, setBacking] = useState(false);
  const [restoring, setRestoring] = useState<File | null>(null);
  useEffect(() => {
    document.title = 'Library · Nod Sway';
  }, []);
  const take = (files: readonly File[]) => {
    const [first] = files;
    if (!first) return;
    if (files.length === 1 && /\.json$/i.test(first.name)) return void bring(first).catch(showError);
    if (files.length > 1 || !/\.zip$/i.test(first.name)) return setSounds([...files]);
    // A zip is a library, or else a kit: its contents tell.
    import('@/formats/library-zip')
      .then(async ({ isLibrary }) => ((await isLibrary(first)) ? setRestoring(first) : setSounds([first])))
      .catch(showError);
  };
  const { getRootProps, isDragActive } = useDropzone({ noClick: true, noKeyboard: true, onDrop: take });
  return (
    <div {...getRootProps()} className="min-h-full">
      <header className="mx-auto flex max-w-4xl items-center gap-3 px-6 pt-7 pb-5">
        <h1 className="mr-auto font-serif text-3xl tracking-tight">Library</h1>
        <Button onClick={() => input.current?.click()}>Import files</Button>
        <FileField ref={input} label="Files for the library" onChoose={take} />
        <ShelfLink />
        <ThemeToggle />
      </header>
      <main className="mx-auto max-w-4xl space-y-8 px-6 pb-16">
        <StoreNotice />
        <Shelved title="Backup" about="Everything you made in one file: to keep, to move to another computer, or to restore later.">
          <KeepSection onBackUp={() => setBacking(true)} onFile={setRestoring} />
        </Shelved>
        <Shelved title="Pattern book" about="Hits saved under a name. Save them and place them on the Bench (Ctrl K, “Pattern book”).">
          <PatternBook empty={<EmptyPicture className="mb-2" />} />
        </Shelved>
        <Shelved title="Feel presets" about="Saved on the Bench’s page Feel, for use in any part.">
          <KeptFeels />
        </Shelved>
        <Shelved title="Drum maps" about="Which row each MIDI key plays.">
          <KeptKeyMaps />
        </Shelved>
        <Shelved title="Output maps" about="Keys, channels and velocities for other instruments.">
          <KeptOutputMaps />
        </Shelved>
        <Shelved title="Recorded breaks" about="The audio that rows of breaks play. It stays when the part is deleted.">
          <KeptRecordings />
        </Shelved>
        <Shelved title="Kits and sounds" about="Your own recordings: one for a row, or a folder as a kit. Drop them here.">
          <Button onClick={() => setSounds([])}>Your own sounds</Button>
        </Shelved>
        {backing && <BackupDialog parts={null} onClose={() => setBacking(false)} />}
        {restoring && <RestoreDialog file={restoring} onClose={() => setRestoring(null)} />}
        {sounds && <LibrarySounds files={sounds} onClose={() => setSounds(null)} />}
      </main>
      {isDragActive && (
        <div className="pointer-events-none fixed inset-3 z-30 flex items-center justify-center rounded-xl border-2 border-dashed border-accent bg-ground/85">
          <p className="font-serif text-2xl">Drop to import</p>
        </div>
      )}
    </div>
  );
}

function Shelved({ title, about, children }: { title: string; about: string; children: ReactNode }) {
  return (
    <section>
      <h2 className="font-serif text-xl">{title}</h2>
      <p className="mb-3 text-sm text-faint">{about}</p>
      {children}
    </section>
  );
}
