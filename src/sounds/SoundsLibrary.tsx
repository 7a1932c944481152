'use client';

import { plural } from '@/core/plurals';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import { samplesOf, type KitOfRecordings, type OwnSound } from '@/core/model/own-sound';
import { labelOfVoice } from '@/core/voices';
import { SOUND_KIT_ENDING } from '@/formats/sound-kit';
import { soundStore } from '@/storage/sound-store';
import { Button } from '@/ui/Button';
import { FileField } from '@/ui/FileField';
import { download, fileNameOf } from '@/ui/download';
import { Modal } from '@/ui/Modal';
import { say, showError } from '@/ui/notify';
import type { ChosenFile } from '@/workers/sounds.worker';
import { layersWords } from './draft';
import { attachFiles, attachFolder, isReadable, remember } from './folders';
import { keepsFolders } from '@/ui/folder-leave';
import { chosenIn } from './gather';
import { correctKept } from './incoming';
import { ownSounds } from './own';
import { tellDeleted } from '@/ui/undo-key';

interface Props {
  onClose: () => void;
  /** Plays the part with a kit; without it there is no part here. */
  onUse?: (kit: KitOfRecordings) => void;
  onFiles: (files: readonly ChosenFile[]) => void;
}

const attempt = (work: Promise<unknown>) => void work.catch(showError);
const LINE = 'flex flex-wrap items-baseline gap-1 border-t border-line pt-1';

async function exportKit(kit: KitOfRecordings, sounds: readonly OwnSound[]) {
  const [{ writeSoundKit }, samples] = await Promise.all([import('@/formats/sound-kit'), soundStore.readAll(samplesOf(sounds))]);
  download(writeSoundKit(kit, sounds, samples), `${fileNameOf(kit.name)}${SOUND_KIT_ENDING}`, 'application/zip');
}

async function remove(what: { kit: KitOfRecordings } | { sound: OwnSound }, name: string) {
  const putBack = await soundStore.remove(what);
  tellDeleted(`${name} is deleted; parts that used it are played by their built-in kit.`, putBack);
}

/** Kits and sounds of the user's own, and the folders that more are looked for in. */
export function SoundsLibrary({ onClose, onUse, onFiles }: Props) {
  const { kits, sounds, folders } = useStore(ownSounds);
  const single = sounds.filter((s) => s.kit === undefined);
  const empty = kits.length + single.length === 0;
  return (
    <Modal
      open
      onClose={onClose}
      title="Your own sounds"
      about="WAV or any format this browser can decode: one for a row, or a folder as a kit. They stay in this browser."
    >
      <div className="space-y-4">
        {empty && <p className="text-faint">None yet. Drop files on a row’s name, or a folder or zip on the page; or choose them here.</p>}
        {kits.length > 0 && (
          <ul aria-label="Your kits" className="space-y-1">
            {kits.map((kit) => (
              <KitLine
                key={kit.id}
                kit={kit}
                sounds={sounds.filter((s) => s.kit === kit.id)}
                onUse={onUse}
                onCorrect={() => correctKept({ kit })}
              />
            ))}
          </ul>
        )}
        {single.length > 0 && (
          <ul aria-label="Your single sounds" className="space-y-1">
            {single.map((sound) => (
              <li key={sound.id} className={LINE}>
                <span className="mr-auto min-w-0">
                  {sound.name}{' '}
                  <span className="text-sm text-faint">
                    {labelOfVoice(sound.voice).toLowerCase()}, {layersWords(sound.layers)}
                  </span>
                </span>
                <Button size="small" aria-label={`Correct ${sound.name}`} onClick={() => correctKept({ sound })}>
                  Correct
                </Button>
                <Button size="small" aria-label={`Delete ${sound.name}`} onClick={() => attempt(remove({ sound }, sound.name))}>
                  Delete
                </Button>
              </li>
            ))}
          </ul>
        )}
        <Choose onFiles={onFiles} />
        <Folders folders={folders} />
      </div>
    </Modal>
  );
}

function KitLine({
  kit,
  sounds,
  onUse,
  onCorrect,
}: {
  kit: KitOfRecordings;
  sounds: readonly OwnSound[];
  onUse: Props['onUse'];
  onCorrect: () => void;
}) {
  return (
    <li className={LINE}>
      <span className="mr-auto min-w-0">
        <span className="font-serif text-base">{kit.name}</span>{' '}
        <span className="text-sm text-faint">
          {sounds.length} {plural(sounds.length, 'sound')}
        </span>
      </span>
      {onUse && (
        <Button size="small" aria-label={`Play with ${kit.name}`} onClick={() => onUse(kit)}>
          Play with it
        </Button>
      )}
      <Button size="small" aria-label={`Correct ${kit.name}`} onClick={onCorrect}>
        Correct
      </Button>
      <Button size="small" aria-label={`Export ${kit.name}`} disabled={sounds.length === 0} onClick={() => attempt(exportKit(kit, sounds))}>
        Export
      </Button>
      <Button size="small" aria-label={`Delete ${kit.name}`} onClick={() => attempt(remove({ kit }, kit.name))}>
        Delete
      </Button>
    </li>
  );
}

/** Two fields that are seen as buttons: one for files, one for a folder. */
function Choose({ onFiles }: { onFiles: (files: readonly ChosenFile[]) => void }) {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-line pt-3">
      Make a kit of
      <Button size="small" onClick={() => files.current?.click()}>
        Files or a zip …
      </Button>
      <Button size="small" onClick={() => folder.current?.click()}>
        A folder …
      </Button>
      <FileField ref={files} label="Sound files" onChoose={(list) => onFiles(chosenIn(list))} />
      <FileField ref={folder} label="Folder of sounds" folder onChoose={(list) => onFiles(chosenIn(list))} />
    </div>
  );
}

function Folders({ folders }: { folders: ReturnType<typeof ownSounds.getState>['folders'] }) {
  const field = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const work = (run: () => Promise<{ name: string; paths: readonly string[] } | null>, refused?: string) => {
    setBusy(true);
    run()
      .then((row) => {
        if (row) say(`${row.name}: ${row.paths.length} sound files.`);
        else if (refused) say(refused);
      })
      .catch(showError)
      .finally(() => setBusy(false));
  };
  return (
    <section aria-label="Folders" className="space-y-1 border-t border-line pt-3">
      <p className="text-faint">
        With a row open, Y and B try the sounds of its kind from these folders, one after another. They stay where they are; what you keep
        is copied.
      </p>
      <ul className="space-y-1">
        {folders.map((f) => (
          <li key={f.id} className={LINE}>
            <span className="mr-auto min-w-0">
              {f.name}{' '}
              <span className="text-sm text-faint">
                {isReadable(f) ? `${f.paths.length} sound files` : 'to be chosen again in this visit'}
              </span>
            </span>
            {f.handle && (
              <Button
                size="small"
                disabled={busy}
                aria-label={`Look again in ${f.name}`}
                onClick={() => work(() => remember(f), `The browser was not allowed to read ${f.name}.`)}
              >
                Look again
              </Button>
            )}
            <Button size="small" aria-label={`Forget ${f.name}`} onClick={() => attempt(soundStore.detach(f.id))}>
              Forget
            </Button>
          </li>
        ))}
      </ul>
      <Button size="small" disabled={busy} onClick={() => (keepsFolders() ? work(attachFolder) : field.current?.click())}>
        Look in another folder …
      </Button>
      <FileField
        ref={field}
        label="Folder to look in"
        folder
        onChoose={(list) => work(() => attachFiles(chosenIn(list)), 'There is no sound file in this folder.')}
      />
    </section>
  );
}
