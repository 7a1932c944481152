/** What is struck: its label, its keys, what strikes it, its place among the rows. */
import { compareNames } from './natural-order';
import { isOwnRow, numberOfRow, voiceOfAll, voiceOfRow, type VoiceName } from './row-names';

/** What can strike a voice: a hand, either foot on a kick, or the foot on the hat's pedal. */
export type VoiceLimb = 'hand' | 'kick-foot' | 'hat-foot';

interface VoiceSpec {
  name: VoiceName;
  label: string;
  /** Keys of the General MIDI 1 percussion map; the first writes a new hit. Without one it has a key of ours, outside of them. */
  keys: readonly number[];
  ownKey?: number;
  limb: VoiceLimb;
}

const voice = (name: VoiceName, label: string, ...keys: number[]): VoiceSpec => ({ name, label, keys, limb: 'hand' });
/** A stroke that General MIDI has no key for. */
const stroke = (name: VoiceName, label: string, ownKey: number, limb: VoiceLimb = 'hand'): VoiceSpec => ({
  name,
  label,
  keys: [],
  ownKey,
  limb,
});

/** Rows from top to bottom. */
const TABLE: readonly VoiceSpec[] = [
  voice('crash', 'Crash', 49, 57),
  voice('splash', 'Splash', 55),
  voice('china', 'China', 52),
  voice('ride', 'Ride', 51, 59),
  voice('ride-bell', 'Ride bell', 53),
  stroke('ride-edge', 'Ride edge', 27),
  voice('hat-open', 'Open hat', 46),
  stroke('hat-half', 'Half-open hat', 26),
  voice('hat-closed', 'Closed hat', 42),
  stroke('hat-shoulder', 'Hat shoulder', 22),
  { ...voice('hat-pedal', 'Pedal hat', 44), limb: 'hat-foot' },
  stroke('hat-splash', 'Foot splash', 29, 'hat-foot'),
  voice('tambourine', 'Tambourine', 54),
  voice('shaker', 'Shaker', 82),
  voice('cabasa', 'Cabasa', 69),
  voice('maracas', 'Maracas', 70),
  voice('cowbell', 'Cowbell', 56),
  voice('agogo-high', 'Agogo high', 67),
  voice('agogo-low', 'Agogo low', 68),
  voice('triangle', 'Triangle', 81),
  voice('triangle-mute', 'Triangle, muted', 80),
  voice('claves', 'Claves', 75),
  voice('block-high', 'Block high', 76),
  voice('block-low', 'Block low', 77),
  voice('guiro-short', 'Guiro short', 73),
  voice('guiro-long', 'Guiro long', 74),
  voice('vibraslap', 'Vibraslap', 58),
  voice('whistle-short', 'Whistle short', 71),
  voice('whistle-long', 'Whistle long', 72),
  voice('cuica-mute', 'Cuica, muted', 78),
  voice('cuica-open', 'Cuica', 79),
  voice('bongo-high', 'Bongo high', 60),
  voice('bongo-low', 'Bongo low', 61),
  voice('conga-mute', 'Conga, muted', 62),
  voice('conga-high', 'Conga high', 63),
  voice('conga-low', 'Conga low', 64),
  voice('timbale-high', 'Timbale high', 65),
  voice('timbale-low', 'Timbale low', 66),
  voice('tom-high', 'Tom high', 50),
  voice('tom-mid', 'Tom mid', 47, 48),
  voice('tom-low', 'Tom low', 45),
  voice('tom-floor', 'Tom floor', 41, 43),
  stroke('tom-rim', 'Tom rim', 25),
  voice('rim', 'Rim', 37),
  voice('snare', 'Snare', 38, 40),
  stroke('snare-rimshot', 'Snare rimshot', 34),
  stroke('snare-edge', 'Snare edge', 23),
  stroke('snare-sweep', 'Snare sweep', 24),
  voice('clap', 'Clap', 39),
  { ...voice('kick', 'Kick', 36, 35), limb: 'kick-foot' },
];

/** Every named voice, in row order from top to bottom. */
export const VOICES: readonly VoiceName[] = TABLE.map(({ name }) => name);

const SPECS = new Map(TABLE.map((spec) => [spec.name, spec]));
const ROW_ORDER = new Map(TABLE.map(({ name }, i) => [name, i]));

/** What strikes a voice. @example limbOf('hat-pedal') // 'hat-foot' */
export const limbOf = (voiceName: VoiceName): VoiceLimb => SPECS.get(voiceOfRow(voiceName))?.limb ?? 'hand';

/** The keys that a voice has by default: General MIDI's, else ours. @example usualKeys('snare') // [38, 40] */
export function usualKeys(voiceName: VoiceName): readonly number[] {
  const spec = SPECS.get(voiceName);
  return spec === undefined ? [] : spec.ownKey === undefined ? spec.keys : [spec.ownKey];
}

/** The keys of General MIDI's percussion map that play a voice; none for strokes that it lacks. */
export const generalMidiKeys = (voiceName: VoiceName): readonly number[] => SPECS.get(voiceName)?.keys ?? [];

/** @example labelOfVoice('hat-closed') // 'Closed hat'; 'snare:2' is 'Snare 2' */
export function labelOfVoice(row: VoiceName): string {
  if (isOwnRow(row)) return 'Own row';
  const all = voiceOfAll(row);
  if (all !== null) return `all ${plural(labelOfVoice(all).toLowerCase())}`;
  const own = voiceOfRow(row);
  const label = SPECS.get(own)?.label ?? own.replace(/^key-/, 'Key ');
  const number = numberOfRow(row);
  return number === 1 ? label : /\d$/.test(label) ? `${label}, row ${number}` : `${label} ${number}`;
}

const plural = (noun: string): string =>
  /[^aeiou]y$/.test(noun) ? `${noun.slice(0, -1)}ies` : /(s|sh|ch|x)$/.test(noun) ? `${noun}es` : `${noun}s`;

/** Sorts rows as the Bench shows them: cymbals on top, kick at the bottom, keys and own rows above all; rows of a voice by number. */
export function compareVoices(a: VoiceName, b: VoiceName): number {
  const [voiceA, voiceB] = [voiceOfRow(a), voiceOfRow(b)];
  return (ROW_ORDER.get(voiceA) ?? -1) - (ROW_ORDER.get(voiceB) ?? -1) || compareNames(voiceA, voiceB) || numberOfRow(a) - numberOfRow(b);
}

/** Rows whose soft strokes count as ghosts at import: kick, snare and toms. */
export const hasGhosts = (row: VoiceName): boolean => /^(kick|snare|tom-(high|mid|low|floor))$/.test(voiceOfRow(row));
