import type { StrokeKind } from '../model/break';
import { farApart } from '../onsets/alike';
import type { StrokePrint } from '../onsets/print';
import { SOUND_KINDS, SOUNDS } from '../onsets/stroke-net';
import { clamp } from '../units';

/** Groups hits of a break by sound, and applies a corrected name to hits that sound like it. */

/** What a stroke is. */
export interface StrokeName {
  kind: StrokeKind;
  /** What is struck together with it. */
  also?: StrokeKind;
}

/** A stroke that was named by hand, as an example for others. */
export interface NamedPrint {
  print: StrokePrint;
  name: StrokeName;
}

/** Weight of an example that sounds the same, as a logit, and how fast it falls with the squared distance. */
const EXAMPLE_LOGIT = 8;
const EXAMPLE_FALLS = 60;
const LEAST_SURE = 0.25;
const MOST_SURE = 0.99;

/**
 * What a stroke is, given what others of its break were named by hand: the nearest of them outweigh what the net says.
 * @returns null where no example is near enough to change anything
 */
export function nameByExamples(print: StrokePrint, examples: readonly NamedPrint[]): (StrokeName & { sure: number }) | null {
  let [nearest, weight] = [null as NamedPrint | null, 0];
  for (const example of examples) {
    const near = Math.exp(-EXAMPLE_FALLS * farApart(print.bands, example.print.bands));
    if (near > weight) [nearest, weight] = [example, near];
  }
  if (!nearest || weight < 0.05) return null;
  const struck = soundsNamed(nearest);
  const chances = Array.from(print.logits, (logit, k) => 1 / (1 + Math.exp(-(logit + weight * EXAMPLE_LOGIT * (struck[k] ? 1 : -1)))));
  const most = Math.max(...chances);
  const named = chances.map((p) => p === most || p > 0.5);
  const sure = chances.reduce((all, p, k) => all * (named[k] ? p : 1 - p), 1);
  const kinds = [...new Set(SOUNDS.filter((_, k) => named[k]).map((s) => SOUND_KINDS[s]))];
  // Keeps the example's order if the kinds are the same; otherwise hats come last.
  const isSame = kinds.length === kindsOf(nearest.name).length && kindsOf(nearest.name).every((k) => kinds.includes(k));
  const [kind, also] = isSame ? kindsOf(nearest.name) : kinds.sort((a, b) => Number(a === 'hat') - Number(b === 'hat'));
  return { kind: kind as StrokeKind, ...(also ? { also } : {}), sure: clamp(sure, LEAST_SURE, MOST_SURE) };
}

/** Examples of one name within this distance are redundant. */
const SAME_APART = 0.001;
/** More examples cost time and change nothing audible. */
const MOST_EXAMPLES = 256;

/** Drops redundant examples and keeps 256 at most. */
export function distinctExamples(examples: readonly NamedPrint[]): NamedPrint[] {
  const kept: NamedPrint[] = [];
  for (const example of examples) {
    if (kept.length === MOST_EXAMPLES) break;
    const isKnown = kept.some(
      ({ print, name }) =>
        name.kind === example.name.kind && name.also === example.name.also && farApart(print.bands, example.print.bands) < SAME_APART,
    );
    if (!isKnown) kept.push(example);
  }
  return kept;
}

const kindsOf = ({ kind, also }: StrokeName): StrokeKind[] => (also && also !== kind ? [kind, also] : [kind]);

/** Which sounds an example has: of another drum that which the net thought likelier. */
function soundsNamed({ print, name }: NamedPrint): boolean[] {
  const kinds = kindsOf(name);
  const [skin, bright] = [SOUNDS.indexOf('skin'), SOUNDS.indexOf('bright')];
  const isBright = (print.logits[bright] as number) > (print.logits[skin] as number);
  return SOUNDS.map((sound, k) =>
    SOUND_KINDS[sound] === 'other' ? kinds.includes('other') && k === (isBright ? bright : skin) : kinds.includes(SOUND_KINDS[sound]),
  );
}

/** Amplitude of a kind's own sound within a stroke. */
export function levelOfKind({ logits, levels }: StrokePrint, kind: StrokeKind): number {
  let best = -1;
  SOUNDS.forEach((sound, k) => {
    if (SOUND_KINDS[sound] === kind && (best < 0 || (logits[k] as number) > (logits[best] as number))) best = k;
  });
  return 10 ** ((levels[best] as number) / 20);
}

/** Strokes that sound alike and are called the same. */
export interface StrokeGroup<T> extends StrokeName {
  /** The one that sounds most like all of them comes first; the others by time. */
  strokes: readonly [T, ...T[]];
  /** The mean of how sure each is, 0 to 1. */
  sure: number;
}

/** Greatest distance within a group. */
const GROUP_APART = 0.06;

/** Groups of strokes by how they sound and what they are called, those with most strokes first. */
export function strokeGroups<T extends StrokeName & { sure: number }>(
  strokes: readonly T[],
  printOf: (stroke: T) => StrokePrint | undefined,
): StrokeGroup<T>[] {
  const groups: { name: string; of: { stroke: T; print: StrokePrint | undefined }[] }[] = [];
  // Most certain first: they found the groups.
  for (const stroke of [...strokes].sort((a, b) => b.sure - a.sure)) {
    const print = printOf(stroke);
    const name = `${stroke.kind} ${stroke.also ?? ''}`;
    let [best, least] = [null as (typeof groups)[number] | null, GROUP_APART];
    for (const group of groups) {
      if (group.name !== name) continue;
      const first = group.of[0]?.print;
      const apart = print && first ? farApart(print.bands, first.bands) : print || first ? Infinity : 0;
      if (apart < least) [best, least] = [group, apart];
    }
    if (best) best.of.push({ stroke, print });
    else groups.push({ name, of: [{ stroke, print }] });
  }
  const order = new Map(strokes.map((s, i) => [s, i]));
  return groups
    .map(({ of }) => {
      const all = of.map((o) => o.stroke);
      const [first] = all as [T, ...T[]];
      const others = all.slice(1).sort((a, b) => (order.get(a) as number) - (order.get(b) as number));
      return {
        kind: first.kind,
        ...(first.also ? { also: first.also } : {}),
        strokes: [first, ...others] as [T, ...T[]],
        sure: all.reduce((sum, s) => sum + s.sure, 0) / all.length,
      };
    })
    .sort((a, b) => b.strokes.length - a.strokes.length || (order.get(a.strokes[0]) as number) - (order.get(b.strokes[0]) as number));
}
