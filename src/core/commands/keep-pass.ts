import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { performPart } from '../perform/perform';
import { soundingPart } from '../song/sounding';
import { writtenOut } from './moves';
import { ticksOfBars } from './settings';

/**
 * A part as it sounded in a pass of some bars that were looped, written out: the hits that sounded, where and how loud; without feel,
 * chance, passes and cycles, so every pass sounds the same from now on. Muted hits stay as they are.
 * @param from bars from 0, `to` not included
 */
export function keptPass(part: Part, { from, to, pass }: { from: number; to: number; pass: number }, newId: () => HitId): Part {
  const sounding = soundingPart(part, pass);
  const { start, end } = ticksOfBars(part, from, to);
  const known = new Set(part.hits.map((h) => h.id));
  const plain = sounding.hits.map(({ chance: _chance, passes: _passes, ...hit }): Hit =>
    known.has(hit.id) ? hit : copyOfHit(hit, newId()),
  );
  const performed = performPart({ ...sounding, round: { pass, shift: (pass - 1) * (end - start) } });
  const { everyPass: _every, ...written } = writtenOut({ ...sounding, hits: plain }, performed);
  const muted = part.hits.filter((h) => h.muted).map(({ chance: _chance, passes: _passes, ...hit }): Hit => hit);
  return {
    ...written,
    hits: [...written.hits, ...muted].sort(compareHits),
    rows: written.rows.map(({ cycle: _cycle, ...row }) => row),
  };
}
