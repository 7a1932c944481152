import * as Comlink from 'comlink';
import { isWav, readWav, type AudioData } from '@/core/audio/read-wav';
import { writeWav } from '@/core/audio/wav';
import { isNamedError, NamedError, reportError, type ErrorReport } from '@/core/errors';
import type { HeardStrokes } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import type { SampleId } from '@/core/model/own-sound';
import { guessStrokes, placesOf, type StruckSound } from '@/core/onsets/classify';
import { hearBreak } from '@/core/onsets/hear-break';
import { MOST_SECONDS } from '@/core/limits';
import { isHeard, listenTo, monoOf } from '@/core/onsets/listen';
import { attackNear, USUAL_SENSITIVITY } from '@/core/onsets/onsets';
import { countedBy, partOfStrokes, soundsOf } from '@/core/onsets/part-of-strokes';
import { sayReady } from './ready';
import { sha256 } from './sha256';

/** A recording that can be kept. */
export interface ReadBreak {
  sample: SampleId;
  /** A WAV file. */
  blob: Blob;
  seconds: number;
  /** What of the file is not used, in words. */
  notes: readonly string[];
}

/** How high a recording's outline is, in each of so many stretches a second. */
export interface Outline {
  perSecond: number;
  peaks: Float32Array;
}

/** Ten minutes of anything that is read as a WAV file. */
export const LARGEST_BREAK = 512 * 2 ** 20;
const OUTLINE_RATE = 400;

const refusal = (e: unknown): ErrorReport => reportError(isNamedError(e) ? e : new NamedError('bad-sound', { cause: String(e) }));
const monoOfRecording = ({ channels }: AudioData): Float32Array => monoOf({ left: channels[0] as Float32Array, right: channels[1] });

/** What is being listened to. */
let mono = new Float32Array();
let rate = 0;

/** So much is looked through at a time for something to hear, in seconds. */
const LOOKED_THROUGH = 20;

/** @throws NamedError silent-sound */
function checkHeard(bytes: Uint8Array, seconds: number) {
  for (let from = 0; from < seconds; from += LOOKED_THROUGH) {
    const wav = readWav(bytes, MOST_SECONDS, { largest: LARGEST_BREAK, from, until: from + LOOKED_THROUGH });
    if (isHeard(monoOfRecording(wav))) return;
  }
  throw new NamedError('silent-sound');
}

/** Told at every hundredth. */
function nowAndThen(onProgress: (done: number) => void): (done: number) => void {
  let told = 0;
  return (done) => {
    if (done - told < 0.01) return;
    told = done;
    onProgress(done);
  };
}

async function described(bytes: Uint8Array<ArrayBuffer>, blob: Blob): Promise<ReadBreak> {
  const wav = readWav(bytes, MOST_SECONDS, { largest: LARGEST_BREAK, until: 0 });
  checkHeard(bytes, wav.seconds);
  const notes = [
    ...(wav.cutOff ? ['The file ends early; what could be read is used.'] : []),
    ...(wav.channelsInFile > 2 ? [`It has ${wav.channelsInFile} channels: the first two are used.`] : []),
  ];
  return { sample: await sha256(bytes), blob, seconds: wav.seconds, notes };
}

/** Reads recordings of breaks and listens to them, away from the interface; ending the worker ends the job. */
const api = {
  /** A WAV file as a recording, or `undecoded` where only the browser may read it. */
  async read(file: Blob): Promise<ReadBreak | { undecoded: Uint8Array<ArrayBuffer> } | { error: ErrorReport }> {
    try {
      if (file.size === 0) throw new NamedError('empty-file');
      if (file.size > LARGEST_BREAK) throw new NamedError('sound-too-long', { bytes: file.size });
      const bytes = new Uint8Array(await file.arrayBuffer());
      if (!isWav(bytes)) return Comlink.transfer({ undecoded: bytes }, [bytes.buffer]);
      return await described(bytes, new Blob([bytes], { type: 'audio/wav' }));
    } catch (e) {
      return { error: refusal(e) };
    }
  },

  /** A recording of what the browser decoded. */
  async decoded({ rate: of, channels }: AudioData): Promise<ReadBreak | { error: ErrorReport }> {
    try {
      const [left, right] = channels as [Float32Array, Float32Array?];
      const bytes = writeWav(left, right ?? left, { rate: of, bits: '24' }) as Uint8Array<ArrayBuffer>;
      return await described(bytes, new Blob([bytes], { type: 'audio/wav' }));
    } catch (e) {
      return { error: refusal(e) };
    }
  },

  /** Takes up a recording, to be seen and listened to. */
  async take(recording: Blob): Promise<Outline> {
    const wav = readWav(new Uint8Array(await recording.arrayBuffer()), MOST_SECONDS, { largest: LARGEST_BREAK });
    mono = monoOfRecording(wav) as Float32Array<ArrayBuffer>;
    rate = wav.rate;
    const each = rate / OUTLINE_RATE;
    const peaks = Float32Array.from({ length: Math.ceil(mono.length / each) }, (_, i) => {
      let most = 0;
      for (let k = Math.floor(i * each); k < Math.min(mono.length, Math.floor((i + 1) * each)); k++)
        most = Math.max(most, Math.abs(mono[k] as number));
      return most;
    });
    return Comlink.transfer({ perSecond: OUTLINE_RATE, peaks }, [peaks.buffer]);
  },

  /** What was taken up: all that may be a stroke in it. */
  listen(onProgress: (done: number) => void): Omit<HeardStrokes, 'break'> | { error: ErrorReport } {
    try {
      return hearBreak(mono, rate, nowAndThen(onProgress));
    } catch (e) {
      return { error: refusal(e) };
    }
  },

  /** What was taken up as a part, by the likeliest way to count it. */
  partOf(name: string, onProgress: (done: number) => void): { part: Part } | { error: ErrorReport } {
    try {
      const { onsets, readings } = listenTo(mono, rate, USUAL_SENSITIVITY, nowAndThen(onProgress));
      if (!readings[0]) throw new NamedError('no-strokes');
      return { part: partOfStrokes(soundsOf(onsets), countedBy(readings[0]), name) };
    } catch (e) {
      return { error: refusal(e) };
    }
  },

  /** All that is struck at moments of what was taken up, in seconds by time. */
  struckAt: (moments: readonly number[]): StruckSound[][] =>
    guessStrokes(mono, rate, placesOf(moments, mono.length / rate)).map(({ struck }) => [...struck]),

  /** The attack nearest to a moment, in seconds. */
  attackNear: (at: number): number => attackNear(mono, rate, at),
};

export type BreakApi = typeof api;

Comlink.expose(api);
sayReady();
