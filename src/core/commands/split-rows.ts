/** Commands that make rows of hits: some to a row of their own, a row doubled as a layer. */
import { keyOfVoice } from '../key-map';
import type { Feel } from '../model/feel';
import { compareHits, type Hit, type HitId, type Part, type Row } from '../model/part';
import { copyOfHit } from '../model/hit-shape';
import { labelOfRow } from '../part/rows';
import { clampVelocity } from '../units';
import { isOwnRow, ownRow, voiceOfRow, type VoiceName } from '../row-names';
import { anotherRow, withKeyFor } from './rows';

/** A part, and the rows that a command made. */
export interface MadeRows {
  part: Part;
  rows: readonly VoiceName[];
}

/** A row beside another one, right under it: of the same voice, as loud, in the scopes that name the first. */
function rowBeside(part: Part, row: VoiceName, newId: () => string): { part: Part; row: VoiceName } {
  const at = part.rows.findIndex((r) => r.voice === row);
  const { voice: _voice, name, locked: _locked, ...settings } = part.rows[at] as Row;
  const next = isOwnRow(row) ? ownRow(newId()) : anotherRow(part, voiceOfRow(row));
  const rows: Row[] = [...part.rows];
  rows.splice(at + 1, 0, { voice: next, ...settings, ...(name === undefined ? {} : { name: nameBeside(part, name) }) });
  return { part: { ...part, rows, kitMap: withKeyFor(part, next), feel: alsoIn(part.feel, row, next) }, row: next };
}

const LONGEST_NAME = 40;

/** @example nameBeside(part, 'Tin lid') // 'Tin lid 2' */
function nameBeside(part: Pick<Part, 'rows'>, name: string): string {
  const stem = name.replace(/ \d+$/, '').slice(0, LONGEST_NAME - 5);
  const taken = new Set(part.rows.map((r) => labelOfRow(part, r.voice)));
  let n = 2;
  while (taken.has(`${stem} ${n}`)) n++;
  return `${stem} ${n}`;
}

/** Moves that are for a row by name are for another one, too. */
function alsoIn(feel: Feel, row: VoiceName, next: VoiceName): Feel {
  if (!feel.moves.some((m) => m.scope?.voices?.includes(row))) return feel;
  return {
    ...feel,
    moves: feel.moves.map((m) => (m.scope?.voices?.includes(row) ? { ...m, scope: { ...m.scope, voices: [...m.scope.voices, next] } } : m)),
  };
}

/**
 * Gives hits a row of their own, each row's hits one: of the same voice, with a key of its own. Times, velocities and all else stay.
 * A row whose hits are all meant is left as it is: it has its own already.
 * @param newId names a further own row
 * @example hitsToOwnRow(part, new Set(['40@0']), newId).rows // ['snare:2']
 */
export function hitsToOwnRow(part: Part, ids: ReadonlySet<HitId>, newId: () => string): MadeRows {
  const stay = new Set(part.hits.filter((h) => !ids.has(h.id)).map((h) => h.voice));
  const from = [...new Set(part.hits.filter((h) => ids.has(h.id)).map((h) => h.voice))].filter((row) => stay.has(row));
  const target = new Map<VoiceName, { row: VoiceName; key: number }>();
  let next = part;
  for (const row of from) {
    const made = rowBeside(next, row, newId);
    next = made.part;
    target.set(row, { row: made.row, key: keyOfVoice(next.kitMap, made.row) });
  }
  if (target.size === 0) return { part, rows: [] };
  const moved = (hit: Hit): Hit => {
    const to = ids.has(hit.id) ? target.get(hit.voice) : undefined;
    return to ? { ...hit, voice: to.row, key: to.key } : hit;
  };
  return { part: { ...next, hits: next.hits.map(moved).sort(compareHits) }, rows: [...target.values()].map((t) => t.row) };
}

/** The hits of a row up to a velocity, which a split by velocity gives a row of their own. */
export const softHits = (part: Pick<Part, 'hits'>, row: VoiceName, upTo: number): Set<HitId> =>
  new Set(part.hits.filter((h) => h.voice === row && h.velocity <= upTo).map((h) => h.id));

/** Where soft hits of a row end: below the widest gap between its velocities; 64 where all are alike. @example of 30, 38, 96, 110: 38 */
export function softEnd(part: Pick<Part, 'hits'>, row: VoiceName): number {
  const levels = [...new Set(part.hits.filter((h) => h.voice === row).map((h) => h.velocity as number))].sort((a, b) => a - b);
  let [end, widest] = [64, 0];
  levels.slice(1).forEach((level, i) => {
    const below = levels[i] as number;
    if (level - below > widest) [end, widest] = [below, level - below];
  });
  return end;
}

/**
 * Doubles a row as a layer: a copy of each hit on a row of its own, its velocity `percent` of the hit's (1 to 200), limited to 1 to 127.
 * Nudges, ornaments and homes are copied too; locks are not.
 * @example layerRow(part, 'hat-closed', 60, newId).rows // ['hat-closed:2']
 */
export function layerRow(part: Part, row: VoiceName, percent: number, newId: () => string): MadeRows {
  if (!part.rows.some((r) => r.voice === row)) return { part, rows: [] };
  const made = rowBeside(part, row, newId);
  const key = keyOfVoice(made.part.kitMap, made.row);
  const copies = part.hits
    .filter((h) => h.voice === row)
    .map(({ locked: _locked, ...hit }): Hit => ({
      ...copyOfHit(hit, newId()),
      voice: made.row,
      key,
      velocity: clampVelocity(Math.floor((hit.velocity * percent) / 100 + 0.5)),
    }));
  return { part: { ...made.part, hits: [...made.part.hits, ...copies].sort(compareHits) }, rows: [made.row] };
}

/** Adds an empty row of the user's own, which sounds like a voice until it has a sound. It stands on top, with a free key. */
export function addOwnRow(part: Part, id: string, name: string, like: VoiceName): MadeRows {
  const row = ownRow(id);
  const named = name.trim().slice(0, LONGEST_NAME) || nameBeside(part, 'Own row');
  return { part: { ...part, rows: [{ voice: row, name: named, like }, ...part.rows], kitMap: withKeyFor(part, row) }, rows: [row] };
}
