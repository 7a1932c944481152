import { liveQuery } from 'dexie';
import { createStore } from 'zustand/vanilla';
import { NO_OWN_SOUNDS, ownSoundsOf, type OwnSound, type OwnSounds, type SampleId } from '@/core/model/own-sound';
import { soundEngine } from '@/sound/engine';
import { recordingStore } from '@/storage/recording-store';
import { soundStore, type KeptSounds } from '@/storage/sound-store';

/** The user's own sounds as this page knows them; `known` once the store has answered. */
export interface OwnState extends KeptSounds {
  known: boolean;
  /** The recordings of breaks that are here. */
  recordings: readonly SampleId[];
  /** Heard before they are kept, with their recordings. */
  tried: readonly OwnSound[];
  /** All of them, as the player looks them up. */
  lookup: OwnSounds;
}

export const ownSounds = createStore<OwnState>(() => ({
  known: false,
  kits: [],
  sounds: [],
  folders: [],
  recordings: [],
  tried: [],
  lookup: NO_OWN_SOUNDS,
}));

const triedSamples = new Map<SampleId, Uint8Array<ArrayBuffer>>();

/** The player goes by what is here now. */
function tell() {
  const { sounds, tried, recordings } = ownSounds.getState();
  // What is tried is newer than what is kept under its number.
  const lookup = ownSoundsOf([...tried, ...sounds.filter((s) => !tried.some((t) => t.id === s.id))], recordings);
  soundEngine().setOwn({
    sounds: lookup,
    // A copy: the worker gets what it is given.
    read: async (sample) => triedSamples.get(sample)?.slice() ?? (await soundStore.read(sample)),
    readBreak: (sample) => recordingStore.read(sample),
  });
  ownSounds.setState({ lookup });
}

let watching = false;

/** Follows the store, in this tab and others; called again it does nothing. */
export function watchOwnSounds(): void {
  if (watching) return;
  watching = true;
  liveQuery(() => Promise.all([soundStore.list(), recordingStore.ids()])).subscribe({
    next: ([kept, recordings]) => {
      ownSounds.setState({ ...kept, recordings, known: true });
      tell();
    },
    // What the store refuses it says elsewhere; the kits of ours play.
    error: () => ownSounds.setState({ known: true }),
  });
}

/** Waits until what there is of sounds is known, and these recordings among it. */
export function knownWith(recordings: readonly SampleId[]): Promise<void> {
  const isKnown = ({ known, recordings: here }: OwnState) => known && recordings.every((r) => here.includes(r));
  return new Promise((done) => {
    if (isKnown(ownSounds.getState())) return done();
    const stop = ownSounds.subscribe((state) => {
      if (!isKnown(state)) return;
      stop();
      done();
    });
  });
}

/** Lets a sound be heard before it is kept. */
export function trySound(sound: OwnSound, samples: ReadonlyMap<SampleId, Uint8Array<ArrayBuffer>>): void {
  for (const [id, bytes] of samples) triedSamples.set(id, bytes);
  ownSounds.setState(({ tried }) => ({ tried: [...tried.filter((t) => t.id !== sound.id), sound] }));
  tell();
}

/** Forgets what was only tried. */
export function forgetTried(): void {
  triedSamples.clear();
  ownSounds.setState({ tried: [] });
  tell();
}
