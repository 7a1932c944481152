/** Commands on sections and the running order. */
import { shortName } from '../limits';
import type { Part, Hit, HitId } from '../model/part';
import { ENTRY, type Cycle, type EveryPass, type Leaving, type OrderEntry, type Passes, type Section } from '../model/song';
import { homesOf, homeTest } from '../homes/homes';
import { barsOf, sectionOf, stretchOf, withSections } from '../part/sections';
import { clamp, ticks } from '../units';
import type { VoiceName } from '../row-names';
import { arrangeBars, rangeOf } from './bars';

/** Names for sections that have none yet. */
const NAMES = ['Intro', 'Verse', 'Chorus', 'Bridge', 'Break', 'Fill', 'Outro'];

/** A name that no section has. @example freshName([{ name: 'Verse' }], 'Verse') // 'Verse 2' */
export function freshName(sections: readonly Pick<Section, 'name'>[], wanted: string): string {
  const taken = new Set(sections.map((s) => s.name));
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${wanted} ${n}`)) n++;
  return `${wanted} ${n}`;
}

/** What a new section is called: the first usual name that is free. */
export const nextName = (sections: readonly Pick<Section, 'name'>[] = []): string =>
  NAMES.find((n) => !sections.some((s) => s.name === n)) ?? freshName(sections, 'Section');

/** Makes a section of bars (from 0, `to` not included). Sections that it covers go, those that it cuts are shortened. */
export function addSection(part: Part, id: string, from: number, to: number, name = nextName(part.sections)): Part {
  const start = clamp(from, 0, part.bars - 1);
  const end = clamp(to, start + 1, part.bars);
  const left = (part.sections ?? []).flatMap((s): Section[] => {
    const own = barsOf(s);
    if (own.to <= start || own.from >= end) return [s];
    // Of one that is cut in two the first half keeps its name.
    if (own.from < start) return [{ ...s, bars: start - own.from }];
    return own.to > end ? [{ ...s, from: end + 1, bars: own.to - end }] : [];
  });
  return withSections(
    part,
    [...left, { id, name: shortName(name), from: start + 1, bars: end - start }].sort((a, b) => a.from - b.from),
  );
}

/** Changes a section's name, or how it may be left. */
export function changeSection(part: Part, id: string, change: { name?: string; leave?: Leaving }): Part {
  return withSections(
    part,
    (part.sections ?? []).map((s) => {
      if (s.id !== id) return s;
      const { leave: was, ...rest } = s;
      const leave = change.leave ?? was;
      return {
        ...rest,
        name: change.name?.trim() ? shortName(change.name.trim()) : s.name,
        ...(leave && leave !== 'bar' ? { leave } : {}),
      };
    }),
  );
}

/** Takes a section's name away; its bars stay. */
export const removeSection = (part: Part, id: string): Part =>
  withSections(
    part,
    (part.sections ?? []).filter((s) => s.id !== id),
  );

/** Copies a section's bars behind the last bar, as a section of its own. */
export function copySection(part: Part, id: string, copy: { id: string; newId: () => HitId }): Part {
  const section = sectionOf(part, id);
  if (!section) return part;
  const { from, to } = barsOf(section);
  const { sections: _sections, ...bare } = part;
  const longer = arrangeBars(bare, [...rangeOf(0, part.bars), ...rangeOf(from, to)], copy.newId);
  const added: Section = { ...section, id: copy.id, name: freshName(part.sections ?? [], section.name), from: part.bars + 1 };
  return withSections({ ...longer, ...(part.order ? { order: part.order } : {}) }, [...(part.sections ?? []), added]);
}

/** Takes a section's hits out; its bars stay. */
export function emptySection(part: Part, id: string): Part {
  const section = sectionOf(part, id);
  if (!section) return part;
  const { start, end } = stretchOf(part, section);
  const homes = homesOf(part).ticks;
  const belongs = homeTest(part, ticks(start), ticks(end));
  return { ...part, hits: part.hits.filter((_, i) => !belongs(homes[i] as number)) };
}

/** Makes a section longer by empty bars at its end, or shorter by its last ones; one bar stays. */
export function lengthenSection(part: Part, id: string, by: number, newId: () => HitId): Part {
  const section = sectionOf(part, id);
  if (!section) return part;
  const { from, to } = barsOf(section);
  const end = Math.max(from + 1, to + by);
  const { sections = [], order, ...bare } = part;
  const added = Array.from({ length: Math.max(0, end - to) }, () => ({ bar: to - 1, empty: true }));
  const arranged: Part = arrangeBars(bare, [...rangeOf(0, Math.min(to, end)), ...added, ...rangeOf(to, part.bars)], newId);
  const moved = sections.map((s): Section =>
    s.id === id ? { ...s, bars: end - from } : s.from > to ? { ...s, from: s.from + end - to } : s,
  );
  return withSections(arranged, moved, order);
}

/** A line of the order as it is kept: what is at rest is left out. */
function tidy({ section, times = 1, rests = [], level = 100, sway = 100 }: OrderEntry): OrderEntry {
  const count = Math.round(clamp(times, ENTRY.times.min, ENTRY.times.max));
  const [loud, feel] = [clamp(level, ENTRY.level.min, ENTRY.level.max), clamp(sway, ENTRY.sway.min, ENTRY.sway.max)];
  return {
    section,
    ...(count === 1 ? {} : { times: count }),
    ...(rests.length > 0 ? { rests } : {}),
    ...(loud === 100 ? {} : { level: loud }),
    ...(feel === 100 ? {} : { sway: feel }),
  };
}

/** Sets the running order; lines of sections that are not there go. */
export const setOrder = (part: Part, order: readonly OrderEntry[]): Part => withSections(part, part.sections, order.map(tidy));

export const changeEntry = (part: Part, index: number, change: Partial<OrderEntry>): Part =>
  setOrder(
    part,
    (part.order ?? []).map((e, i) => (i === index ? { ...e, ...change } : e)),
  );

export function moveEntry(part: Part, from: number, to: number): Part {
  const order = [...(part.order ?? [])];
  const [entry] = order.splice(from, 1);
  if (entry) order.splice(clamp(to, 0, order.length), 0, entry);
  return setOrder(part, order);
}

/** Lets a row rest in a line of the order, or play again. */
export function toggleRest(part: Part, index: number, row: VoiceName): Part {
  const rests = part.order?.[index]?.rests ?? [];
  return changeEntry(part, index, { rests: rests.includes(row) ? rests.filter((r) => r !== row) : [...rests, row] });
}

export function setEveryPass(part: Part, everyPass: EveryPass): Part {
  const { everyPass: _was, ...rest } = part;
  return everyPass === 'same' ? rest : { ...rest, everyPass };
}

/** Gives hits a chance in percent, 100 for none; and the passes that they sound in, null for all. */
export function setChance(part: Part, ids: ReadonlySet<HitId>, change: { chance?: number; passes?: Passes | null }): Part {
  return {
    ...part,
    hits: part.hits.map((hit): Hit => {
      if (!ids.has(hit.id)) return hit;
      const { chance: oldChance, passes: oldPasses, ...rest } = hit;
      const chance = change.chance === undefined ? oldChance : change.chance >= 100 ? undefined : Math.max(1, Math.round(change.chance));
      const passes = change.passes === undefined ? oldPasses : (change.passes ?? undefined);
      return { ...rest, ...(chance === undefined ? {} : { chance }), ...(passes ? { passes } : {}) };
    }),
  };
}

/** Lets a row come round over a length of its own; as written without one. */
export function setCycle(part: Part, row: VoiceName, cycle: Cycle | undefined): Part {
  return {
    ...part,
    rows: part.rows.map((r) => {
      if (r.voice !== row) return r;
      const { cycle: _was, ...rest } = r;
      return cycle ? { ...rest, cycle } : rest;
    }),
  };
}
