import { counted } from '@/core/plurals';
import { compareNames } from '@/core/natural-order';
import { newId } from '@/editing/ids';
import { MOST_TAKES, type KitOfRecordings, type OwnLayer, type OwnSound, type OwnTake, type SampleId } from '@/core/model/own-sound';
import { shortName } from '@/core/limits';
import type { VoiceName } from '@/core/row-names';
import { guessOneSound, guessSounds, upperVelocities, type GuessedSound } from '@/core/samples/guess';
import { VOICES } from '@/core/voices';
import type { SoundKitManifest } from '@/formats/sound-kit';
import type { ReadRecording, ReadSounds } from '@/workers/sounds.worker';

/** What was read, as sounds that can still be corrected. */
export interface Draft {
  name: string;
  sounds: readonly DraftSound[];
  samples: ReadonlyMap<SampleId, Uint8Array<ArrayBuffer>>;
  /** The kit that it was exported as. */
  kit?: KitOfRecordings;
}

export interface DraftSound extends Omit<OwnSound, 'voice'> {
  /** Null: it is left out. */
  voice: VoiceName | null;
}

const takeOf = ({ sample, path, level }: ReadRecording): OwnTake => ({ sample, name: shortName(path), level: Math.round(level * 10) / 10 });

const soundOf = ({ name, voice, layers }: GuessedSound<ReadRecording>): DraftSound => ({
  id: newId(),
  name: shortName(name),
  voice,
  layers: layers.map(({ upTo, takes }) => ({ upTo, takes: takes.map(takeOf) })),
});

const samplesFrom = (recordings: readonly ReadRecording[]): Draft['samples'] => new Map(recordings.map((r) => [r.sample, r.bytes]));

/** Files as the sounds of a kit, one for each voice; more of a voice are left out until another is chosen for them. */
export function draftOfKit({ recordings, kits }: ReadSounds): Draft {
  const [kit] = kits;
  if (kit) return draftOfManifest(kit, recordings);
  const taken = new Set<VoiceName>();
  const order = (voice: VoiceName | null): number => (voice === null ? Infinity : VOICES.indexOf(voice));
  const guesses = guessSounds([...recordings].sort((a, b) => compareNames(a.path, b.path))).sort(
    (a, b) => order(a.voice) - order(b.voice) || 0,
  );
  const sounds = guesses.map((guess): DraftSound => {
    const free = guess.voice !== null && !taken.has(guess.voice);
    if (free) taken.add(guess.voice as VoiceName);
    return { ...soundOf(guess), voice: free ? guess.voice : null };
  });
  return {
    name: shortName(recordings[0]?.path.includes('/') ? (recordings[0].path.split('/')[0] as string) : 'My kit'),
    sounds,
    samples: samplesFrom(recordings),
  };
}

/** Files as one sound for a row, whatever their names say. */
export function draftOfRow({ recordings }: ReadSounds, voice: VoiceName): Draft {
  const guess = guessOneSound(recordings);
  const sound = { ...soundOf(guess), voice };
  return { name: sound.name, sounds: [sound], samples: samplesFrom(recordings) };
}

function draftOfManifest({ under, manifest }: { under: string; manifest: SoundKitManifest }, recordings: readonly ReadRecording[]): Draft {
  const byFile = new Map(recordings.filter((r) => r.path.startsWith(under)).map((r) => [r.path.slice(under.length), r]));
  const sounds = manifest.sounds.flatMap(({ layers, ...sound }): DraftSound[] => {
    const kept = layers.map(({ upTo, takes }): OwnLayer => ({
      upTo,
      takes: takes.flatMap(({ file, name, level }) => (byFile.has(file) ? [{ sample: byFile.get(file)!.sample, name, level }] : [])),
    }));
    return kept.every((l) => l.takes.length > 0) ? [{ ...sound, layers: kept }] : [];
  });
  return { name: manifest.name, sounds, samples: samplesFrom(recordings), kit: { id: manifest.id, name: manifest.name } };
}

/** The sounds of a draft that are kept, under a kit or by themselves. */
export const keptSounds = ({ sounds }: Draft, kit?: KitOfRecordings): OwnSound[] =>
  sounds.flatMap(({ voice, kit: _was, ...sound }): OwnSound[] =>
    voice === null ? [] : [{ ...sound, voice, ...(kit ? { kit: kit.id } : {}) }],
  );

/** The recordings that some sounds need, of those that were read. */
export const samplesFor = (draft: Draft, sounds: readonly OwnSound[]): Map<SampleId, Uint8Array<ArrayBuffer>> => {
  const needed = new Set(sounds.flatMap((s) => s.layers.flatMap((l) => l.takes.map((t) => t.sample))));
  return new Map([...draft.samples].filter(([id]) => needed.has(id)));
};

type Layers = readonly OwnLayer[];

/** Layers without those that are empty; the last goes up to 127. */
function tidy(layers: Layers): OwnLayer[] {
  const full = layers.filter((l) => l.takes.length > 0);
  return full.map((l, i) => (i === full.length - 1 ? { ...l, upTo: 127 } : l));
}

/** Puts a take into the softer or harder layer beside its own; beyond the first and last it makes a new one. */
export function moveTake(layers: Layers, at: { layer: number; take: number }, by: -1 | 1): OwnLayer[] {
  const take = layers[at.layer]?.takes[at.take];
  const target = at.layer + by;
  if (!take || (layers[target]?.takes.length ?? 0) >= MOST_TAKES) return [...layers];
  const left = layers.map((l, i) =>
    i === at.layer ? { ...l, takes: l.takes.filter((_, t) => t !== at.take) } : i === target ? { ...l, takes: [...l.takes, take] } : l,
  );
  if (layers[target]) return tidy(left);
  const grown = tidy(target < 0 ? [{ upTo: 1, takes: [take] }, ...left] : [...left, { upTo: 127, takes: [take] }]);
  // A new layer changes what each of them plays.
  const uppers = upperVelocities(grown.map(levelOf));
  return grown.map((l, i) => ({ ...l, upTo: uppers[i] as number }));
}

const levelOf = ({ takes }: OwnLayer): number => takes.reduce((sum, t) => sum + t.level, 0) / takes.length;

/** Leaves a take out; the last one stays. */
export function removeTake(layers: Layers, at: { layer: number; take: number }): OwnLayer[] {
  const left = tidy(layers.map((l, i) => (i === at.layer ? { ...l, takes: l.takes.filter((_, t) => t !== at.take) } : l)));
  return left.length > 0 ? left : [...layers];
}

/** Sets the highest velocity of a layer, between those beside it. */
export function setUpTo(layers: Layers, index: number, upTo: number): OwnLayer[] {
  const [from, to] = [(layers[index - 1]?.upTo ?? 0) + 1, (layers[index + 1]?.upTo ?? 128) - 1];
  return layers.map((l, i) => (i === index ? { ...l, upTo: Math.max(from, Math.min(to, Math.round(upTo))) } : l));
}

/** @example layersWords(sound.layers) // '3 layers, 8 takes' */
export function layersWords(layers: Layers): string {
  const takes = layers.reduce((sum, l) => sum + l.takes.length, 0);
  return layers.length === 1 ? (takes === 1 ? 'one recording' : `${takes} takes`) : `${layers.length} layers, ${counted(takes, 'take')}`;
}
