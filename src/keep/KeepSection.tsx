'use client';

import { useEffect, useRef, useState } from 'react';
import { backupDates } from '@/storage/backup-dates';
import { useStored } from '@/storage/use-stored';
import { agoText } from '@/ui/ago';
import { Button } from '@/ui/Button';
import { FileField } from '@/ui/FileField';
import { say } from '@/ui/notify';
import { askToKeep, roomHere, type StorageSpace } from './room';
import { megabytes } from './words';

/** Backup and restore, and what the browser says of room and of keeping. */
export function KeepSection({ onBackUp, onFile }: { onBackUp: () => void; onFile: (file: File) => void }) {
  const dates = useStored(() => backupDates.get(), []);
  const [room, setRoom] = useState<StorageSpace | null>(null);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    let current = true;
    roomHere().then(
      (found) => current && setRoom(found),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, []);
  const ask = async () => {
    const kept = await askToKeep();
    setRoom(await roomHere());
    say(kept ? 'The browser keeps everything here until you delete it.' : 'The browser did not promise it. A backup is the surer way.');
  };
  return (
    <>
      <p className="mb-2 flex flex-wrap items-center gap-2">
        <Button look="strong" onClick={onBackUp}>
          Back up everything
        </Button>
        <Button onClick={() => input.current?.click()}>Restore from a file</Button>
        <span className="text-faint">
          {dates && (dates.last === null ? 'No backup was made yet.' : `The last one was made ${agoText(dates.last)}.`)}
        </span>
      </p>
      <FileField ref={input} label="Library file" onChoose={([file]) => file && onFile(file)} />
      {room && (
        <p data-testid="room" className="text-sm text-faint">
          Kept here: {megabytes(room.used)}; there is room for about {megabytes(room.left)} more.{' '}
          {room.kept ? 'The browser keeps it until you delete it.' : 'The browser may clear it when the disk is full. '}
          {!room.kept && (
            <Button size="tiny" onClick={() => void ask()}>
              Ask it to keep everything
            </Button>
          )}
        </p>
      )}
    </>
  );
}
