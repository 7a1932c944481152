import { breaksBrought, piecesBrought } from '../breaks/brought';
import { breakRowTest } from '../breaks/rows';
import type { Hit, HitId, Part } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { meterMapOf } from '../part/part-time';
import type { VoiceName } from '../row-names';
import { ticks } from '../units';
import { putCopies } from './copy';
import { atTick, keyInPart } from './place';
import { addRow, anotherRow } from './rows';

/**
 * Puts the rows of another part beside these, as rows of their own: strokes keep their distance in beats, counted from the first bar line
 * of both. Where this part has a row of a voice with hits already, the other's becomes another row of that voice. The part grows where it
 * is needed; tempo, meter, feel and kit are this part's.
 * @param bar where the other's first bar goes, from 0
 * @example rowsBeside(part, shaker, 0, newId).rows.map((r) => r.voice) // [..., 'shaker']
 */
export function rowsBeside(part: Part, other: Part, bar: number, newId: () => HitId): Part {
  const by = meterMapOf(part).barOf(bar).start - other.origin;
  const isBreak = breakRowTest(other);
  const played = new Set(part.hits.map((h) => h.voice));
  const struck = new Set(other.hits.map((h) => h.voice));
  const names = new Map<VoiceName, VoiceName>();
  let room = part;
  for (const { voice, ...settings } of other.rows) {
    if (!struck.has(voice)) continue;
    // What plays pieces of a recording is known by its name.
    const name = played.has(voice) && !isBreak(voice) ? anotherRow(room, voice) : voice;
    names.set(voice, name);
    room = addRow(room, name, settings);
  }
  const brought = piecesBrought(part, other);
  const copies = other.hits.map((hit): Hit => {
    const voice = names.get(hit.voice) ?? hit.voice;
    const { lane: _lane, ...rest } = atTick(brought(hit), ticks(hit.tick + by));
    return { ...copyOfHit(rest, newId()), voice, key: voice === hit.voice ? hit.key : keyInPart(room, voice) };
  });
  return breaksBrought(putCopies(room, copies, 'join').part, other, bar);
}
