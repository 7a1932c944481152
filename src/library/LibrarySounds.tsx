'use client';

import { useEffect } from 'react';
import { useStore } from 'zustand';
import { IncomingSounds } from '@/sounds/IncomingSounds';
import { incoming, receiveSounds, type Kept } from '@/sounds/incoming';
import { watchOwnSounds } from '@/sounds/own';
import { SoundsLibrary } from '@/sounds/SoundsLibrary';
import { say } from '@/ui/notify';
import type { ChosenFile } from '@/workers/sounds.worker';

const said = (kept: Kept): void =>
  say(kept.for === null ? `${kept.kit.name} is saved. Any part can use it.` : `${kept.sound.name} is saved. Any row can use it.`);

const receive = (files: readonly ChosenFile[]): void => void receiveSounds(Promise.resolve(files), null, said);

/** The user's own sounds where no part is open: what comes in, or else what there is. */
export default function LibrarySounds({ files, onClose }: { files: readonly File[]; onClose: () => void }) {
  const isComing = useStore(incoming, (s) => s.now !== null);
  useEffect(() => {
    watchOwnSounds();
    if (files.length > 0) receive(files.map((file) => ({ path: file.name, file })));
  }, [files]);
  if (isComing) return <IncomingSounds onTaken={said} />;
  return <SoundsLibrary onClose={onClose} onFiles={receive} />;
}
