'use client';

import { counted, counted as countedHits } from '@/core/plurals';
import { newHitId, newIdInPart } from '@/editing/ids';
import { useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { rowsBeside } from '@/core/commands/beside';
import { appendAsSection, fromZero } from '@/core/commands/excerpt';
import { startTempo } from '@/core/commands/settings';
import type { Lane, Part } from '@/core/model/part';
import { readPartFile } from '@/formats/part-file';
import { laneHearing } from '@/sound/lane-hearing';
import { bringIn } from '@/storage/bring-in';
import { keepImport } from '@/storage/keep-import';
import { Button } from '@/ui/Button';
import { LaneDialog } from '@/ui/LaneDialog';
import { Modal } from '@/ui/Modal';
import { say, showError, tell } from '@/ui/notify';
import { readPart } from '@/workers/clients';
import { baseName, openMidi, type LaneQuestion } from '@/workers/midi-file';
import { useBench, useBenchStore } from '../store/context';

/** What was dropped, as a part. */
interface Dropped {
  part: Part;
  /** Puts it on the Shelf. @returns its id */
  keep: () => Promise<string>;
}

async function droppedMidi(name: string, bytes: Uint8Array, lanes: readonly Lane[]): Promise<Dropped> {
  const { part } = await readPart(
    bytes,
    baseName(name),
    name,
    lanes.map(({ track, channel }) => ({ track, channel })),
  );
  return { part, keep: () => keepImport(part, bytes) };
}

async function readDropped(file: File): Promise<Dropped | LaneQuestion> {
  if (/\.json$/i.test(file.name)) {
    const text = await file.text();
    return { part: readPartFile(text).part, keep: async () => (await bringIn(text, file.name)).id as string };
  }
  const opened = await openMidi(file);
  return opened.kind === 'ask' ? opened.question : droppedMidi(file.name, opened.bytes, opened.lanes);
}

const barsText = (n: number): string => `${counted(n, 'bar')}`;
const bpmOf = (part: Part): number => Math.round(startTempo(part) * 10) / 10;

/** A MIDI or part file that was dropped on an open part: where it is to go. */
export default function DroppedDialog() {
  const { getState } = useBenchStore();
  const file = useBench((s) => s.ui.dropped);
  const part = useBench((s) => s.part);
  const router = useRouter();
  const [read, setRead] = useState<Dropped | null>(null);
  const [question, setQuestion] = useState<LaneQuestion | null>(null);
  const close = () => getState().setUi({ dialog: null, dropped: null });

  useEffect(() => {
    if (!file) return;
    let current = true;
    readDropped(file).then(
      (found) => current && ('lanes' in found ? setQuestion(found) : setRead(found)),
      (e: unknown) => {
        if (!current) return;
        showError(e);
        getState().setUi({ dialog: null, dropped: null });
      },
    );
    return () => {
      current = false;
    };
  }, [file, getState]);

  if (!file) return null;
  if (question) {
    const pick = (lanes: readonly Lane[]) => {
      setQuestion(null);
      droppedMidi(question.fileName, question.bytes, lanes).then(setRead, showError);
    };
    return <LaneDialog question={question} make="Read these" hear={laneHearing(question, showError)} onPick={pick} onClose={close} />;
  }
  const other = read && fromZero(read.part);
  const change = (label: string, command: (p: Part) => Part, said: string) => {
    getState().run(label, command);
    close();
    say(said);
  };
  const keep = async () => {
    if (!read) return;
    const id = await read.keep();
    close();
    tell(`${read.part.name} is on the Shelf.`, { label: 'Open it', onClick: () => router.push(`/bench/${encodeURIComponent(id)}`) });
  };
  const counted = other && bpmOf(other) !== bpmOf(part) ? ` It plays at ${bpmOf(part)} BPM here, not at ${bpmOf(other)}.` : '';
  return (
    <Modal
      open
      onClose={close}
      title={`Where does ${read ? read.part.name : file.name} go?`}
      about={other ? `${countedHits(other.hits.length, 'hit')} in ${barsText(other.bars)}.` : 'Reading it …'}
    >
      {other && (
        <div className="space-y-3">
          <Way about="The open part stays open and unchanged." action="New part" onTake={() => void keep().catch(showError)} strong />
          <Way
            about={`From bar ${part.bars + 1} on, as a section.${counted}`}
            action="After the last bar"
            onTake={() =>
              change(
                `Import ${other.name} after the last bar`,
                (p) => appendAsSection(p, other, { id: newIdInPart(), name: other.name, newId: newHitId }),
                `${other.name} is a section now, from bar ${part.bars + 1} on.`,
              )
            }
          />
          <Way
            about={`Its ${other.rows.length} rows are added as new rows, from bar 1.${counted}`}
            action="Add its rows to this part"
            onTake={() =>
              change(
                `Add the rows of ${other.name}`,
                (p) => rowsBeside(p, other, 0, newHitId),
                `The rows of ${other.name} are in this part now.`,
              )
            }
          />
        </div>
      )}
      <p className="mt-4 flex justify-end">
        <Button onClick={close}>Cancel</Button>
      </p>
    </Modal>
  );
}

function Way({ action, about, strong = false, onTake }: { action: string; about: ReactNode; strong?: boolean; onTake: () => void }) {
  return (
    <div className="flex items-baseline gap-3">
      <Button look={strong ? 'strong' : 'quiet'} className="w-44 shrink-0" onClick={onTake}>
        {action}
      </Button>
      <p className="text-faint">{about}</p>
    </div>
  );
}
