/** Commands on hits: each takes a part and gives the changed part back; nothing else happens. */
import { clamp, clampVelocity, milliseconds, ticks, TICKS_PER_QUARTER, withoutSign, type Milliseconds, type Ticks } from '../units';
import { keyOfVoice } from '../key-map';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import { carryHomes, provisionalHome } from '../homes/homes';
import { carryVoices, indicesByVoice } from '../part/by-voice';
import { replaceHits } from '../part/diff';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { compareHits, type Hit, type HitId, type Part, type Row } from '../model/part';
import { shapedHit } from '../model/hit-shape';

/** No hand moves a hit further than this; a quarter at 60 BPM is four times as long. */
export const MAX_NUDGE_MS = 250;

/** Changes each of the given hits; one that comes back unchanged stays the same object. */
export function changeHits(part: Part, ids: ReadonlySet<HitId>, change: (hit: Hit) => Hit): Part {
  let touched = false;
  let moved = false;
  let replaced = false;
  const hits = part.hits.map((hit) => {
    if (!ids.has(hit.id)) return hit;
    const next = change(hit);
    if (next !== hit) touched = true;
    if (next.tick !== hit.tick) moved = true;
    if (next.voice !== hit.voice || next.home !== hit.home || next.sure !== hit.sure || next.decided !== hit.decided) replaced = true;
    return next;
  });
  if (!touched) return part;
  // Velocities are swept at every frame: where nothing was moved, nothing is looked up anew.
  if (!moved && !replaced) {
    carryVoices(part.hits, hits);
    carryHomes(part.hits, hits);
  }
  return { ...part, hits: moved ? hits.sort(compareHits) : hits };
}

/** Sets velocities, rounded half up and limited to 1..127. */
export const setVelocities = (part: Part, ids: ReadonlySet<HitId>, velocity: (hit: Hit) => number): Part =>
  changeHits(part, ids, (hit) => {
    const next = clampVelocity(velocity(hit));
    return next === hit.velocity ? hit : { ...hit, velocity: next };
  });

/** Adds to the written velocity of each hit: the shape of a selection stays while none meets a limit. */
export const addVelocity = (part: Part, ids: ReadonlySet<HitId>, delta: number): Part =>
  setVelocities(part, ids, (hit) => hit.velocity + delta);

/** Sets each hit's nudge in ms, limited to +-250; a nudge of nothing is removed. */
export const setNudges = (part: Part, ids: ReadonlySet<HitId>, ms: (hit: Hit) => number): Part =>
  changeHits(part, ids, (hit) => withNudge(hit, milliseconds(ms(hit))));

/** Moves hits off the grid by hand: early is negative. */
export const addNudge = (part: Part, ids: ReadonlySet<HitId>, ms: Milliseconds): Part =>
  setNudges(part, ids, (hit) => (hit.nudge?.ms ?? 0) + ms);

/** Moves hits by ticks, kept as the ms that these take at each hit's tempo. */
export function addNudgeTicks(part: Part, ids: ReadonlySet<HitId>, by: number): Part {
  const tempo = tempoMapOf(part);
  return setNudges(part, ids, (hit) => (hit.nudge?.ms ?? 0) + tempo.between(hit.tick, ticks(hit.tick + by)));
}

/** Turns early into late and the reverse, by the same ms. */
export const mirrorNudges = (part: Part, ids: ReadonlySet<HitId>): Part => setNudges(part, ids, (hit) => -(hit.nudge?.ms ?? 0));

function withNudge(hit: Hit, ms: Milliseconds): Hit {
  // A hundredth of a millisecond is far under one sample; more digits would only make files long.
  const next = milliseconds(withoutSign(Math.round(clamp(ms, -MAX_NUDGE_MS, MAX_NUDGE_MS) * 100) / 100));
  if (next === (hit.nudge?.ms ?? 0)) return hit;
  const velocity = hit.nudge?.velocity ?? 0;
  return shapedHit(hit, { nudge: next !== 0 || velocity !== 0 ? { ms: next, velocity } : undefined });
}

export function removeHits(part: Part, ids: ReadonlySet<HitId>): Part {
  if (!part.hits.some((hit) => ids.has(hit.id))) return part;
  return { ...part, hits: replaceHits(part.hits, ids, []) };
}

export interface NewHit {
  id: HitId;
  voice: VoiceName;
  tick: Ticks;
  velocity: number;
  ghost?: boolean;
  /** The line that it belongs to; without it the one that it stands on, or the nearest sixteenth. */
  home?: Ticks;
}

/** Places a hit, a sixteenth long; its key is the one the voice's other hits have, else the kit's. A missing row is added. */
export function addHit(part: Part, hit: NewHit): Part {
  return addHits(part, [hit]);
}

/** Places several hits in one go. */
export function addHits(part: Part, added: readonly NewHit[]): Part {
  if (added.length === 0) return part;
  const voices = new Set(added.map((h) => h.voice));
  const map = meterMapOf(part);
  const siblings = new Map([...voices].map((voice) => [voice, indicesByVoice(part.hits).get(voice)?.[0]]));
  const written = added.map((hit): Hit => {
    const index = siblings.get(hit.voice);
    const sibling = index === undefined ? undefined : part.hits[index];
    const home = hit.home ?? provisionalHome(map, hit.tick);
    return {
      id: hit.id,
      voice: hit.voice,
      key: sibling?.key ?? keyOfVoice(part.kitMap, hit.voice),
      tick: hit.tick,
      length: ticks(TICKS_PER_QUARTER / 4),
      velocity: clampVelocity(hit.velocity),
      home,
      ...(home === hit.tick ? { placed: true } : {}),
      ...(hit.ghost ? { ghost: true } : {}),
      ...(sibling?.lane ? { lane: sibling.lane } : {}),
    };
  });
  return { ...part, rows: rowsWith(part.rows, voices), hits: replaceHits(part.hits, NOBODY, written) };
}

const NOBODY: ReadonlySet<HitId> = new Set();

/** The rows, with one for each of these voices: a missing one goes before the first row that comes after it in the kit's order. */
export function rowsWith(rows: readonly Row[], voices: Iterable<VoiceName>): readonly Row[] {
  const next = [...rows];
  for (const voice of voices) {
    if (next.some((r) => r.voice === voice)) continue;
    const at = next.findIndex((r) => compareVoices(r.voice, voice) > 0);
    next.splice(at < 0 ? next.length : at, 0, { voice });
  }
  return next.length === rows.length ? rows : next;
}

/** Hits at the very place of another one of their voice: all but the loudest of each place (the first of equals). */
export function duplicatesIn(part: Part, ids: ReadonlySet<HitId>): Set<HitId> {
  const kept = new Map<string, Hit>();
  const spare = new Set<HitId>();
  for (const hit of part.hits) {
    if (!ids.has(hit.id)) continue;
    const place = `${hit.voice}@${hit.tick}`;
    const other = kept.get(place);
    if (!other) kept.set(place, hit);
    else if (hit.velocity > other.velocity) {
      spare.add(other.id);
      kept.set(place, hit);
    } else spare.add(hit.id);
  }
  return spare;
}
