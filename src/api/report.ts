import { alikeBars } from '@/core/analysis/alike';
import { competingIn, togetherOf } from '@/core/analysis/between';
import { conflictsInPart, conflictWords, rowsOfMoment, stickingOfPart } from '@/core/analysis/playing';
import { reportPart } from '@/core/analysis/report';
import type { Part } from '@/core/model/part';
import { barOfHome } from '@/core/homes/homes';
import { soundingPart } from '@/core/song/sounding';
import { GRIDS } from '@/core/time/grid';
import { foundSwings, swingAt } from '@/core/homes/swings';
import { meterMapOf } from '@/core/part/part-time';
import { swingTick } from '@/core/feel/swing';
import { withHomesFor } from '@/batch/perform-file';
import { roundHalfUp, TICKS_PER_QUARTER } from '@/core/units';
import { compareVoices } from '@/core/voices';
import { FIELDS } from './fields';
import { answer, choiceField, partOfFields, readForm, wrongField } from './form';

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

const told = <T>(all: readonly T[], word: (entry: T) => unknown, count = all.length): Told => ({
  count,
  list: all.slice(0, MOST_LISTED).map(word),
});

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
    conflicts: told(sticking?.conflicts ?? conflictsInPart(part), (c) => ({
      bar: Math.max(0, barOfHome(part, c.stroke.tick)) + 1,
      tick: sourceTick(c.stroke.tick),
      voices: rowsOfMoment(c).sort(compareVoices),
      kind: c.kind,
      text: conflictWords(part, c),
    })),
    ...(sticking
      ? {
          sticking: told(
            sticking.strokes.filter((s) => sticking.limbs.has(s)),
            (s) => ({ tick: sourceTick(s.tick), voice: s.voice, limb: sticking.limbs.get(s) }),
          ),
        }
      : {}),
  };
  const entries = Object.entries(lists);
  return {
    ...Object.fromEntries(entries.map(([name, { list }]) => [name, list])),
    counts: Object.fromEntries(entries.map(([name, { count }]) => [name, count])),
  };
}

/** Homes and swing: ticks are the source's, fractional where lines fall between them; bars from 1. */
function linesOf(part: Part) {
  const sourceTick = (tick: number): number => (tick * (part.source?.ppq ?? TICKS_PER_QUARTER)) / TICKS_PER_QUARTER;
  const swings = foundSwings(part);
  const bars = { fromBar: 1, toBar: part.bars };
  return {
    homes: part.hits.map(({ tick, voice, home, sure = 1, other }) => ({
      tick: sourceTick(tick),
      voice,
      home: sourceTick(home),
      sure,
      other: other === undefined ? null : sourceTick(other),
    })),
    swings: swings
      ? [
          ...swings.bars.map((of) => ({ voice: null, division: swings.division, ...of })),
          ...[...swings.rows].map(([voice, of]) => ({ voice, ...bars, division: swings.division, ...of })),
        ]
      : [],
  };
}

/** The homes as the part swings by itself. */
function swungLines(part: Part): Float64Array {
  const map = meterMapOf(part);
  const swings = foundSwings(part);
  return Float64Array.from(part.hits, ({ home }) =>
    swings
      ? swingTick(home, map.barAt(home), { kind: 'swing', division: swings.division, percent: swingAt(swings, map.barAt(home).index + 1) })
      : home,
  );
}

/** POST /api/report: what a drum part is like as written. */
export const report = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.report);
    const grid = await choiceField(fields, 'grid', GRIDS);
    const sticking = await choiceField(fields, 'sticking', ['true', 'false']);
    const wantsHomes = (await choiceField(fields, 'homes', ['true', 'false'])) === 'true';
    const leansFrom = await choiceField(fields, 'leansFrom', ['home', 'swing']);
    if (leansFrom !== undefined && (!wantsHomes || grid)) throw wrongField('leansFrom', grid ? 'goes without grid' : 'needs homes');
    const { part: whole } = await partOfFields(fields, withHomesFor);
    const part = soundingPart(whole);
    const lines = leansFrom === 'swing' ? swungLines(part) : undefined;
    // What may be refused comes first.
    const between = relations(part, sticking === 'true');
    return Response.json({
      ...reportPart(part, grid, lines),
      ...between,
      ...(wantsHomes ? linesOf(part) : {}),
    });
  });
