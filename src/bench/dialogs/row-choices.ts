import { anotherRow } from '@/core/commands/rows';
import type { Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import type { VoiceName } from '@/core/row-names';
import { compareVoices, labelOfVoice, VOICES } from '@/core/voices';

/** What a key can be given to: the part's rows, and a further row of each voice. `now` is among them, whatever it is. */
export function rowChoices(part: Pick<Part, 'rows'>, now?: VoiceName): { value: string; text: string }[] {
  const present = part.rows.map((r) => r.voice);
  const rows = [
    ...new Set([...present, ...VOICES, ...VOICES.map((voice) => anotherRow(part, voice)), ...(now === undefined ? [] : [now])]),
  ].sort(compareVoices);
  return rows.map((value) => ({ value, text: present.includes(value) ? labelOfRow(part, value) : labelOfVoice(value) }));
}
