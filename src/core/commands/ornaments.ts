/** Commands on ornaments: given to hits, changed, written out as plain hits, and found again in plain hits. */
import { writtenPerformance } from '../perform/perform';
import type { Ornament } from '../model/ornament';
import { gatherStrokes } from '../ornament/gather';
import { strokesOfHit } from '../ornament/strokes';
import { variationText } from '../song/variation';
import type { MeterMap } from '../time/meter-map';
import { clamp, milliseconds, roundHalfUp, ticks, velocity, type Ticks } from '../units';
import { replaceHits } from '../part/diff';
import type { Hit, HitId, Part } from '../model/part';
import { shapedHit } from '../model/hit-shape';
import { endOfPart, meterMapOf, tempoMapOf } from '../part/part-time';
import { provisionalHome, withoutReading } from '../homes/homes';
import { withHits } from './copy';
import { changeHits, rowsWith } from './hits';

/** Gives hits an ornament, in place of any that they carry; undefined takes it away. Chokes sound nothing: they carry none. */
export const setOrnament = (part: Part, ids: ReadonlySet<HitId>, ornament: Ornament | undefined): Part =>
  withEchoRows(
    changeHits(part, ids, (hit) => {
      if (hit.choke || hit.ornament === ornament) return hit;
      const { ornament: _was, ...rest } = hit;
      return ornament ? { ...rest, ornament } : rest;
    }),
    ornament,
  );

/** A voice that repeats others has a row, so that it can be seen and muted. */
function withEchoRows(part: Part, ornament: Partial<Ornament> | undefined): Part {
  const voice = ornament && 'voice' in ornament ? ornament.voice : undefined;
  return voice === undefined || part.rows.some((r) => r.voice === voice) ? part : { ...part, rows: rowsWith(part.rows, [voice]) };
}

/** Changes members of the ornaments of one kind that these hits carry; a member set to undefined goes. */
export function changeOrnament<K extends Ornament['kind']>(
  part: Part,
  ids: ReadonlySet<HitId>,
  kind: K,
  change: Partial<Extract<Ornament, { kind: K }>>,
): Part {
  const changed = changeHits(part, ids, (hit) => {
    if (hit.ornament?.kind !== kind) return hit;
    const next = { ...hit.ornament, ...change } as Record<string, unknown>;
    for (const name of Object.keys(next)) if (next[name] === undefined) delete next[name];
    return shapedHit(hit, { ornament: next as unknown as Ornament });
  });
  return withEchoRows(changed, change as Partial<Ornament>);
}

/** What came of writing ornaments out: the part, and all hits that they became. */
export interface Expanded {
  part: Part;
  ids: HitId[];
}

/**
 * Writes the strokes of ornaments out as plain hits, where they are written: the feel then treats each for itself. Every stroke keeps
 * its hit's nudge and marks. A stroke before the first tick stands there, nudged to where it is heard; what lies behind the end is
 * left out.
 * @param isHeard which strokes become hits, where a feel moves strokes across the end; those before the end as written without it
 * @example a flam of one grace stroke becomes two hits
 */
export function expandOrnaments(
  part: Part,
  ids: ReadonlySet<HitId>,
  newId: () => HitId,
  isHeard?: (hit: Hit, stroke: number) => boolean,
): Expanded {
  const written = writtenPerformance(part);
  const end = endOfPart(part);
  const first = ticks(Math.min(0, part.origin));
  const tempo = tempoMapOf(part);
  const map = meterMapOf(part);
  const gone = new Set<HitId>();
  const added: Hit[] = [];
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id) || !hit.ornament || hit.choke) return;
    const { ornament: _ornament, ...plain } = hit;
    gone.add(hit.id);
    strokesOfHit(part, written, i).forEach((stroke, k) => {
      const tick = ticks(roundHalfUp(stroke.tick));
      // Grace notes share the main hit's home; every other stroke gets its own.
      const home =
        hit.ornament?.kind === 'flam' ? hit.home : homeInPart(part, map, ticks(roundHalfUp(hit.home + stroke.tick - hit.tick)), hit);
      const base: Hit = k === 0 ? plain : { ...withoutReading(plain), id: newId(), home, variation: variationText(hit, k) };
      if (k > 0 && !(isHeard ? isHeard(hit, k) : tick < end)) return;
      const late = tick < first ? tempo.between(first, tick) : 0;
      const nudge = late === 0 ? base.nudge : { ms: milliseconds((base.nudge?.ms ?? 0) + late), velocity: base.nudge?.velocity ?? 0 };
      added.push({
        ...base,
        ...(nudge ? { nudge } : {}),
        voice: stroke.voice,
        key: stroke.key,
        tick: ticks(clamp(tick, first, end - 1)),
        velocity: velocity(stroke.velocity),
        length: ticks(Math.max(1, roundHalfUp(stroke.length))),
      });
    });
  });
  if (gone.size === 0) return { part, ids: [] };
  return withHits({ ...part, hits: replaceHits(part.hits, gone, []) }, added);
}

/** The line nearest to a stroke. One that is nearest to the end keeps its hit's line: what belongs to the end is not played. */
export function homeInPart(part: Part, map: MeterMap, tick: Ticks, hit: Hit): Ticks {
  const home = provisionalHome(map, tick);
  return home < endOfPart(part) ? home : hit.home;
}

/**
 * Finds rolls and flams among plain hits and makes one hit of each; what is none stays. Times keep within 4 ms and velocities
 * within 8 of what they were.
 */
export function gatherOrnaments(part: Part, ids: ReadonlySet<HitId>): Expanded {
  const gone = new Set<HitId>();
  const carriers: Hit[] = [];
  for (const { hits, main, ornament } of gatherStrokes(
    part,
    part.hits.filter((h) => ids.has(h.id) && !h.ornament && !h.choke && !h.locked),
  )) {
    for (const hit of hits) gone.add(hit.id);
    carriers.push({ ...main, ornament });
  }
  if (carriers.length === 0) return { part, ids: [] };
  return { part: { ...part, hits: replaceHits(part.hits, gone, carriers) }, ids: carriers.map((h) => h.id) };
}
