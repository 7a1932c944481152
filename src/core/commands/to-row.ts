/** Commands that move or copy hits to another row of the part. */
import { replaceHits } from '../part/diff';
import { withoutLocked } from '../part/locks';
import type { Hit, HitId, Part } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { breakOfRow } from '../breaks/rows';
import type { VoiceName } from '../row-names';
import { putCopies, type Copied, type Onto } from './copy';
import { keyInPart } from './place';

/** A hit changed to another row: it takes that row's key, and keeps its slice only on a row of a break. */
function onRow(part: Part, hit: Hit, row: VoiceName): Hit {
  const { lane: _lane, piece, ...rest } = hit;
  const lane = part.hits.find((h) => h.voice === row)?.lane;
  return {
    ...rest,
    voice: row,
    key: keyInPart(part, row),
    ...(lane === undefined ? {} : { lane }),
    ...(piece !== undefined && breakOfRow(part, row) ? { piece } : {}),
  };
}

const chosenFor = (part: Part, ids: ReadonlySet<HitId>, row: VoiceName): Hit[] => {
  const free = withoutLocked(part, ids).ids;
  return part.hits.filter((h) => free.has(h.id) && h.voice !== row);
};

/**
 * Moves hits to another row with their times and velocities. Locked hits stay. If the row already has a hit on that step, `onto` decides
 * whether it is replaced or the moved hit stays in its own row.
 * @example moveToRow(part, new Set(['h1']), 'rim', 'replace').part // the hit is one of the rim
 */
export function moveToRow(part: Part, ids: ReadonlySet<HitId>, row: VoiceName, onto: Onto): Copied {
  const chosen = chosenFor(part, ids, row);
  if (chosen.length === 0) return { part, ids: [], replaced: 0, leftOut: 0 };
  const rest: Part = { ...part, hits: replaceHits(part.hits, new Set(chosen.map((h) => h.id)), []) };
  const put = putCopies(
    rest,
    chosen.map((hit) => onRow(part, hit, row)),
    onto,
  );
  const moved = new Set(put.ids);
  const stayed = chosen.filter((h) => !moved.has(h.id));
  return stayed.length === 0 ? put : { ...put, part: { ...put.part, hits: replaceHits(put.part.hits, new Set(), stayed) } };
}

/** Copies hits to another row by the same rules. Locked hits are copied too; the copies are unlocked. */
export function copyToRow(part: Part, ids: ReadonlySet<HitId>, row: VoiceName, onto: Onto, newId: () => HitId): Copied {
  const copies = part.hits
    .filter((h) => ids.has(h.id) && h.voice !== row)
    .map((hit): Hit => {
      const { locked: _free, ...rest } = onRow(part, hit, row);
      return copyOfHit(rest, newId());
    });
  return putCopies(part, copies, onto);
}
