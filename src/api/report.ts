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
import { answer, choiceField, partOfFields, readForm } from './form';

const FIELDS = ['midi', 'part', 'grid', 'origin', 'channels', 'sticking'];
/** At most so many entries of a list are told, beside how many there are. */
const MOST_LISTED = 1000;
/** So many strokes are compared at most, of rows and of bars: under a second each. */
const MOST_COMPARED = 8_000_000;

/** What lies between rows and bars, and who plays what: ticks are the source's, bars from 1. */
function relations(part: Part, withSticking: boolean) {
  const sourceTick = (tick: number): number => roundHalfUp((tick * (part.source?.ppq ?? TICKS_PER_QUARTER)) / TICKS_PER_QUARTER);
  const together = togetherOf(part, undefined, MOST_COMPARED);
  const rivals = competingIn(part, undefined, MOST_LISTED);
  const competing = rivals.list.map(({ bar, tick, voices, ms }) => ({ bar: bar + 1, tick: sourceTick(tick), voices, ms }));
  const alike = alikeBars(part, undefined, MOST_COMPARED).map((bars) => bars.map((b) => b + 1));
  const conflicts = conflictsInPart(part).map((c) => ({ bar: Math.max(0, barOfHome(part, c.stroke.tick)) + 1, tick: sourceTick(c.stroke.tick), voices: rowsOfMoment(c).sort(compareVoices), kind: c.kind, text: conflictWords(part, c) }));
  const lists = { together, competing, alike, conflicts, ...(withSticking ? { sticking: stickingOf(part, sourceTick) } : {}) };
  return {
    ...Object.fromEntries(Object.entries(lists).map(([name, list]) => [name, list.slice(0, MOST_LISTED)])),
    counts: { ...Object.fromEntries(Object.entries(lists).map(([name, list]) => [name, list.length])), competing: rivals.count },
  };
}

function stickingOf(part: Part, sourceTick: (tick: number) => number) {
  const { strokes, limbs } = stickingOfPart(part);
  return strokes.flatMap((s) => {
    const limb = limbs.get(s);
    return limb ? [{ tick: sourceTick(s.tick), voice: s.voice, limb }] : [];
  });
}

/** POST /api/report: what a drum part is like as written. */
export const report = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS);
    const grid = await choiceField(fields, 'grid', GRIDS);
    const sticking = await choiceField(fields, 'sticking', ['true', 'false']);
    const { part: whole } = await partOfFields(fields);
    const part = soundingPart(whole);
    return Response.json({ ...reportPart(part, grid), ...relations(part, sticking === 'true') });
  });
