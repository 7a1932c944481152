'use client';

import { useEffect } from 'react';
import { IncomingSounds } from '@/sounds/IncomingSounds';
import { receiveSounds, type Kept } from '@/sounds/incoming';
import { watchOwnSounds } from '@/sounds/own';
import { say } from '@/ui/notify';

const said = (kept: Kept): void => {
  if (kept.for === null) say(`${kept.kit.name} is kept: parts that were played by it find it, and others can be.`);
};

/** A kit of sounds that was dropped on the Shelf: shown, then kept for every part. */
export default function ShelfSounds({ file }: { file: File }) {
  useEffect(() => {
    watchOwnSounds();
    void receiveSounds(Promise.resolve([{ path: file.name, file }]), null, said);
  }, [file]);
  return <IncomingSounds onTaken={said} />;
}
