/** What is struck, its General MIDI percussion keys, and how it is named and ordered on the Bench. */

/** A voice by name; an unmapped MIDI key k is the voice `key-k`. */
export type VoiceName = string;

export const LONGEST_VOICE = 60;

export const isVoiceName = (v: unknown): boolean => typeof v === 'string' && v.length > 0 && v.length <= LONGEST_VOICE;

/** Rows from top to bottom, each with its keys; the first key listed writes a new hit (General MIDI 1 percussion map). */
const TABLE: readonly (readonly [VoiceName, string, readonly number[]])[] = [
  ['crash', 'Crash', [49, 57]],
  ['splash', 'Splash', [55]],
  ['china', 'China', [52]],
  ['ride', 'Ride', [51, 59]],
  ['ride-bell', 'Ride bell', [53]],
  ['hat-open', 'Open hat', [46]],
  ['hat-closed', 'Closed hat', [42]],
  ['hat-pedal', 'Pedal hat', [44]],
  ['tambourine', 'Tambourine', [54]],
  ['shaker', 'Shaker', [82]],
  ['cabasa', 'Cabasa', [69]],
  ['maracas', 'Maracas', [70]],
  ['cowbell', 'Cowbell', [56]],
  ['agogo-high', 'Agogo high', [67]],
  ['agogo-low', 'Agogo low', [68]],
  ['triangle', 'Triangle', [81]],
  ['triangle-mute', 'Triangle, muted', [80]],
  ['claves', 'Claves', [75]],
  ['block-high', 'Block high', [76]],
  ['block-low', 'Block low', [77]],
  ['guiro-short', 'Guiro short', [73]],
  ['guiro-long', 'Guiro long', [74]],
  ['vibraslap', 'Vibraslap', [58]],
  ['whistle-short', 'Whistle short', [71]],
  ['whistle-long', 'Whistle long', [72]],
  ['cuica-mute', 'Cuica, muted', [78]],
  ['cuica-open', 'Cuica', [79]],
  ['bongo-high', 'Bongo high', [60]],
  ['bongo-low', 'Bongo low', [61]],
  ['conga-mute', 'Conga, muted', [62]],
  ['conga-high', 'Conga high', [63]],
  ['conga-low', 'Conga low', [64]],
  ['timbale-high', 'Timbale high', [65]],
  ['timbale-low', 'Timbale low', [66]],
  ['tom-high', 'Tom high', [50]],
  ['tom-mid', 'Tom mid', [47, 48]],
  ['tom-low', 'Tom low', [45]],
  ['tom-floor', 'Tom floor', [41, 43]],
  ['rim', 'Rim', [37]],
  ['snare', 'Snare', [38, 40]],
  ['clap', 'Clap', [39]],
  ['kick', 'Kick', [36, 35]],
];

/** Every named voice, in row order from top to bottom. */
export const VOICES: readonly VoiceName[] = TABLE.map(([name]) => name);

const LABELS = new Map(TABLE.map(([name, label]) => [name, label]));
const FIRST_KEYS = new Map(TABLE.map(([name, , keys]) => [name, keys[0] as number]));
const ROW_ORDER = new Map(TABLE.map(([name], i) => [name, i]));

/** Which voice each MIDI key plays. Keys that are not in it play `key-k`. */
export interface KitMap {
  name: string;
  voices: Readonly<Record<number, VoiceName>>;
}

export const GENERAL_MIDI_KIT: KitMap = {
  name: 'General MIDI',
  voices: Object.fromEntries(TABLE.flatMap(([name, , keys]) => keys.map((key) => [key, name]))),
};

/** Sixteen voices side by side from middle C on, as rows of pads and small keyboards send them. */
export const GALLEY_KIT: KitMap = {
  name: 'Galley pads',
  voices: Object.fromEntries(
    ['kick', 'snare', 'rim', 'clap', 'hat-closed', 'hat-pedal', 'hat-open', 'tom-floor', 'tom-low', 'tom-mid', 'tom-high', 'crash', 'ride', 'ride-bell', 'cowbell', 'tambourine'].map((voice, i) => [60 + i, voice]),
  ),
};

/** The key maps that everybody has. */
export const KITS: readonly KitMap[] = [GENERAL_MIDI_KIT, GALLEY_KIT];

/** @example voiceOfKey(GENERAL_MIDI_KIT, 38) // 'snare'; 20 gives 'key-20' */
export const voiceOfKey = (kit: KitMap, key: number): VoiceName => kit.voices[key] ?? `key-${key}`;

/** The key that a new hit of this voice is written with: the first the kit lists in General MIDI's order, else any of the kit's. */
export function keyOfVoice(kit: KitMap, voice: VoiceName): number {
  const usual = FIRST_KEYS.get(voice);
  if (usual !== undefined && kit.voices[usual] === voice) return usual;
  for (const [key, name] of Object.entries(kit.voices)) if (name === voice) return Number(key);
  const unmapped = /^key-(\d+)$/.exec(voice);
  return unmapped ? Number(unmapped[1]) : (usual ?? 38);
}

/** @example labelOfVoice('hat-closed') // 'Closed hat' */
export const labelOfVoice = (voice: VoiceName): string => LABELS.get(voice) ?? voice.replace(/^key-/, 'Key ');

/** Sorts voices as the Bench shows them: cymbals on top, kick at the bottom, unmapped keys above all. */
export const compareVoices = (a: VoiceName, b: VoiceName): number =>
  (ROW_ORDER.get(a) ?? -1) - (ROW_ORDER.get(b) ?? -1) || a.localeCompare(b, 'en', { numeric: true });

/** Voices whose soft strokes count as ghosts at import. */
export const hasGhosts = (voice: VoiceName): boolean => voice === 'kick' || voice === 'snare' || voice.startsWith('tom-');

const FAMILIES: readonly (readonly [prefix: string, family: string])[] = [
  ['hat-', 'hat'],
  ['tom-', 'tom'],
  ['ride', 'ride'],
  ['conga-', 'conga'],
  ['bongo-', 'bongo'],
  ['timbale-', 'timbale'],
];

/** The family that a voice belongs to, in the singular; undefined where it stands alone. @example familyOfVoice('hat-open') // 'hat' */
export const familyOfVoice = (voice: VoiceName): string | undefined => FAMILIES.find(([prefix]) => voice.startsWith(prefix))?.[1];
