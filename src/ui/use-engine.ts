import { useSyncExternalStore } from 'react';

/** What a screen needs to know of the sound: its owner tells when it changes. */
interface Sounding {
  subscribe(listener: () => void): () => void;
  readonly isPlaying: boolean;
}

/** Whether anything plays. */
export const useIsPlaying = (engine: Sounding): boolean =>
  useSyncExternalStore(
    engine.subscribe,
    () => engine.isPlaying,
    () => false,
  );
