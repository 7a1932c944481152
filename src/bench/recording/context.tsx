'use client';

import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { SURE_COUNT } from '@/core/beats/find-beats';
import { Receiver } from '@/devices/output';
import { ticksOfBars } from '@/core/commands/settings';
import { tempoMapOf } from '@/core/part/part-time';
import { SimulatedClock } from '@/devices/clock-source';
import { PadDevice } from '@/devices/pads';
import { inputStore } from '@/storage/input-store';
import { takeStore } from '@/storage/take-store';
import { showError } from '@/ui/notify';
import { workerFinder } from '../actions/beat-finder';
import { openPage } from '../actions/open-page';
import { enterStep } from '../actions/step-entry';
import type { Playback } from '../playback/use-playback';
import { ClockFollower } from '../playback/clock-follower';
import type { BenchStore } from '../store/bench-store';
import { useBenchStore } from '../store/context';
import { followClicks } from './click-track';
import { detectTake } from '../actions/detect';
import { createRecorder } from './recorder';
import type { Recorder } from './recorder-ports';
import type { RecordingState } from './recording-state';
import { createSender, type Sender } from './sender';

export interface RecordingDevices {
  recorder: Recorder;
  pads: PadDevice;
  sender: Sender;
  receiver: Receiver;
  /** Makes the part follow a MIDI clock; the simulated one needs no port. */
  follower: ClockFollower;
  simulatedClock: SimulatedClock;
}

/** URL hash that opens a part ready to record without a click. */
export const WITHOUT_CLICK = '#without-a-click';

let shownRecording: RecordingDevices | null = null;

/** What tests may look at: see diagnostics.ts. */
export const recordingForTests = (): RecordingDevices | null => shownRecording;

const Context = createContext<RecordingDevices | null>(null);

/** A follower that controls this Bench's playback. */
function followerOf(bench: BenchStore, { engine, playFrom }: Playback): ClockFollower {
  return new ClockFollower({
    now: () => performance.now(),
    play: playFrom,
    stop: () => engine.stop(),
    isPlaying: () => engine.isPlaying,
    setStretch: (stretch) => engine.setStretch(stretch),
    heardAt: (page) => engine.positionHeardAt(page),
    loop: () => {
      const { part, transport } = bench.getState();
      return transport.loop && !transport.order ? ticksOfBars(part, transport.fromBar, transport.toBar) : null;
    },
    quarterMsAt: (tick) => 60_000 / tempoMapOf(bench.getState().part).bpmAt(tick),
  });
}

/** One recorder for the Bench, listening to the pads until another device is chosen. */
export function RecordingProvider({ playback, children }: { playback: Playback; children: ReactNode }) {
  const bench = useBenchStore();
  const recording = useMemo((): RecordingDevices => {
    const recorder: Recorder = createRecorder({
      bench,
      engine: playback.engine,
      takes: takeStore,
      inputs: inputStore,
      onError: showError,
      readLines: (take, events) => detectTake(bench, take, events),
      play: playback.playLoop,
      finder: workerFinder,
      onCounted: (readings) => {
        recorder.set({ clickAlways: true });
        const isCertain = (readings[0]?.likelihood ?? 0) >= SURE_COUNT.certain;
        bench.getState().setUi({ countsWanted: !isCertain && readings.length > 0 });
        openPage(bench, 'tempo');
        playback.playLoop(0.1);
      },
      onStep: (key, velocity, page) =>
        enterStep(bench, key, velocity, recorder.state.getState().stepLength, page, recorder.state.getState().pieces ?? undefined),
      onCall: (n) => {
        const section = bench.getState().main.sections?.[n - 1];
        if (section) playback.conductor.call(section.id);
      },
    });
    return {
      recorder,
      pads: new PadDevice(),
      sender: createSender(playback.engine, () => bench.getState().part, playback.hitOfSlot),
      receiver: new Receiver(),
      follower: followerOf(bench, playback),
      simulatedClock: new SimulatedClock(),
    };
  }, [bench, playback]);
  useEffect(() => {
    recording.recorder.connect(recording.pads);
    // The part was created to record without a click.
    if (location.hash === WITHOUT_CLICK) {
      recording.recorder.set({ free: true });
      bench.getState().setUi({ page: 'takes' });
    }
    const unfollow = followClicks(bench, recording.recorder.state, playback.engine);
    shownRecording = recording;
    return () => {
      shownRecording = null;
      unfollow();
      recording.recorder.dispose();
      recording.follower.follow(null);
      recording.sender.dispose();
    };
  }, [bench, playback, recording]);
  return <Context.Provider value={recording}>{children}</Context.Provider>;
}

export function useRecording(): RecordingDevices {
  const value = useContext(Context);
  if (!value) throw new Error('outside the Bench');
  return value;
}

export const useRecorded = <T,>(slice: (state: RecordingState) => T): T => useStore(useRecording().recorder.state, slice);
