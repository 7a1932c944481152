import { MOST_PIECES } from '@/core/model/break';
import { COMPANION_MS, MOST_COMPANIONS, PART_FORMAT, type Hit } from '@/core/model/part';
import { fieldsAfter, HIT_FIELDS } from '@/core/model/fields';
import { MOST_PASSES } from '@/core/model/song';
import { MAX_NUDGE_MS } from '@/core/commands/hits';
import { MAX_BARS, MAX_QUARTERS, MOST_TRACKS } from '@/core/limits';
import { QUALITY, type Quality } from '@/core/shaping/qualities';
import { ORNAMENTS } from '@/core/ornament/all';
import { TICKS_PER_QUARTER, TICKS_PER_WHOLE } from '@/core/units';
import { isVoiceName } from '@/core/row-names';

/** The rules of hits, as plain functions: they run over 12,000 of them whenever a part is opened. */

export const LAST_TICK = MAX_QUARTERS * TICKS_PER_QUARTER;

const isObject = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);
const isWhole = (n: unknown, low: number, high: number): boolean => Number.isInteger(n) && (n as number) >= low && (n as number) <= high;
const LONGEST_ID = 120;
const isText = (s: unknown): boolean => typeof s === 'string' && s.length > 0 && s.length <= LONGEST_ID;
/** An id, perhaps with the number of a stroke behind it. */
const isVariation = (s: unknown): boolean => typeof s === 'string' && s.length > 0 && s.length <= LONGEST_ID + 5;

const isTick = (v: unknown): boolean => isWhole(v, -LAST_TICK, LAST_TICK);
/** A hit at the very end may belong to the bar line after it; no bar is longer than 64 whole notes. */
const LONGEST_BAR = 64 * TICKS_PER_WHOLE;
const isLine = (v: unknown): boolean => isWhole(v, -LAST_TICK - LONGEST_BAR, LAST_TICK + LONGEST_BAR);
const isFlag = (v: unknown): boolean => v === undefined || typeof v === 'boolean';
const isController = (v: unknown): boolean => v === undefined || isWhole(v, 0, 127);
const isWithin = (v: unknown, q: Quality): boolean =>
  v === undefined || (Number.isFinite(v) && (v as number) >= q.min && (v as number) <= q.max && (q.digits > 0 || Number.isInteger(v)));

/** Each member of a hit with its rule. A plain loop: a schema for each of 12,000 hits would hold up opening a part noticeably. */
const HIT_RULES: Readonly<Record<keyof Hit, (v: unknown) => boolean>> = {
  id: isText,
  voice: isVoiceName,
  key: (v) => isWhole(v, 0, 127),
  tick: isTick,
  length: (v) => isWhole(v, 0, LAST_TICK),
  velocity: (v) => isWhole(v, 1, 127),
  ghost: isFlag,
  choke: isFlag,
  muted: isFlag,
  locked: isFlag,
  alone: isFlag,
  pan: (v) => isWithin(v, QUALITY.pan),
  pitch: (v) => isWithin(v, QUALITY.pitch),
  brightness: (v) => isWithin(v, QUALITY.brightness),
  nudge: (v) => v === undefined || isNudge(v),
  ornament: (v) => v === undefined || isOrnament(v),
  companions: (v) => v === undefined || (Array.isArray(v) && v.length > 0 && v.length <= MOST_COMPANIONS && v.every(isCompanion)),
  openness: isController,
  position: isController,
  variation: (v) => v === undefined || isVariation(v),
  home: isLine,
  sure: (v) => v === undefined || (Number.isFinite(v) && (v as number) >= 0 && (v as number) <= 1),
  other: (v) => v === undefined || isLine(v),
  decided: isFlag,
  placed: isFlag,
  chance: (v) => v === undefined || isWhole(v, 1, 99),
  passes: (v) => v === undefined || isPasses(v),
  lane: (v) => v === undefined || isWhole(v, 0, 16 * MOST_TRACKS),
  piece: (v) => v === undefined || isWhole(v, 0, MOST_PIECES - 1),
};

function isCompanion(v: unknown): boolean {
  return (
    isObject(v) &&
    (v.kind === 'pedal' || v.kind === 'pressure') &&
    isWhole(v.value, 0, 127) &&
    Number.isFinite(v.aheadMs) &&
    (v.aheadMs as number) >= 0 &&
    (v.aheadMs as number) <= COMPANION_MS &&
    Object.keys(v).length === 3
  );
}

function isPasses(v: unknown): boolean {
  if (!isObject(v) || !isWhole(v.every, 2, MOST_PASSES) || !Array.isArray(v.at) || Object.keys(v).length !== 2) return false;
  const at = v.at as unknown[];
  return at.length > 0 && at.every((n, i) => isWhole(n, 1, v.every as number) && (i === 0 || (n as number) > (at[i - 1] as number)));
}

function isNudge(v: unknown): boolean {
  const n = v as { ms?: unknown; velocity?: unknown } | null;
  return (
    typeof n === 'object' &&
    n !== null &&
    Number.isFinite(n.ms) &&
    Math.abs(n.ms as number) <= MAX_NUDGE_MS &&
    isWhole(n.velocity, -126, 126)
  );
}

/** The members of each kind of ornament with their rules. */
const ORNAMENT_RULES = new Map(ORNAMENTS.map((spec) => [spec.kind as string, Object.entries<(v: unknown) => boolean>(spec.members)]));

function isOrnament(v: unknown): boolean {
  if (!isObject(v)) return false;
  const { kind, ...members } = v;
  const rules = ORNAMENT_RULES.get(kind as string);
  return (
    rules !== undefined &&
    rules.every(([name, rule]) => rule(members[name])) &&
    Object.keys(members).every((name) => rules.some(([known]) => known === name))
  );
}

type Rule = (v: unknown) => boolean;
type EachRule = readonly (readonly [string, Rule])[];

/** Rules by name, and the required names. Only members that a hit has are checked, which keeps opening large parts fast. */
interface Rules {
  of: ReadonlyMap<string, Rule>;
  needed: readonly string[];
}

const rulesOf = (each: EachRule): Rules => ({
  of: new Map(each),
  needed: each.filter(([, rule]) => !rule(undefined)).map(([name]) => name),
});

const EACH_RULE: EachRule = Object.entries(HIT_RULES);
const RULES = rulesOf(EACH_RULE);

const NOTHING = (v: unknown): boolean => v === undefined;
const NEWER_THAN_2: readonly string[] = fieldsAfter(HIT_FIELDS, 2);
/** Hits of part@2: a home only where it was chosen, and nothing of what came later. */
const RULES_2 = rulesOf(
  EACH_RULE.map(([name, rule]) => {
    if (name === 'home') return [name, (v) => v === undefined || isTick(v)];
    if (name === 'ornament') return [name, (v) => rule(v) && !(isObject(v) && 'followsSwing' in v)];
    return [name, NEWER_THAN_2.includes(name) ? NOTHING : rule];
  }),
);

/** What is wrong with the first hit that is not one of part@2; null where all are. */
export const firstHitProblem2 = (hits: readonly unknown[]): string | null => firstHitProblem(hits, RULES_2);

/** What is wrong with the first hit that is not one; null where all are. */
export function firstHitProblem(hits: readonly unknown[], { of, needed }: Rules = RULES): string | null {
  const ids = new Set<unknown>();
  for (let i = 0; i < hits.length; i++) {
    const hit = hits[i] as Record<string, unknown> | null;
    if (typeof hit !== 'object' || hit === null) return `hits[${i}] is not a hit`;
    for (const name in hit) {
      const rule = of.get(name);
      if (rule === undefined) return `hits[${i}].${name.slice(0, 40)} is not allowed`;
      if (!rule(hit[name])) return `hits[${i}].${name} is missing or out of range`;
    }
    for (const name of needed) if (hit[name] === undefined) return `hits[${i}].${name} is missing or out of range`;
    if (ids.has(hit.id)) return `hits[${i}].id is used twice`;
    ids.add(hit.id);
  }
  return null;
}

/**
 * Whether data that this application wrote into its own store still has the shape of a part. It was checked in full when it came in;
 * where this says no, the full check names what is wrong.
 */
export function looksLikePart(data: unknown): boolean {
  if (!isObject(data) || data.format !== PART_FORMAT) return false;
  const { tempo, meter, rows, hits, feel, kitMap } = data;
  const lists = [tempo, meter, rows, hits].every(Array.isArray) && (tempo as unknown[]).length > 0 && (meter as unknown[]).length > 0;
  if (!lists || !isWhole(data.bars, 1, MAX_BARS) || !isWhole(data.origin, -LAST_TICK, LAST_TICK)) return false;
  if (!isObject(feel) || !Array.isArray(feel.moves) || !isObject(kitMap) || !isObject(kitMap.voices)) return false;
  return firstHitProblem(hits as unknown[]) === null;
}
