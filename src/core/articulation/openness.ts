import type { HatSettings } from '../model/take';
import { voiceOfRow, type VoiceName } from '../row-names';

export const USUAL_HAT: HatSettings = { closedFrom: 90, openBelow: 40 };

export type Openness = 'closed' | 'half' | 'open';

const pressed = ({ turned }: HatSettings, value: number): number => (turned ? 127 - value : value);

/** @example opennessOf(USUAL_HAT, 64) // 'half' */
export function opennessOf(settings: HatSettings, value: number): Openness {
  const by = pressed(settings, value);
  return by >= settings.closedFrom ? 'closed' : by >= settings.openBelow ? 'half' : 'open';
}

/** Converts a pedal value to openness; `turned` is for pedals that send 0 when pressed. @example opennessOfPedal(127) // 0: pressed */
export const opennessOfPedal = (value: number, turned = false): number => (turned ? value : 127 - value);

/** The value of controller 4 for an openness: 127 when the pedal is pressed. */
export const pedalOfOpenness = (openness: number): number => 127 - openness;

/** Whether a row is a hi-hat struck by hand, which can be more or less open. */
export const isHat = (row: VoiceName): boolean => /^hat-(?!splash|pedal)/.test(voiceOfRow(row));

/** The hi-hat voice for each degree of openness. */
export const BY_OPENNESS: Readonly<Record<Openness, VoiceName>> = { closed: 'hat-closed', half: 'hat-half', open: 'hat-open' };

/** The hi-hat voice that matches an openness; other rows are returned unchanged. @example hatOf('hat-closed', 127) // 'hat-open' */
export function hatOf(row: VoiceName, openness: number | undefined): VoiceName {
  if (openness === undefined || !Object.values(BY_OPENNESS).includes(voiceOfRow(row))) return row;
  const voice = BY_OPENNESS[opennessOf(USUAL_HAT, pedalOfOpenness(openness))];
  return voice === voiceOfRow(row) ? row : voice;
}
