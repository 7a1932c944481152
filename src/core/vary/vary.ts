import { evenOf, mixLong } from '../feel/random-values';
import { keyInPart } from '../commands/place';
import { withHits } from '../commands/copy';
import { homesOf, shifted } from '../homes/homes';
import type { Hit, HitId, Part } from '../model/part';
import { replaceHits } from '../part/diff';
import { lockTest } from '../part/locks';
import { meterMapOf } from '../part/part-time';
import { hashText, mix } from '../random';
import { familyOfVoice, type VoiceName } from '../row-names';
import { stepOf, type GridName } from '../time/grid';
import { clampVelocity, ticks, type Ticks } from '../units';

/** Small changes of some bars, so that what repeats does not sound copied. */

export const VARY_KINDS = ['leave', 'add', 'ghost', 'move', 'kin', 'dynamics'] as const;
export type VaryKind = (typeof VARY_KINDS)[number];

export interface VaryRequest {
  /** Bars from 0. */
  bars: readonly number[];
  /** How much, in percent of their strokes, 1 to 100. */
  amount: number;
  /** Rows that may change; all without it. */
  rows?: readonly VoiceName[];
  kinds: readonly VaryKind[];
  grid: GridName;
  seed: number;
}

/** One change: a hit goes, comes, or becomes another. */
export interface Variation {
  kind: VaryKind;
  /** The hit that it is about; null for one that comes. */
  hit: Hit | null;
  /** What is there instead; null where it goes. */
  to: Pick<Hit, 'voice' | 'tick' | 'velocity' | 'ghost'> | null;
}

/** Above this amount main strokes change too. */
const SPARES_UP_TO = 60;
/** A hit under this is soft. */
const SOFT = 75;
/** A main stroke of the hands is at least so loud. */
const MAIN = 85;
const GHOST = { low: 18, span: 14 } as const;

/** The strokes that carry a bar: its first kick, and loud ones of drums that hands strike on beats other than the first. */
export function mainHits(part: Part, bars: readonly number[]): Set<HitId> {
  const map = meterMapOf(part);
  const homes = homesOf(part).ticks;
  const wanted = new Set(bars);
  const main = new Set<HitId>();
  const kicked = new Set<number>();
  part.hits.forEach((hit, i) => {
    const home = ticks(homes[i] as number);
    const bar = map.barAt(home);
    if (!wanted.has(bar.index)) return;
    if (hit.voice.startsWith('kick') && !kicked.has(bar.index)) {
      kicked.add(bar.index);
      main.add(hit.id);
    }
    const beat = map.beatAt(bar, home);
    if (/^(snare|clap|rim)/.test(hit.voice) && hit.velocity >= MAIN && beat.start === home && beat.index > 0) main.add(hit.id);
  });
  return main;
}

/**
 * Changes for some bars: by seed, row and place alone, so that the same request gives the same, and a larger amount only adds to them. No
 * hit changes twice, no line gets two hits; locked hits stay, main strokes until much is asked for.
 */
export function varied(part: Part, { bars, amount, rows, kinds, grid, seed }: VaryRequest): Variation[] {
  const candidates = candidatesIn(part, { bars, rows, kinds, grid, seed }, amount <= SPARES_UP_TO ? mainHits(part, bars) : new Set());
  const homes = homesOf(part).ticks;
  const map = meterMapOf(part);
  const wanted = new Set(bars);
  const count = part.hits.filter((_, i) => wanted.has(map.barAt(ticks(homes[i] as number)).index)).length;
  const most = Math.max(1, Math.round((count * amount) / 100));
  const used = new Set<string>();
  const chosen: Variation[] = [];
  for (const { variation } of candidates.sort((a, b) => a.rank - b.rank)) {
    if (chosen.length >= most) break;
    const places = [variation.hit?.id, variation.to && `${variation.to.voice} ${variation.to.tick}`].filter((p) => p != null);
    if (places.some((p) => used.has(p))) continue;
    for (const p of places) used.add(p);
    chosen.push(variation);
  }
  return chosen;
}

interface Candidate {
  rank: number;
  variation: Variation;
}

function candidatesIn(
  part: Part,
  { bars, rows, kinds, grid, seed }: Omit<VaryRequest, 'amount' | 'rows'> & { rows: readonly VoiceName[] | undefined },
  spared: ReadonlySet<HitId>,
): Candidate[] {
  const map = meterMapOf(part);
  const homes = homesOf(part).ticks;
  const isLocked = lockTest(part);
  const wanted = new Set(bars);
  const allowed = new Set(rows ?? part.rows.map((r) => r.voice));
  const step = stepOf(grid);
  const taken = new Set(part.hits.flatMap((h, i) => [`${h.voice} ${Math.round((homes[i] as number) / step)}`]));
  const isFree = (voice: VoiceName, tick: number): boolean => !taken.has(`${voice} ${Math.round(tick / step)}`);
  const list: Candidate[] = [];
  const add = (variation: Variation, voice: VoiceName, tick: number, salt: number) => {
    if (kinds.includes(variation.kind))
      list.push({ rank: evenOf(mix(mix(mixLong(mix(seed, hashText(voice)), Math.round(tick)), salt), 7)), variation });
  };
  part.hits.forEach((hit, i) => {
    const home = ticks(homes[i] as number);
    if (!wanted.has(map.barAt(home).index) || !allowed.has(hit.voice) || isLocked(hit) || hit.choke || spared.has(hit.id)) return;
    const draw = (salt: number): number => evenOf(mix(mixLong(mix(seed, hashText(hit.voice)), hit.tick), salt));
    const is = { voice: hit.voice, tick: hit.tick, velocity: hit.velocity, ...(hit.ghost ? { ghost: true } : {}) };
    if (hit.velocity < SOFT) add({ kind: 'leave', hit, to: null }, hit.voice, hit.tick, 1);
    const by = draw(11) < 0.5 ? -step : step;
    const moved = ticks(hit.tick + by);
    if (isFree(hit.voice, moved) && wanted.has(map.barAt(moved).index))
      add({ kind: 'move', hit, to: { ...is, tick: moved } }, hit.voice, hit.tick, 2);
    const kin = part.rows
      .map((r) => r.voice)
      .filter(
        (v) =>
          v !== hit.voice && familyOfVoice(hit.voice) !== undefined && familyOfVoice(v) === familyOfVoice(hit.voice) && isFree(v, hit.tick),
      );
    if (kin.length > 0)
      add({ kind: 'kin', hit, to: { ...is, voice: kin[Math.floor(draw(12) * kin.length)] as VoiceName } }, hit.voice, hit.tick, 3);
    add({ kind: 'dynamics', hit, to: { ...is, velocity: clampVelocity(hit.velocity * (0.8 + 0.4 * draw(13))) } }, hit.voice, hit.tick, 4);
  });
  for (const voice of allowed) for (const bar of bars) addBetween(part, voice, map.barOf(bar), { step, isFree, add, seed });
  return list;
}

/** Strokes on free lines of a row that plays in the bar: softer than the row, or ghosts of a drum. */
function addBetween(
  part: Part,
  voice: VoiceName,
  bar: { start: Ticks; length: Ticks },
  {
    step,
    isFree,
    add,
    seed,
  }: {
    step: number;
    isFree: (voice: VoiceName, tick: number) => boolean;
    add: (v: Variation, voice: VoiceName, tick: number, salt: number) => void;
    seed: number;
  },
) {
  const own = part.hits.filter((h) => h.voice === voice && h.tick >= bar.start && h.tick < bar.start + bar.length && !h.choke);
  if (own.length === 0) return;
  const mean = own.reduce((sum, h) => sum + h.velocity, 0) / own.length;
  for (let at = 0; at < bar.length; at += step) {
    const tick = ticks(bar.start + at);
    if (!isFree(voice, tick)) continue;
    // Next to a stroke rather than far from any.
    if (!own.some((h) => Math.abs(h.tick - tick) <= 2 * step)) continue;
    const draw = evenOf(mix(mixLong(mix(seed, hashText(voice)), tick), 21));
    add({ kind: 'add', hit: null, to: { voice, tick, velocity: clampVelocity(mean * (0.7 + 0.2 * draw)) } }, voice, tick, 5);
    if (/^(snare|rim|tom-)/.test(voice))
      add(
        { kind: 'ghost', hit: null, to: { voice, tick, velocity: clampVelocity(GHOST.low + GHOST.span * draw), ghost: true } },
        voice,
        tick,
        6,
      );
  }
}

/** Makes the changes. */
export function applyVariations(part: Part, variations: readonly Variation[], newId: () => HitId): Part {
  const gone = new Set(variations.flatMap(({ hit }) => (hit ? [hit.id] : [])));
  const left = { ...part, hits: replaceHits(part.hits, gone, []) };
  const hits = variations.flatMap(({ hit, to }): Hit[] => {
    if (!to) return [];
    const key = hit?.voice === to.voice ? hit.key : keyInPart(part, to.voice);
    if (!hit) return [{ length: ticks(stepOf('1/32')), ...to, home: to.tick, placed: true, id: newId(), key }];
    return [{ ...shifted(hit, to.tick - hit.tick), ...to, key }];
  });
  return withHits(left, hits).part;
}
