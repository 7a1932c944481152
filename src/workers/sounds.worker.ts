import * as Comlink from 'comlink';
import { isWav, readWav, type AudioData } from '@/core/audio/read-wav';
import { LARGEST_SOUND } from '@/core/limits';
import { writeWav } from '@/core/audio/wav';
import { isNamedError, NamedError, reportError, type ErrorReport } from '@/core/errors';
import { isSoundPath } from '@/core/samples/sound-path';
import { measure, type RecordingLevels } from '@/core/samples/recording';
import type { SampleId } from '@/core/model/own-sound';
import { KIT_LIMITS } from '@/core/limits';
import { MANIFEST, readManifest, type SoundKitManifest } from '@/formats/sound-kit';
import { isZip, unzip } from '@/formats/unzip';
import { sayReady } from './ready';
import { sha256 } from './sha256';

/** A file of sound that was chosen, with the folders it came from. */
export interface ChosenFile {
  path: string;
  file: Blob;
}

/** A recording that can be kept. */
export interface ReadRecording extends RecordingLevels {
  path: string;
  sample: SampleId;
  /** A WAV file. */
  bytes: Uint8Array<ArrayBuffer>;
  /** What of the file is not used, in words. */
  notes: readonly string[];
}

export interface ReadSounds {
  recordings: ReadRecording[];
  /** What the browser may be able to decode. */
  undecoded: { path: string; bytes: Uint8Array<ArrayBuffer> }[];
  refused: { path: string; error: ErrorReport }[];
  /** Files that are no sound and were not looked at. */
  leftOut: number;
  /** A kit of ours, by the path that its files lie under. */
  kits: { under: string; manifest: SoundKitManifest }[];
}

const isManifest = (path: string): boolean => path === MANIFEST || path.endsWith(`/${MANIFEST}`);

async function recordingOf(path: string, bytes: Uint8Array<ArrayBuffer>): Promise<ReadRecording> {
  const wav = readWav(bytes);
  const notes = [
    ...(wav.cutOff ? ['the file ends early'] : []),
    ...(wav.channelsInFile > 2 ? [`${wav.channelsInFile} channels: the first two`] : []),
  ];
  return { path, sample: await sha256(bytes), bytes, ...measure(wav), notes };
}

const refusal = (e: unknown): ErrorReport => reportError(isNamedError(e) ? e : new NamedError('bad-sound', { cause: String(e) }));

/** A stream as chunks: not every browser walks it by itself. */
async function* chunksOf(blob: Blob): AsyncGenerator<Uint8Array> {
  const reader = blob.stream().getReader();
  for (let read = await reader.read(); !read.done; read = await reader.read()) yield read.value;
}

/** A zip stands for the folder that it was. */
async function filesIn(chosen: ChosenFile): Promise<ChosenFile[]> {
  const first = new Uint8Array(await chosen.file.slice(0, 4).arrayBuffer());
  if (!isZip(first)) return [chosen];
  const inside = await unzip(chunksOf(chosen.file), KIT_LIMITS, (path) => isSoundPath(path) || isManifest(path));
  const under = chosen.path.replace(/(\.nodkit)?\.zip$/i, '');
  return inside.map(({ path, bytes }) => ({ path: `${under}/${path}`, file: new Blob([bytes]) }));
}

/** Reads sounds away from the interface; ending the worker ends the job. */
const api = {
  /** @throws an {@link ErrorReport} as a value, where all of it is refused */
  async read(chosen: ChosenFile[], onProgress: (done: number) => void): Promise<ReadSounds | { error: ErrorReport }> {
    try {
      const answer = await readAll(chosen, onProgress);
      return Comlink.transfer(
        answer,
        [...answer.recordings, ...answer.undecoded].map((r) => r.bytes.buffer),
      );
    } catch (e) {
      return { error: refusal(e) };
    }
  },

  /** A recording of what the browser decoded. */
  async decoded(path: string, { rate, channels }: AudioData): Promise<ReadRecording | { error: ErrorReport }> {
    try {
      const [left, right] = channels as [Float32Array, Float32Array?];
      const bytes = writeWav(left, right ?? left, { rate, bits: '24' }) as Uint8Array<ArrayBuffer>;
      const recording = await recordingOf(path, bytes);
      return Comlink.transfer(recording, [recording.bytes.buffer]);
    } catch (e) {
      return { error: refusal(e) };
    }
  },
};

async function readAll(chosen: ChosenFile[], onProgress: (done: number) => void): Promise<ReadSounds> {
  const answer: ReadSounds = { recordings: [], undecoded: [], refused: [], leftOut: 0, kits: [] };
  const files: ChosenFile[] = [];
  for (const one of chosen) files.push(...(await filesIn(one)));
  if (files.length > KIT_LIMITS.entries) throw new NamedError('too-many-sounds', { entries: files.length, most: KIT_LIMITS.entries });
  const paths = new Set(files.map((f) => f.path));
  let bytesRead = 0;
  for (const [i, { path, file }] of files.entries()) {
    onProgress(i / files.length);
    if (isManifest(path)) {
      const under = path.slice(0, -MANIFEST.length);
      const within = new Set([...paths].filter((p) => p.startsWith(under)).map((p) => p.slice(under.length)));
      answer.kits.push({ under, manifest: readManifest(jsonOf(await file.text()), within) });
      continue;
    }
    // What lies in a folder beside the sounds is nobody's mistake; a file that was chosen by itself is told of.
    if (path.includes('/') && !isSoundPath(path)) {
      answer.leftOut++;
      continue;
    }
    try {
      if (file.size > LARGEST_SOUND) throw new NamedError('sound-too-large', { bytes: file.size, most: LARGEST_SOUND });
      if (file.size === 0) throw new NamedError('empty-file');
      bytesRead += file.size;
      if (bytesRead > KIT_LIMITS.bytes) throw new NamedError('too-many-sounds', { bytes: bytesRead, most: KIT_LIMITS.bytes });
      const bytes = new Uint8Array(await file.arrayBuffer());
      if (isWav(bytes)) answer.recordings.push(await recordingOf(path, bytes));
      else answer.undecoded.push({ path, bytes });
    } catch (e) {
      if (isNamedError(e) && e.code === 'too-many-sounds') throw e;
      answer.refused.push({ path, error: refusal(e) });
    }
  }
  return answer;
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new NamedError('bad-sound-kit');
  }
}

export type SoundsApi = typeof api;

Comlink.expose(api);
sayReady();
