'use client';

import { recordingStore, type RecordingInfo } from '@/storage/recording-store';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { showError } from '@/ui/notify';
import { tellDeleted } from '@/ui/undo-key';

/** @example sizeWords({ seconds: 5.217, size: 920_492 }) // '5.2 s, 0.9 MB' */
const sizeWords = ({ seconds, size }: Pick<RecordingInfo, 'seconds' | 'size'>): string =>
  `${seconds.toFixed(1)} s, ${(size / 1e6).toFixed(1)} MB`;

/** The recordings of breaks: they stay when their part goes, until they are deleted here. */
export function KeptRecordings() {
  const kept = useStored(() => recordingStore.list(), []) ?? [];
  if (kept.length === 0) return <p className="text-faint">None yet: drop a recorded drum loop on the Shelf or over a part.</p>;
  const save = async ({ id, name }: RecordingInfo) => {
    const blob = await recordingStore.read(id);
    if (blob) download(blob, `${fileNameOf(name)}.wav`, 'audio/wav');
  };
  const remove = async ({ id, name }: RecordingInfo) => {
    const putBack = await recordingStore.remove(id);
    tellDeleted(`${name} is deleted: the kit plays its rows now.`, putBack);
  };
  return (
    <ul className="divide-y divide-line border-y border-line" aria-label="Recordings of breaks">
      {kept.map((r) => (
        <li key={r.id} className="flex items-baseline gap-3 py-1.5">
          <span className="font-serif">{r.name}</span>
          <span className="mr-auto text-sm text-faint">{sizeWords(r)}</span>
          <Button size="small" aria-label={`Export ${r.name}`} onClick={() => void save(r).catch(showError)}>
            Export
          </Button>
          <Button size="small" aria-label={`Delete ${r.name}`} onClick={() => void remove(r).catch(showError)}>
            Delete
          </Button>
        </li>
      ))}
    </ul>
  );
}
