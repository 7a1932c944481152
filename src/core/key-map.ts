/** Which key plays which row, and which key a row is written with. */
import { standIns, voiceOfRow, type VoiceName } from './row-names';
import { generalMidiKeys, usualKeys, VOICES } from './voices';

/** Which row each MIDI key plays. Keys that are not in it play `key-k`. */
export interface KitMap {
  name: string;
  voices: Readonly<Record<number, VoiceName>>;
}

export const GENERAL_MIDI_KIT: KitMap = {
  name: 'General MIDI',
  voices: Object.fromEntries(VOICES.flatMap((name) => generalMidiKeys(name).map((key) => [key, name]))),
};

/** Whether a map says what General MIDI's says, whatever its name. */
export const isGeneralMidi = ({ voices }: KitMap): boolean =>
  voices === GENERAL_MIDI_KIT.voices ||
  (Object.keys(voices).length === Object.keys(GENERAL_MIDI_KIT.voices).length &&
    Object.entries(GENERAL_MIDI_KIT.voices).every(([key, name]) => voices[Number(key)] === name));

/** General MIDI's keys, and beside them ours for the strokes that it lacks. */
export const NOD_SWAY_KIT: KitMap = {
  name: 'Nod Sway',
  voices: Object.fromEntries(VOICES.flatMap((name) => usualKeys(name).map((key) => [key, name]))),
};

/** Sixteen voices side by side from middle C on, as rows of pads and small keyboards send them. */
export const GALLEY_KIT: KitMap = {
  name: 'Galley pads',
  voices: Object.fromEntries(
    [
      'kick',
      'snare',
      'rim',
      'clap',
      'hat-closed',
      'hat-pedal',
      'hat-open',
      'tom-floor',
      'tom-low',
      'tom-mid',
      'tom-high',
      'crash',
      'ride',
      'ride-bell',
      'cowbell',
      'tambourine',
    ].map((name, i) => [60 + i, name]),
  ),
};

/** The key maps that everybody has. */
export const KITS: readonly KitMap[] = [GENERAL_MIDI_KIT, NOD_SWAY_KIT, GALLEY_KIT];

/** @example voiceOfKey(GENERAL_MIDI_KIT, 38) // 'snare'; 20 gives 'key-20' */
export const voiceOfKey = (kit: KitMap, key: number): VoiceName => kit.voices[key] ?? `key-${key}`;

/** The first and last key of General MIDI's percussion map. */
export const GENERAL_MIDI_KEYS = { first: 35, last: 82 } as const;

/** Where keys for further rows are looked for: outside of General MIDI's, from the usual ones on. */
const KEYS_BESIDE: readonly number[] = [...span(22, 34), ...span(83, 127), ...span(0, 21)];

function span(from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}

/**
 * A key for a new row: one that its voice has by default, else the first outside of General MIDI's, that is not taken.
 * @example freeKey('snare:2', (key) => key === 38) // 40
 */
export function freeKey(row: VoiceName, isTaken: (key: number) => boolean): number {
  const wanted = [...usualKeys(voiceOfRow(row)), ...KEYS_BESIDE];
  return wanted.find((key) => !isTaken(key)) ?? (wanted[0] as number);
}

/** The key that a kit has for a row; undefined where it has none. The voice's usual key comes before others. */
export function keyOnKit(kit: KitMap, row: VoiceName): number | undefined {
  const usual = usualKeys(row).find((key) => kit.voices[key] === row);
  if (usual !== undefined) return usual;
  for (const [key, name] of Object.entries(kit.voices)) if (name === row) return Number(key);
  return undefined;
}

/**
 * The key that a new hit of this row is written with: the first the kit lists in General MIDI's order, else any of the kit's; where
 * the kit does not know the row, what would stand for it.
 */
export function keyOfVoice(kit: KitMap, row: VoiceName): number {
  const known = keyOnKit(kit, row);
  if (known !== undefined) return known;
  const unmapped = /^key-(\d+)$/.exec(voiceOfRow(row));
  if (unmapped) return Number(unmapped[1]);
  const instead = standIns(row)
    .map((name) => keyOnKit(kit, name))
    .find((key) => key !== undefined);
  return instead ?? usualKeys(voiceOfRow(row))[0] ?? 38;
}
