/** How rows are named: by their voice and their number among its rows. */

/**
 * A row by name. The first row of a voice is named by the voice (`snare`), further ones are numbered (`snare:2`), rows of the user's
 * own are `own:<id>`; an unmapped MIDI key k is the voice `key-k`.
 */
export type VoiceName = string;

export const LONGEST_VOICE = 60;

export const isVoiceName = (v: unknown): boolean => typeof v === 'string' && v.length > 0 && v.length <= LONGEST_VOICE;

const OWN = 'own:';
const NUMBERED = /^(.*):(\d+)$/;

/** A row that the user made, with a name and a sound of its own. */
export const isOwnRow = (row: VoiceName): boolean => row.startsWith(OWN);
export const ownRow = (id: string): VoiceName => `${OWN}${id}`;

/** The voice that a row plays. @example voiceOfRow('snare:2') // 'snare'; an own row is a voice by itself */
export const voiceOfRow = (row: VoiceName): VoiceName => (isOwnRow(row) ? row : (NUMBERED.exec(row)?.[1] ?? row));

/** Which row of its voice a row is, from 1. @example numberOfRow('snare:2') // 2 */
export const numberOfRow = (row: VoiceName): number => (isOwnRow(row) ? 1 : Number(NUMBERED.exec(row)?.[2] ?? 1));

/** The name for another row of a voice. @example nextRow(new Set(['snare']), 'snare') // 'snare:2' */
export function nextRow(rows: ReadonlySet<VoiceName>, voiceName: VoiceName): VoiceName {
  if (!rows.has(voiceName)) return voiceName;
  let n = 2;
  while (rows.has(`${voiceName}:${n}`)) n++;
  return `${voiceName}:${n}`;
}

const ALL_ROWS = ':*';

/** All rows of a row's voice, as a scope names them. @example allRowsOf('snare:2') // 'snare:*' */
export const allRowsOf = (row: VoiceName): VoiceName => `${voiceOfRow(row)}${ALL_ROWS}`;

/** The voice of which a scope names all rows; null for a name that is one row. @example voiceOfAll('snare:*') // 'snare' */
export const voiceOfAll = (name: VoiceName): VoiceName | null => (name.endsWith(ALL_ROWS) ? name.slice(0, -ALL_ROWS.length) : null);

/** Whether some names of a scope mean a row: by itself, or with all rows of its voice. */
export const namesRow = (names: ReadonlySet<VoiceName>, row: VoiceName): boolean => names.has(row) || names.has(allRowsOf(row));

/** Strokes that General MIDI has no key for, each with what stands for it. */
const FALLBACKS: Readonly<Record<VoiceName, VoiceName>> = {
  'ride-edge': 'ride',
  'hat-half': 'hat-open',
  'hat-shoulder': 'hat-closed',
  'hat-splash': 'hat-open',
  'tom-rim': 'rim',
  'snare-rimshot': 'snare',
  'snare-edge': 'snare',
  'snare-sweep': 'snare',
};

/** The voice that stands for another: its fallback; undefined where there is none. @example fallbackOf('hat-half') // 'hat-open' */
export const fallbackOf = (voice: VoiceName): VoiceName | undefined =>
  Object.hasOwn(FALLBACKS, voiceOfRow(voice)) ? FALLBACKS[voiceOfRow(voice)] : undefined;

/** What may play a row where it is not known itself, nearest first. @example standIns('hat-half:2') // ['hat-half', 'hat-open'] */
export function standIns(row: VoiceName): VoiceName[] {
  const list: VoiceName[] = [];
  const own = voiceOfRow(row);
  if (own !== row) list.push(own);
  for (let next = fallbackOf(own); next !== undefined; next = fallbackOf(next)) list.push(next);
  return list;
}

const FAMILIES: readonly (readonly [prefix: string, family: string])[] = [
  ['hat-', 'hat'],
  ['tom-', 'tom'],
  ['ride', 'ride'],
  ['snare', 'snare'],
  ['kick', 'kick'],
  ['conga-', 'conga'],
  ['bongo-', 'bongo'],
  ['timbale-', 'timbale'],
];

/** The family that a row belongs to, in the singular; undefined where it stands alone. @example familyOfVoice('hat-open') // 'hat' */
export const familyOfVoice = (row: VoiceName): string | undefined => FAMILIES.find(([prefix]) => row.startsWith(prefix))?.[1];
