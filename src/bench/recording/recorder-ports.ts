/** What a recorder does, and what it needs of its surroundings. */
import type { StoreApi } from 'zustand/vanilla';
import type { TakeEvent, Take } from '@/core/model/take';
import type { BeatReading } from '@/core/beats/find-beats';
import type { Seconds, Velocity } from '@/core/units';
import type { InputDevice, InputEvent } from '@/devices/input';
import type { SoundEngine } from '@/sound/engine';
import type { InputSettings, InputStore } from '@/storage/input-store';
import type { TakeStore } from '@/storage/take-store';
import type { BenchStore } from '../store/bench-store';
import type { BeatFinder } from '../actions/beat-finder';
import type { RecordingState } from './recording-state';

/** Everything that is recorded goes through here: from a device's event to raw events in the store and hits on the stems. */
export interface Recorder {
  state: StoreApi<RecordingState>;
  set(change: Partial<RecordingState>): void;
  /** What is listened to; null before any. */
  readonly device: InputDevice | null;
  /** Listens to a device instead of the one before. */
  connect(device: InputDevice): void;
  /** Changes what is known of the device, and keeps it. */
  tune(change: { [K in keyof InputSettings]?: InputSettings[K] | undefined }): void;
  /** Tells of each event as it came. */
  onInput(listener: (event: InputEvent) => void): () => void;
  /** Tells of the next struck pad, which is not played; null forgets that. */
  learnPad(onKey: ((key: number) => void) | null): void;
  start(): void;
  /** Ends the recording and keeps it; music that played before goes on. */
  stop(): void;
  /** When a recording without a click began, on the audio clock; null while there is none. */
  readonly freeSince: Seconds | null;
  /** Cancels finding the beats; the take stays in the part. */
  cancelFinding(): void;
  /** Leaves out the last pass that was played in; its raw events stay. */
  dropPass(): void;
  /** Takes the last recording away, from the part and from its takes, as one step. @returns whether there was one */
  discard(): boolean;
  /** Makes a take of what was played in the last minute without recording. */
  keepLastMinute(): Promise<boolean>;
  measure(): void;
  stopMeasuring(): void;
  /** Called when all is put away. */
  dispose(): void;
}

export interface RecorderPorts {
  bench: BenchStore;
  engine: SoundEngine;
  takes: TakeStore;
  inputs: InputStore;
  /** Told of refusals. */
  onError: (e: unknown) => void;
  /** Reads which lines the hits of a finished take belong to. */
  readLines?: (take: Take, events: readonly TakeEvent[]) => Promise<void>;
  /** Starts playing the loop. */
  play: (lead: number) => void;
  /** Called when a take without a click is in the part, with its readings. */
  onCounted: (readings: readonly BeatReading[]) => void;
  /** Finds the beats of such a take. */
  finder: BeatFinder;
  /** A struck pad while step entry is on. */
  onStep: (key: number, velocity: Velocity, page: number) => void;
  /** A pad that calls a section, by its number from 1. */
  onCall: (section: number) => void;
}
