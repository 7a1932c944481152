'use client';

import { useEffect } from 'react';
import type { SoundEngine } from '@/sound/engine';
import type { BenchScene } from './stems/geometry/scene';
import { drawnTimes, lastScene, lastTip } from './stems/last-scene';
import type { Tip } from './stems/tip';
import { recordingForTests, type RecordingDevices } from './recording/context';
import type { BenchState } from './store/bench-store';
import type { Playback } from './playback/use-playback';
import { useBenchStore } from './store/context';

/** What tests and measurements may read of a running Bench, as `window.nodSway`. Nothing in the product uses it. */
export interface Diagnostics {
  bench: () => BenchState;
  engine: SoundEngine;
  /** The hit that a slot of the engine's log stands for. */
  hitOfSlot: (slot: number) => string | undefined;
  /** The scene that was drawn last. */
  scene: () => BenchScene | null;
  recording: () => RecordingDevices | null;
  /** What is told of the hit under the pointer. */
  tip: () => Tip | null;
  /** Times at which the stems were drawn, newest last. */
  drawn: number[];
}

declare global {
  interface Window {
    nodSway?: Diagnostics;
  }
}

export function useDiagnostics(playback: Playback): void {
  const store = useBenchStore();
  useEffect(() => {
    window.nodSway = {
      bench: store.getState,
      engine: playback.engine,
      hitOfSlot: playback.hitOfSlot,
      scene: lastScene,
      tip: () => lastTip.tip,
      recording: recordingForTests,
      drawn: drawnTimes,
    };
    return () => {
      delete window.nodSway;
    };
  }, [store, playback]);
}
