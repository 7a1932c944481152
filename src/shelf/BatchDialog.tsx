'use client';

import { counted, plural } from '@/core/plurals';
import { useEffect, useRef, useState } from 'react';
import { BatchWorker, type FileOutcome } from '@/batch/client';
import { accountWords, type Given } from '@/batch/perform-file';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { KITS } from '@/core/key-map';
import { READY_FEELS } from '@/core/moves/ready-feels';
import { feelStore } from '@/storage/feel-store';
import { grooveStore } from '@/storage/groove-store';
import { kitStore } from '@/storage/kit-store';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import { deliver } from '@/ui/deliver';
import { Modal } from '@/ui/Modal';
import { say, showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { uniqueName } from '@/ui/unique-name';

const WHATS = [
  { value: 'feel', text: 'the feel' },
  { value: 'groove', text: 'the groove' },
  { value: 'drum map', text: 'the keys of' },
] as const;
type What = (typeof WHATS)[number]['value'];

interface Choice {
  name: string;
  given: Given;
}

/** What can be given to files: ours, and the user's own. */
function useChoices(): Readonly<Record<What, readonly Choice[]>> {
  const feels = useStored(() => feelStore.list().catch(() => []), []) ?? [];
  const grooves = useStored(() => grooveStore.list().catch(() => []), []) ?? [];
  const kits = useStored(() => kitStore.list().catch(() => []), []) ?? [];
  return {
    feel: [...feels, ...READY_FEELS].map(({ name, feel }) => ({ name, given: { kind: 'feel', feel } })),
    groove: [...grooves.map((k) => k.groove), ...HOUSE_GROOVES].map((groove) => ({
      name: groove.name,
      given: { kind: 'groove', groove, lean: 1, level: 1 },
    })),
    'drum map': [...kits, ...KITS].map((kit) => ({ name: kit.name, given: { kind: 'drum map', kit } })),
  };
}

interface Props {
  files: readonly File[];
  /** They become parts instead. */
  onParts: () => void;
  onClose: () => void;
}

/** Many MIDI files at once: one feel, groove or key map for all, what it does to each, and all of them as a zip. */
export default function BatchDialog({ files, onParts, onClose }: Props) {
  const choices = useChoices();
  const [what, setWhat] = useState<What>('feel');
  const [chosen, setChosen] = useState('');
  const [song, setSong] = useState(false);
  const [done, setDone] = useState<ReadonlyMap<number, FileOutcome>>(new Map());
  const [running, setRunning] = useState(false);
  const worker = useRef<BatchWorker | null>(null);
  const abort = useRef<AbortController | null>(null);
  useEffect(
    () => () => {
      abort.current?.abort(new Error('cancelled'));
      worker.current?.dispose();
    },
    [],
  );
  const choice = choices[what].find((c) => c.name === chosen) ?? choices[what][0];
  const written = files.flatMap((file, n) => {
    const outcome = done.get(n);
    return outcome && 'written' in outcome ? [{ file, bytes: outcome.written.bytes }] : [];
  });

  const stop = () => {
    abort.current?.abort(new Error('cancelled'));
    setRunning(false);
  };
  /** Another choice: what was done by the one before no longer holds. */
  const change = (then: () => void) => {
    stop();
    setDone(new Map());
    then();
  };
  const run = async () => {
    if (!choice) return;
    const controller = (abort.current = new AbortController());
    setDone(new Map());
    setRunning(true);
    try {
      await (worker.current ??= new BatchWorker()).perform(
        files,
        choice.given,
        song,
        (n, outcome) => setDone((was) => new Map(was).set(n, outcome)),
        controller.signal,
      );
    } catch (e) {
      showError(e);
    }
    if (abort.current === controller) setRunning(false);
  };
  const save = async () => {
    const [first] = written;
    if (!first || !worker.current) return;
    if (files.length === 1) return void say(await deliver({ data: first.bytes, fileName: first.file.name, type: 'audio/midi' }));
    const names = new Set<string>();
    const packed = Object.fromEntries(
      written.map(({ file, bytes }) => [`${uniqueName(file.name.replace(/\.midi?$/i, ''), names)}.mid`, bytes]),
    );
    say(await deliver({ data: await worker.current.zip(packed), fileName: 'performed.zip', type: 'application/zip' }));
  };

  return (
    <Modal
      open
      onClose={onClose}
      unfinished={
        running ? `Finished ${done.size} of ${counted(files.length, 'file')}. If you stop now, the finished files are discarded.` : null
      }
      title={`${files.length} MIDI ${plural(files.length, 'file')}`}
      about="Apply a feel, a groove or a drum map to many files. You see what changes in each file before anything is written. The originals stay as they are."
      wide
    >
      <p className="leading-9">
        Apply{' '}
        <Picker
          label="What to apply"
          value={what}
          choices={WHATS}
          onChange={(w) =>
            change(() => {
              setWhat(w as What);
              setChosen('');
            })
          }
        />{' '}
        <Picker
          label="Which"
          value={choice?.name ?? ''}
          choices={choices[what].map((c) => ({ value: c.name, text: c.name }))}
          onChange={(name) => change(() => setChosen(name))}
        />{' '}
        and write{' '}
        <Picker
          label="What is written"
          value={song ? 'song' : 'drums'}
          choices={[
            { value: 'drums', text: 'drums only' },
            { value: 'song', text: 'all tracks' },
          ]}
          onChange={(v) => change(() => setSong(v === 'song'))}
        />
        .
      </p>
      <ul aria-label="Files" tabIndex={0} className="my-3 max-h-80 divide-y divide-line overflow-auto border-y border-line">
        {files.map((file, n) => (
          <Line key={n} name={file.name} outcome={done.get(n)} />
        ))}
      </ul>
      <div className="flex flex-wrap items-center justify-end gap-2">
        {running ? (
          <p role="status" className="mr-auto flex items-center gap-2">
            <progress aria-label="Batch" className="w-40 accent-accent" max={files.length} value={done.size} /> {done.size} of{' '}
            {files.length}
          </p>
        ) : (
          <Button className="mr-auto" onClick={onParts}>
            Import them as parts instead
          </Button>
        )}
        {running ? (
          <Button onClick={stop}>Cancel</Button>
        ) : (
          <Button look={written.length > 0 ? 'quiet' : 'strong'} onClick={() => void run()}>
            {done.size > 0 ? 'Run again' : 'Preview'}
          </Button>
        )}
        {written.length > 0 && !running && (
          <Button look="strong" onClick={() => void save().catch(showError)}>
            {files.length === 1 ? 'Save it' : `Save ${written.length} as a zip`}
          </Button>
        )}
      </div>
    </Modal>
  );
}

function Line({ name, outcome }: { name: string; outcome: FileOutcome | undefined }) {
  return (
    <li className="flex items-baseline gap-3 py-1">
      <span className="w-2/5 shrink-0 truncate">{name}</span>
      {outcome === undefined ? (
        <span className="text-faint">waits</span>
      ) : 'error' in outcome ? (
        <span className="text-danger">
          {outcome.error.message} {outcome.error.remedy}
        </span>
      ) : (
        <span className="text-faint">{accountWords(outcome.written.account)}</span>
      )}
    </li>
  );
}
