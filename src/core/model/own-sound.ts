import type { VoiceName } from '../row-names';

/** Names a recording by what it holds: SHA-256 of its file, in hexadecimal. */
export type SampleId = string;

/** One recording of a sound. */
export interface OwnTake {
  sample: SampleId;
  /** The name of its file, with its folder. */
  name: string;
  /** K-weighted level of its first 0.4 s, in dB. */
  level: number;
}

/** Recordings of like force; strokes take turns with them. */
export interface OwnLayer {
  /** The highest velocity that it plays, 1 to 127. */
  upTo: number;
  takes: readonly OwnTake[];
}

/** A sound of the user's own. */
export interface OwnSound {
  id: string;
  name: string;
  /** What it is a sound of. */
  voice: VoiceName;
  /** From soft to hard; the last goes up to 127. */
  layers: readonly OwnLayer[];
  /** Each stroke ends the one before. */
  cut?: boolean;
  /** The kit of the user's own that it belongs to. */
  kit?: string;
}

/** A kit of the user's own: its sounds name it. */
export interface KitOfRecordings {
  id: string;
  name: string;
}

/** At most so many layers a sound, and takes a layer. */
export const MOST_LAYERS = 32;
export const MOST_TAKES = 32;

/** The sounds of the user's own that are here. */
export interface OwnSounds {
  sound(id: string): OwnSound | undefined;
  /** A kit's sound for a voice. */
  ofKit(kit: string, voice: VoiceName): OwnSound | undefined;
  /** Whether the recording of a break is here; none is without it. */
  has?(sample: SampleId): boolean;
}

export const NO_OWN_SOUNDS: OwnSounds = { sound: () => undefined, ofKit: () => undefined };

/** Sounds as they are looked up, and the recordings of breaks that are here. */
export function ownSoundsOf(sounds: readonly OwnSound[], recordings: Iterable<SampleId> = []): OwnSounds {
  const here = new Set(recordings);
  const byId = new Map(sounds.map((s) => [s.id, s]));
  // Of two for a voice the first is the kit's.
  const byVoice = new Map([...sounds].reverse().flatMap((s) => (s.kit === undefined ? [] : [[`${s.kit} ${s.voice}`, s] as const])));
  return { sound: (id) => byId.get(id), ofKit: (kit, voice) => byVoice.get(`${kit} ${voice}`), has: (sample) => here.has(sample) };
}

/** All recordings of some sounds, each once. */
export const samplesOf = (sounds: readonly OwnSound[]): SampleId[] => [
  ...new Set(sounds.flatMap((s) => s.layers.flatMap((l) => l.takes.map((t) => t.sample)))),
];
