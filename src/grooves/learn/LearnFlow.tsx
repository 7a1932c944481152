'use client';

import { counted } from '@/core/plurals';
import { useEffect, useRef, useState } from 'react';
import type { Groove } from '@/core/model/groove';
import type { Lane, Part } from '@/core/model/part';
import { isSoundPath } from '@/core/samples/sound-path';
import { partStore } from '@/storage/part-store';
import type { PartRow } from '@/storage/database';
import { Button } from '@/ui/Button';
import { laneHearing } from '@/sound/lane-hearing';
import { LaneDialog } from '@/ui/LaneDialog';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { readPart } from '@/workers/clients';
import { baseName, openMidi, type LaneQuestion } from '@/workers/midi-file';
import { LearnDialog } from './LearnDialog';

interface Props {
  parts: readonly PartRow[];
  /** Begins with this file. */
  file?: File | null;
  /** Begins with this part. */
  part?: Part | null;
  onKeep: (groove: Groove) => void;
  onClose: () => void;
}

const partOfLanes = async (
  { bytes, fileName }: Pick<LaneQuestion, 'bytes' | 'fileName'>,
  lanes: readonly Lane[],
  signal?: AbortSignal,
): Promise<Part> =>
  (
    await readPart(
      bytes,
      baseName(fileName),
      fileName,
      lanes.map(({ track, channel }) => ({ track, channel })),
      signal,
    )
  ).part;

async function partOf(
  file: File,
  signal: AbortSignal,
  onProgress: (done: number) => void,
): Promise<{ part: Part; fromAudio?: boolean } | { question: LaneQuestion }> {
  if (isSoundPath(file.name))
    return { part: await (await import('@/breaks/part-of-sound')).partOfSound(file, onProgress, signal), fromAudio: true };
  const opened = await openMidi(file, signal);
  return opened.kind === 'ask'
    ? { question: opened.question }
    : { part: await partOfLanes({ bytes: opened.bytes, fileName: file.name }, opened.lanes, signal) };
}

/** Learning from any part of the shelf or from a MIDI file: the source first, then what it teaches. */
export function LearnFlow({ parts, file = null, part: first = null, onKeep, onClose }: Props) {
  const [part, setPart] = useState<Part | null>(first);
  const [fromAudio, setFromAudio] = useState(false);
  const [question, setQuestion] = useState<LaneQuestion | null>(null);
  const [reading, setReading] = useState<File | null>(file);
  const [done, setDone] = useState<number | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const abort = useRef<AbortController | null>(null);

  // The file that was dropped or chosen is read; leaving or another choice ends that.
  useEffect(() => {
    if (!reading) return;
    const controller = new AbortController();
    abort.current = controller;
    partOf(reading, controller.signal, (done) => !controller.signal.aborted && setDone(done))
      .then((found) => {
        if ('question' in found) setQuestion(found.question);
        else {
          setFromAudio(found.fromAudio === true);
          setPart(found.part);
        }
      })
      .catch((e: unknown) => !controller.signal.aborted && showError(e))
      .finally(() => {
        setDone(null);
        if (!controller.signal.aborted) setReading(null);
      });
    return () => controller.abort(new Error('left'));
  }, [reading]);
  const cancel = () => {
    abort.current?.abort(new Error('cancelled'));
    setReading(null);
  };

  if (question) {
    return (
      <LaneDialog
        question={question}
        make="Extract from these"
        hear={laneHearing(question, showError)}
        onClose={onClose}
        onPick={(lanes) => {
          setQuestion(null);
          setFromAudio(false);
          partOfLanes(question, lanes).then(setPart, showError);
        }}
      />
    );
  }
  if (part) {
    return (
      <LearnDialog key={part.name} part={part} fromAudio={fromAudio} onKeep={onKeep} onClose={onClose}>
        <p className="mb-3 text-sm">
          <button type="button" className="underline underline-offset-2" onClick={() => setPart(null)}>
            Extract from another part or file
          </button>
        </p>
      </LearnDialog>
    );
  }
  return (
    <Modal open onClose={onClose} title="Extract a groove" about="From which part or file? It stays unchanged.">
      {reading ? (
        <p role="status" className="flex items-center gap-3">
          {done === null ? `Reading ${reading.name} …` : `Listening to ${reading.name} … ${Math.round(done * 100)} %`}{' '}
          <Button onClick={cancel}>Cancel</Button>
        </p>
      ) : (
        <>
          <ul className="max-h-80 space-y-1 overflow-auto" aria-label="Parts to extract from">
            {parts.map((row) => (
              <li key={row.id}>
                <button
                  type="button"
                  className="w-full rounded-md border border-line px-3 py-1.5 text-left hover:border-strong"
                  onClick={() => void partStore.load(row.id).then((stored) => setPart(stored.part), showError)}
                >
                  <span className="font-serif">{row.name}</span>{' '}
                  <span className="text-sm text-faint">
                    {row.summary.meter.join('/')} · {row.summary.tempo} BPM · {counted(row.summary.hits, 'hit')}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <div className="mt-4 flex justify-between gap-2">
            <Button onClick={() => input.current?.click()}>A MIDI or sound file …</Button>
            <Button onClick={onClose}>Cancel</Button>
          </div>
          <input
            ref={input}
            type="file"
            accept=".mid,.midi,audio/*"
            className="hidden"
            aria-label="MIDI or sound file to extract from"
            data-testid="learn-file"
            onChange={(e) => setReading(e.target.files?.[0] ?? null)}
          />
        </>
      )}
    </Modal>
  );
}
