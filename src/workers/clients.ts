import * as Comlink from 'comlink';
import type { AudioData } from '@/core/audio/read-wav';
import { LONGEST_SAMPLE } from '@/core/limits';
import { errorFromReport, NamedError, reportError, type ErrorReport } from '@/core/errors';
import type { ImportedPart } from '@/core/smf/import-part';
import type { LaneContent } from '@/core/smf/lanes';
import type { HeardStrokes } from '@/core/model/break';
import type { StruckSound } from '@/core/onsets/classify';
import { MOST_SECONDS } from '@/core/limits';
import type { BeatReading } from '@/core/beats/find-beats';
import type { Count } from '@/core/free-takes/adjust-count';
import type { Lane, Part } from '@/core/model/part';
import type { RenderedStroke } from '@/core/synth/stroke';
import type { TempoChange } from '@/core/time/tempo-map';
import { whenReady } from './ready';
import { runIn, tellingHowFar } from './run-in';
import type { BeatsApi } from './beats.worker';
import type { BreakApi, Outline, ReadBreak } from './break.worker';
import type { ImportApi } from './import.worker';
import { resultOf, type Outcome } from './outcome';
import type { MeasureApi } from './measure.worker';
import type { KitApi, StrokeRequest } from './kit.worker';
import type { ChosenFile, ReadSounds, SoundsApi } from './sounds.worker';
import type { MadeTones, TonesApi, TrackChoice } from './tones.worker';
import type { RenderApi, RenderedFiles, RenderWish } from './render.worker';

async function runImport<T>(job: (api: Comlink.Remote<ImportApi>) => Promise<Outcome<T>>, signal?: AbortSignal): Promise<T> {
  const result = await runIn<ImportApi, Outcome<T>>(
    new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }),
    job,
    signal,
  );
  if (!result.ok) throw errorFromReport(result.error);
  return result.value;
}

export const readLanes = (bytes: Uint8Array, signal?: AbortSignal): Promise<{ format: number; lanes: LaneContent[] }> =>
  runImport((api) => api.lanes(bytes), signal);

export const readPart = (bytes: Uint8Array, name: string, fileName: string, lanes: Lane[], signal?: AbortSignal): Promise<ImportedPart> =>
  runImport((api) => api.part(bytes, name, fileName, lanes), signal);

let kitWorker: Promise<{ api: Comlink.Remote<KitApi> }> | null = null;

/** Renders strokes in one worker, that stays: they come in small batches. */
export async function renderStrokes(wishes: StrokeRequest[], sampleRate: number): Promise<RenderedStroke[]> {
  kitWorker ??= (() => {
    const worker = new Worker(new URL('./kit.worker.ts', import.meta.url), { type: 'module' });
    // Within an object: a remote is awaited by itself otherwise.
    return whenReady(worker).then(() => ({ api: Comlink.wrap<KitApi>(worker) }));
  })();
  const { api } = await kitWorker;
  return api.render(wishes, sampleRate);
}

/** Renders audio in a worker of its own; aborting ends it. */
export const renderAudio = (wish: RenderWish, onProgress: (done: number) => void, signal: AbortSignal): Promise<RenderedFiles> =>
  tellingHowFar(onProgress, (tell) =>
    runIn<RenderApi, RenderedFiles>(
      new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' }),
      (api) => api.render(wish, tell),
      signal,
    ),
  );

/**
 * Reads chosen files as recordings in a worker; what it cannot read itself the browser decodes. Aborting ends the worker.
 * @throws NamedError bad-zip, bad-sound-kit, too-many-sounds
 */
export const readSounds = (files: readonly ChosenFile[], onProgress: (done: number) => void, signal: AbortSignal): Promise<ReadSounds> =>
  tellingHowFar(onProgress, (tell) =>
    runIn<SoundsApi, ReadSounds>(
      new Worker(new URL('./sounds.worker.ts', import.meta.url), { type: 'module' }),
      (api) => readAndDecode(api, files, tell),
      signal,
    ),
  );

/** The rate that the browser decodes to. */
const DECODED_RATE = 48_000;

/** What only the browser reads, decoded. @throws NamedError bad-sound, sound-too-long */
async function decode(bytes: Uint8Array<ArrayBuffer>, longest: number): Promise<AudioData> {
  const decoded = await new OfflineAudioContext(2, 1, DECODED_RATE).decodeAudioData(bytes.buffer).catch(() => {
    throw new NamedError('bad-sound');
  });
  if (decoded.duration > longest) throw new NamedError('sound-too-long', { seconds: Math.round(decoded.duration), most: longest });
  return {
    rate: decoded.sampleRate,
    channels: Array.from({ length: Math.min(2, decoded.numberOfChannels) }, (_, c) => decoded.getChannelData(c)),
  };
}

async function readAndDecode(
  api: Comlink.Remote<SoundsApi>,
  files: readonly ChosenFile[],
  tell: (done: number) => void,
): Promise<ReadSounds> {
  const answer = await api.read([...files], tell);
  if ('error' in answer) throw errorFromReport(answer.error);
  for (const { path, bytes } of answer.undecoded) {
    let recording: AudioData;
    try {
      recording = await decode(bytes, LONGEST_SAMPLE);
    } catch (e) {
      answer.refused.push({ path, error: reportError(e as NamedError) });
      continue;
    }
    const made = await api.decoded(path, recording);
    if ('error' in made) answer.refused.push({ path, error: made.error });
    else answer.recordings.push(made);
  }
  return { ...answer, undecoded: [] };
}

const tonesWorker = (): Worker => new Worker(new URL('./tones.worker.ts', import.meta.url), { type: 'module' });

/** The other tracks of a song. */
export const tracksOfSong = (song: Uint8Array, drums: readonly Lane[]): Promise<TrackChoice[]> =>
  runIn<TonesApi, TrackChoice[]>(tonesWorker(), (api) => api.tracks(song, drums));

/** Bars of a whole song. */
export const barsOfSongIn = (song: Uint8Array, drums: readonly Lane[]): Promise<number> =>
  runIn<TonesApi, number>(tonesWorker(), (api) => api.bars(song, drums));

/** Plain tones of some of them, at a tempo. */
export const makeTones = (
  song: Uint8Array,
  drums: readonly Lane[],
  heard: readonly string[],
  tempo: readonly TempoChange[],
): Promise<MadeTones> => runIn<TonesApi, MadeTones>(tonesWorker(), (api) => api.make(song, drums, heard, tempo));

const beatsWorker = (): Worker => new Worker(new URL('./beats.worker.ts', import.meta.url), { type: 'module' });

/**
 * Finds how a part that was played without a click may be counted, in a worker; aborting ends it.
 * @param taps seconds from the part's zero at which the first beats of a bar were tapped
 * @throws NamedError too-few-strokes, too-many-strokes, take-too-long
 */
export const findBeatsOf = (
  part: Part,
  taps: readonly number[],
  onProgress: (done: number) => void,
  signal: AbortSignal,
): Promise<BeatReading[]> =>
  tellingHowFar(onProgress, (tell) =>
    runIn<BeatsApi, Outcome<BeatReading[]>>(beatsWorker(), (api) => api.readings(part, taps, tell), signal),
  ).then(resultOf);

/** The same part with its grid under the player's beats, made in a worker; aborting ends it. */
export const followIn = (part: Part, count: Count, zero: 'kept' | 'cut', signal: AbortSignal): Promise<Part> =>
  runIn<BeatsApi, Outcome<Part>>(beatsWorker(), (api) => api.follow(part, count, zero), signal).then(resultOf);

/** Measures a part in a worker of its own; aborting ends it. */
export const measureInWorker = <T>(job: (api: Comlink.Remote<MeasureApi>) => Promise<T>, signal: AbortSignal): Promise<T> =>
  runIn<MeasureApi, T>(new Worker(new URL('./measure.worker.ts', import.meta.url), { type: 'module' }), job, signal);

/**
 * Reads a file as the recording of a break, in a worker; what that cannot read the browser decodes. Aborting ends the worker.
 * @throws NamedError empty-file, bad-sound, silent-sound, sound-too-long
 */
export async function readBreak(file: Blob, signal: AbortSignal): Promise<ReadBreak> {
  return runIn<BreakApi, ReadBreak>(
    new Worker(new URL('./break.worker.ts', import.meta.url), { type: 'module' }),
    async (api) => {
      const found = await api.read(file);
      const made = 'undecoded' in found ? await api.decoded(await decode(found.undecoded, MOST_SECONDS)) : found;
      if ('error' in made) throw errorFromReport(made.error);
      return made;
    },
    signal,
  );
}

type AsPart = { part: Part } | { error: ErrorReport };
type Listened = Omit<HeardStrokes, 'break'> | { error: ErrorReport };

/** An ear for one recording: it stays, so that strokes can be looked for while the hand works. */
export class OnsetDetector {
  private readonly worker = new Worker(new URL('./break.worker.ts', import.meta.url), { type: 'module' });
  private readonly api = whenReady(this.worker).then(() => ({ of: Comlink.wrap<BreakApi>(this.worker) }));
  private rejectAll: (e: unknown) => void = () => {};
  private readonly ended = new Promise<never>((_, reject) => (this.rejectAll = reject));

  constructor() {
    this.ended.catch(() => {});
  }

  private run<T>(job: (api: Comlink.Remote<BreakApi>) => Promise<T>): Promise<T> {
    return Promise.race([this.api.then(({ of }) => job(of)), this.ended]);
  }

  /** Takes up a recording; its outline. */
  take(recording: Blob): Promise<Outline> {
    return this.run((api) => api.take(recording));
  }

  /** @throws NamedError silent-sound, sound-too-long */
  async listen(onProgress: (done: number) => void): Promise<Omit<HeardStrokes, 'break'>> {
    const heard = await tellingHowFar(onProgress, (tell) => this.run<Listened>((api) => api.listen(tell) as Promise<Listened>));
    if ('error' in heard) throw errorFromReport(heard.error);
    return heard;
  }

  /** @throws NamedError silent-sound, sound-too-long, no-strokes */
  async partOf(name: string, onProgress: (done: number) => void): Promise<Part> {
    const heard = await tellingHowFar(onProgress, (tell) => this.run<AsPart>((api) => api.partOf(name, tell) as Promise<AsPart>));
    if ('error' in heard) throw errorFromReport(heard.error);
    return heard.part;
  }

  /** All that is struck at moments of the recording, in seconds by time. */
  struckAt(moments: readonly number[]): Promise<StruckSound[][]> {
    return this.run((api) => api.struckAt(moments));
  }

  attackNear(at: number): Promise<number> {
    return this.run((api) => api.attackNear(at));
  }

  /** Ends the worker, and with it what it is at. */
  dispose() {
    this.rejectAll(new Error('ended'));
    this.worker.terminate();
  }
}
