'use client';

import { createContext, useContext } from 'react';
import type { Playback } from './use-playback';

const Context = createContext<Playback | null>(null);

export const PlaybackProvider = Context.Provider;

/** What plays the part of this Bench. */
export function usePlaybackOf(): Playback {
  const playback = useContext(Context);
  if (!playback) throw new Error('outside the Bench');
  return playback;
}
