import type { Part } from '../model/part';
import { rowsNamed } from '../part/rows';
import { allRowsOf, voiceOfRow, type VoiceName } from '../row-names';

type Rows = Pick<Part, 'rows'>;

/** Rows of the part that are rows of this voice. */
const rowsOfVoice = ({ rows }: Rows, voice: VoiceName): VoiceName[] => rows.map((r) => r.voice).filter((row) => voiceOfRow(row) === voice);

/** The voices that have more rows than one, in the part's order. */
export const voicesOfSeveralRows = (part: Rows): VoiceName[] =>
  [...new Set(part.rows.map((r) => voiceOfRow(r.voice)))].filter((voice) => rowsOfVoice(part, voice).length > 1);

/**
 * Takes a row into a scope's names, or out of them: where all rows of its voice are meant, the others stay by name.
 * @example toggleRow(part, ['snare:*'], 'snare:2') // ['snare']
 */
export function toggleRow(part: Rows, names: readonly VoiceName[], row: VoiceName): VoiceName[] {
  if (!rowsNamed(part, names).includes(row)) return [...names, row];
  const all = allRowsOf(row);
  return names.flatMap((name) => (name === all ? rowsOfVoice(part, voiceOfRow(row)) : [name])).filter((name) => name !== row);
}

/**
 * Names all rows of a voice, also those to come; where they are named so already, none.
 * @example toggleVoice(part, ['snare'], 'snare') // ['snare:*']
 */
export function toggleVoice(part: Rows, names: readonly VoiceName[], voice: VoiceName): VoiceName[] {
  const all = allRowsOf(voice);
  const own = new Set(rowsOfVoice(part, voice));
  const others = names.filter((name) => name !== all && !own.has(name));
  return names.includes(all) ? others : [...others, all];
}
