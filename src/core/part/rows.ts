import { GENERAL_MIDI_KEYS, GENERAL_MIDI_KIT } from '../key-map';
import { namesRow, standIns, voiceOfRow, type VoiceName } from '../row-names';
import { generalMidiKeys, labelOfVoice } from '../voices';
import type { Part } from '../model/part';

type Rows = Pick<Part, 'rows'>;

/** What a row is called: the user's name for it, else its voice's. */
export function labelOfRow({ rows }: Rows, row: VoiceName): string {
  return rows.find((r) => r.voice === row)?.name ?? labelOfVoice(row);
}

/** The voice whose sound plays a row: its own, or the one that an own row is like. @example soundOfRow(part, 'snare:2') // 'snare' */
export function soundOfRow({ rows }: Rows, row: VoiceName): VoiceName {
  return rows.find((r) => r.voice === row)?.like ?? voiceOfRow(row);
}

/** The rows that some names of a scope mean, in the part's order. @example rowsNamed(part, ['snare:*']) // ['snare', 'snare:2'] */
export function rowsNamed({ rows }: Rows, names: readonly VoiceName[]): VoiceName[] {
  const wanted = new Set(names);
  return rows.map((r) => r.voice).filter((row) => namesRow(wanted, row));
}

export const isGeneralMidiKey = (key: number): boolean => key >= GENERAL_MIDI_KEYS.first && key <= GENERAL_MIDI_KEYS.last;

/**
 * The key of General MIDI's percussion map that plays a row: the hit's own where the map means this voice by it, else the first of the
 * voice, or of what stands for it. Null where nothing there is like it.
 * @example generalMidiKey(part, 'hat-half', 26) // 46
 */
export function generalMidiKey(part: Rows, row: VoiceName, key: number): number | null {
  const sound = soundOfRow(part, row);
  if (GENERAL_MIDI_KIT.voices[key] === sound) return key;
  return [sound, ...standIns(sound)].map((name) => generalMidiKeys(name)[0]).find((found) => found !== undefined) ?? null;
}
