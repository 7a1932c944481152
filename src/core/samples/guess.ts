import { MOST_LAYERS, MOST_TAKES } from '../model/own-sound';
import type { VoiceName } from '../row-names';
import { clamp } from '../units';
import type { RecordingLevels } from './recording';
import { variantOf, voiceOfPath, type Variant } from './names';

/** A recording with its place. */
export interface NamedRecording extends Pick<RecordingLevels, 'level' | 'middle' | 'seconds'> {
  /** Folders and file name, with slashes. */
  path: string;
}

export interface GuessedLayer<R> {
  upTo: number;
  takes: R[];
}

/** Recordings that may be one sound. */
export interface GuessedSound<R> {
  name: string;
  /** Null where no name tells. */
  voice: VoiceName | null;
  layers: GuessedLayer<R>[];
}

/** Recordings of one thing lie within so much of each other. */
const LIKE_MIDDLE = 1.35;
const LIKE_LENGTH = 2.5;
/** Layers differ by at least so much, in dB. */
const LAYER_DB = 3;
/** Levels spread over less than this are takes of one force, in dB. */
const SPREAD_DB = 6;
/** Amplitude goes with the velocity to the power 1.5: 30 dB a tenfold. */
const LAW_DB = 30;

/**
 * Which recordings belong together, as which layers and takes: by their names, where these tell, else by their levels. Numbered files that
 * do not sound alike are sounds by themselves.
 */
export function guessSounds<R extends NamedRecording>(recordings: readonly R[]): GuessedSound<R>[] {
  const groups = new Map<string, { recording: R; variant: Variant }[]>();
  for (const recording of recordings) {
    const variant = variantOf(recording.path);
    // "Tom 1" and "Tom 2" are two drums, not two takes of one.
    const key = `${voiceOfPath(recording.path) ?? ''}|${variant.stem}`;
    const group = groups.get(key);
    if (group) group.push({ recording, variant });
    else groups.set(key, [{ recording, variant }]);
  }
  return [...groups.values()].flatMap((group) => {
    const sure = group.some(({ variant }) => variant.force !== null || variant.take !== null);
    const sounds = sure || areAlike(group.map((g) => g.recording)) ? [group] : group.map((g) => [g]);
    return sounds.map((sound): GuessedSound<R> => ({
      name: nameOf(sound[0]!.recording.path, sound.length > 1),
      voice: voiceOfPath(sound[0]!.recording.path),
      layers: layersOf(sound),
    }));
  });
}

/**
 * Files of one sound as far as their names say so, in order: nothing of them was read yet.
 * @example groupPaths(['a v1.wav', 'a v2.wav', 'b.wav']).length // 2
 */
export function groupPaths(paths: readonly string[]): string[][] {
  const groups = new Map<string, string[]>();
  for (const path of paths) {
    const { stem, force, take } = variantOf(path);
    const key = force === null && take === null ? path : `${voiceOfPath(path) ?? ''}|${stem}`;
    groups.set(key, [...(groups.get(key) ?? []), path]);
  }
  return [...groups.values()];
}

/** All of some recordings as one sound: the same guess of layers and takes, whatever their names share. */
export function guessOneSound<R extends NamedRecording>(recordings: readonly R[]): GuessedSound<R> {
  const [first] = recordings;
  if (!first) throw new RangeError('A sound has at least one recording.');
  return {
    name: nameOf(first.path, recordings.length > 1),
    voice: voiceOfPath(first.path),
    layers: layersOf(recordings.map((recording) => ({ recording, variant: variantOf(recording.path) }))),
  };
}

function areAlike(recordings: readonly NamedRecording[]): boolean {
  const ratio = (values: number[]): number => Math.max(...values) / Math.max(1e-9, Math.min(...values));
  // A softer stroke is duller: the harder are compared.
  const loudest = Math.max(...recordings.map((r) => r.level));
  const hard = recordings.filter((r) => r.level > loudest - SPREAD_DB);
  return ratio(hard.map((r) => r.middle)) <= LIKE_MIDDLE && ratio(recordings.map((r) => r.seconds)) <= LIKE_LENGTH;
}

/** What a sound is called: its file's name, of several what they share. */
function nameOf(path: string, several: boolean): string {
  const file = (path.split('/').pop() ?? path).replace(/\.[a-z0-9]{1,5}$/i, '');
  if (!several) return file;
  const stem = variantOf(path).stem.split('/').pop() ?? '';
  // Its letters as they were written, up to where the names part.
  const shared = file.slice(0, lengthOfWords(file, stem.split(' ').join('').length)).replace(/[\s_.-]+$/, '');
  return shared || file;
}

/** How many characters of a text hold so many letters and digits. */
function lengthOfWords(text: string, letters: number): number {
  let seen = 0;
  let at = 0;
  while (at < text.length && seen < letters) if (/[a-z0-9]/i.test(text[at++] as string)) seen++;
  return at;
}

/** Layers from soft to hard. */
function layersOf<R extends NamedRecording>(group: readonly { recording: R; variant: Variant }[]): GuessedLayer<R>[] {
  const forces = [...new Set(group.map((g) => g.variant.force ?? g.variant.number))];
  const named = group.some((g) => g.variant.force !== null);
  const layers = named ? byForce(group) : byLevel(group.map((g) => g.recording));
  const kept = layers.slice(-MOST_LAYERS).map((l) => l.slice(0, MOST_TAKES));
  // Names that give velocities themselves.
  const velocities =
    named && layers.length > 1 && Math.max(...forces.map((f) => f ?? 0)) > 16 && forces.every((f) => f !== null && f <= 127)
      ? (forces as number[]).sort((a, b) => a - b)
      : null;
  const uppers = velocities && velocities.length === kept.length ? velocities : upperVelocities(kept.map(meanLevel));
  return kept.map((takes, i) => ({ upTo: i === kept.length - 1 ? 127 : (uppers[i] as number), takes }));
}

const meanLevel = (takes: readonly NamedRecording[]): number => takes.reduce((sum, t) => sum + t.level, 0) / takes.length;

function byForce<R extends NamedRecording>(group: readonly { recording: R; variant: Variant }[]): R[][] {
  const layers = new Map<number, R[]>();
  for (const { recording, variant } of group) {
    const force = variant.force ?? Infinity;
    layers.set(force, [...(layers.get(force) ?? []), recording]);
  }
  const ordered = [...layers].sort((a, b) => a[0] - b[0]).map(([, takes]) => takes);
  // Some count from the hardest.
  const rises = meanLevel(ordered.at(-1) ?? []) - meanLevel(ordered[0] ?? []);
  return rises < -LAYER_DB ? ordered.reverse() : ordered;
}

function byLevel<R extends NamedRecording>(recordings: readonly R[]): R[][] {
  const sorted = [...recordings].sort((a, b) => a.level - b.level);
  const spread = (sorted.at(-1)?.level ?? 0) - (sorted[0]?.level ?? 0);
  if (spread < SPREAD_DB) return [[...recordings]];
  const layers: R[][] = [];
  for (const r of sorted) {
    const last = layers.at(-1);
    if (last && r.level - (last[0] as R).level < LAYER_DB) last.push(r);
    else layers.push([r]);
  }
  return layers;
}

/**
 * The highest velocity of each layer: where the law of loudness puts the middle between it and the next; evenly where levels say nothing.
 * @example upperVelocities([-30, -15, 0]) // [23, 71, 127]
 */
export function upperVelocities(levels: readonly number[]): number[] {
  const n = levels.length;
  const top = levels.at(-1) ?? 0;
  const rising = levels.every((l, i) => i === 0 || l - (levels[i - 1] as number) >= 2);
  const natural = levels.map((l) => 127 * 10 ** ((l - top) / LAW_DB));
  const wanted = levels.map((_, i) =>
    i === n - 1 ? 127 : rising ? Math.sqrt((natural[i] as number) * (natural[i + 1] as number)) : (127 * (i + 1)) / n,
  );
  // Each has at least one velocity of its own.
  let last = 0;
  return wanted.map((v, i) => (last = clamp(Math.round(v), last + 1, 127 - (n - 1 - i))));
}
