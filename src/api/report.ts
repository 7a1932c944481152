import { alikeBars } from '@/core/analysis/alike';
import { competingIn, togetherOf } from '@/core/analysis/between';
import { conflictsInPart, conflictWords, rowsOfMoment, stickingOfPart } from '@/core/analysis/playing';
import { reportPart } from '@/core/analysis/report';
import type { Part } from '@/core/model/part';
import { barOfHome } from '@/core/homes/homes';
import { soundingPart } from '@/core/song/sounding';
import { GRIDS } from '@/core/time/grid';
import { roundHalfUp, TICKS_PER_QUARTER } from '@/core/units';
import { compareVoices } from '@/core/voices';
import { FIELDS } from './fields';
import { answer, choiceField, partOfFields, readForm } from './form';

/** At most so many entries of a list are told, beside how many there are. */
const MOST_LISTED = 1000;
/** So many strokes of bars are compared at most, and so many pairs of rows' strokes counted: under a second each. */
const MOST_COMPARED = 5_000_000;
const MOST_TOGETHER = 8_000_000;

/** A list as it is told: how many there are, and the first of them in words. */
interface Told {
  count: number;
  list: unknown[];
}

const told = <T>(all: readonly T[], word: (entry: T) => unknown, count = all.length): Told => ({ count, list: all.slice(0, MOST_LISTED).map(word) });

/** What lies between rows and bars, and who plays what: ticks are the source's, bars from 1. */
function relations(part: Part, withSticking: boolean) {
  const sourceTick = (tick: number): number => roundHalfUp((tick * (part.source?.ppq ?? TICKS_PER_QUARTER)) / TICKS_PER_QUARTER);
  // First what may be refused.
  const alike = alikeBars(part, undefined, MOST_COMPARED);
  const together = togetherOf(part, undefined, MOST_TOGETHER);
  const competing = competingIn(part, undefined, MOST_LISTED);
  const sticking = withSticking ? stickingOfPart(part) : null;
  const lists: Record<string, Told> = {
    together: told(together, (pair) => pair),
    competing: told(competing.list, ({ bar, tick, voices, ms }) => ({ bar: bar + 1, tick: sourceTick(tick), voices, ms }), competing.count),
    alike: told(alike, (bars) => bars.map((b) => b + 1)),
    conflicts: told(sticking?.conflicts ?? conflictsInPart(part), (c) => ({ bar: Math.max(0, barOfHome(part, c.stroke.tick)) + 1, tick: sourceTick(c.stroke.tick), voices: rowsOfMoment(c).sort(compareVoices), kind: c.kind, text: conflictWords(part, c) })),
    ...(sticking ? { sticking: told(sticking.strokes.filter((s) => sticking.limbs.has(s)), (s) => ({ tick: sourceTick(s.tick), voice: s.voice, limb: sticking.limbs.get(s) })) } : {}),
  };
  const entries = Object.entries(lists);
  return { ...Object.fromEntries(entries.map(([name, { list }]) => [name, list])), counts: Object.fromEntries(entries.map(([name, { count }]) => [name, count])) };
}

/** POST /api/report: what a drum part is like as written. */
export const report = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.report);
    const grid = await choiceField(fields, 'grid', GRIDS);
    const sticking = await choiceField(fields, 'sticking', ['true', 'false']);
    const { part: whole } = await partOfFields(fields);
    const part = soundingPart(whole);
    return Response.json({ ...reportPart(part, grid), ...relations(part, sticking === 'true') });
  });
