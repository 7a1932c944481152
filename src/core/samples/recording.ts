import { NamedError } from '../errors';
import { kEnergy, STROKE_SECONDS } from '../loudness/k-weighting';
import type { AudioData } from '../audio/read-wav';
import { middleHz } from '../synth/stroke';

/** What is known of a recording before it is used. */
export interface RecordingLevels {
  /** K-weighted level of its first 0.4 s from where it begins, in dB: of a stereo one, the mean of both sides. */
  level: number;
  /** Highest sample, 0 to 1 and above. */
  peak: number;
  /** Seconds of silence before it begins. */
  lead: number;
  seconds: number;
  /** The middle of its spectrum in Hz: recordings of one thing are near each other in it. */
  middle: number;
}

/** What lies so far under its highest sample at its start is silence. */
const LEAD_DB = -50;
/** So much before the first that is heard is kept, in seconds. */
const KEPT_LEAD = 0.0007;
/** A file whose highest sample is under this is silent, in dB under full scale. */
const SILENT_DB = -72;

const peakOf = ({ channels }: AudioData): number => {
  let peak = 0;
  for (const channel of channels) for (const x of channel) if (Math.abs(x) > peak) peak = Math.abs(x);
  return peak;
};

/** The frame that a recording begins at: silence before it is left out. */
export function beginningOf(recording: AudioData, peak = peakOf(recording)): number {
  const least = peak * 10 ** (LEAD_DB / 20);
  const firsts = recording.channels.map((c) => c.findIndex((x) => Math.abs(x) >= least)).filter((i) => i >= 0);
  return Math.max(0, Math.min(...firsts) - Math.round(KEPT_LEAD * recording.rate));
}

/** K-weighted energy of a recording's first 0.4 s as its mean of both sides, over those 0.4 s. */
export function powerOf({ channels, rate }: AudioData): number {
  const frames = Math.round(STROKE_SECONDS * rate);
  return channels.reduce((sum, c) => sum + kEnergy(c, rate, frames), 0) / channels.length / frames;
}

/** A recording from where it begins. */
export const fromBeginning = (recording: AudioData, first = beginningOf(recording)): AudioData => ({
  rate: recording.rate,
  channels: recording.channels.map((c) => c.subarray(first)),
});

/** @throws NamedError silent-sound */
export function measure(recording: AudioData): RecordingLevels {
  const peak = peakOf(recording);
  if (peak < 10 ** (SILENT_DB / 20)) throw new NamedError('silent-sound');
  const first = beginningOf(recording, peak);
  const sound = fromBeginning(recording, first);
  const power = powerOf(sound);
  return {
    level: 10 * Math.log10(power + 1e-20),
    peak,
    lead: first / recording.rate,
    seconds: (recording.channels[0] as Float32Array).length / recording.rate,
    middle: middleHz(sound.channels[0] as Float32Array, recording.rate),
  };
}
