'use client';

import { useEffect } from 'react';
import { useStore } from 'zustand';
import { setOwnKit, setRowPlays } from '@/core/commands/sound';
import type { KitOfRecordings } from '@/core/model/own-sound';
import { IncomingSounds } from '@/sounds/IncomingSounds';
import { incoming, receiveSounds, type Kept } from '@/sounds/incoming';
import { SoundsLibrary } from '@/sounds/SoundsLibrary';
import type { ChosenFile } from '@/workers/sounds.worker';
import { sayWith } from '@/ui/notify';
import type { DropRow } from '@/sounds/incoming';
import type { BenchStore } from '../store/bench-store';
import { useBenchStore } from '../store/context';

/** Reads files over the Bench, for a row or as a kit; the part plays what is kept. */
export function receiveOnBench(store: BenchStore, files: Promise<readonly ChosenFile[]>, target: DropRow | null): void {
  void receiveSounds(files, target, (kept) => playKept(store, kept)).then(() => {
    // What was kept or refused at once leaves nothing to look at.
    const { ui, setUi } = store.getState();
    if (incoming.getState().now === null && ui.dialog === 'sounds') setUi({ dialog: null });
  });
  store.getState().setUi({ dialog: 'sounds' });
}

/** The part plays what was just kept: one step. */
function playKept(store: BenchStore, kept: Kept): void {
  if (kept.for === null) return playKit(store, kept.kit);
  const { row, label } = kept.for;
  store.getState().run(`${label} plays ${kept.sound.name}`, (p) => setRowPlays(p, row, { own: kept.sound.id, name: kept.sound.name }));
  sayWith(`${label} plays ${kept.sound.name}.`, 'Undo', () => store.getState().undo());
}

const playKit = ({ getState }: BenchStore, { id, name }: KitOfRecordings): void =>
  getState().run(`Play with ${name}`, (p) => setOwnKit(p, { id, name }));

/** What lies over the Bench of the user's own sounds: what comes in, or else what there is. */
export function BenchSounds() {
  const store = useBenchStore();
  const isComing = useStore(incoming, (s) => s.now !== null);
  const close = () => store.getState().setUi({ dialog: null });
  // Once what came in is kept or left, the part is what one wants to see.
  useEffect(
    () => incoming.subscribe(({ now }, before) => now === null && before.now !== null && store.getState().setUi({ dialog: null })),
    [store],
  );
  if (isComing) return <IncomingSounds usedAs="play" onTaken={(kept) => playKept(store, kept)} />;
  return (
    <SoundsLibrary
      onClose={close}
      onUse={(kit) => {
        close();
        playKit(store, kit);
      }}
      onFiles={(files) => receiveOnBench(store, Promise.resolve(files), null)}
    />
  );
}
