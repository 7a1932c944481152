import { compareHits, type Hit, type Part } from '../model/part';
import { withoutReading } from '../homes/homes';
import { withHomesRead } from '../reading/read-into';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { TempoMap } from '../time/tempo-map';
import { seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { tempoOfStretches, type TimedStretch } from './beat-tempo';
import { beatsOfBar, quartersOfBeat, type Count } from './adjust-count';
import { lengthsBetween, ornamentBy, placed } from './retime';

/** Within this share of a beat before a bar line, a hit counts as early rather than as a pickup. */
const EARLY = 0.25;

/** Why a part cannot get a new grid. */
export type Hindrance = 'breaks' | 'sections' | 'cycles';

/** Returns why a part cannot get a new grid; null if it can. */
export function hindranceTo(part: Part): Hindrance | null {
  if (part.breaks && part.breaks.length > 0) return 'breaks';
  if ((part.sections?.length ?? 0) > 0 || (part.order?.length ?? 0) > 0) return 'sections';
  return part.rows.some((r) => r.cycle) ? 'cycles' : null;
}

/** Extends the beats back to the bar line at or before the first hit. @returns seconds */
function beatsFromBar({ meter, beats, downbeat }: Count, first: number): number[] {
  const bar = beatsOfBar(meter);
  const [b0, b1] = beats as [number, number];
  const step = b1 - b0;
  // Before the first beat its tempo holds.
  let ahead = 0;
  while (b0 + (downbeat - ahead * bar) * step - step * EARLY > first || downbeat - ahead * bar > 0) ahead++;
  const from = downbeat - ahead * bar;
  return [...Array.from({ length: -from }, (_, i) => b0 + (from + i) * step), ...beats];
}

/**
 * Makes the grid follow a count, with one tempo event per beat. The hits keep their times to within a tick, and their lines are detected
 * again.
 * @param count beats in seconds from the part's zero, two at least, rising; the part's own tempo is what these seconds are counted by
 * @param zero whether the time before the first bar is kept or cut
 */
export function followPlayer(part: Part, count: Count, zero: 'kept' | 'cut'): Part {
  const was = tempoMapOf(part);
  const { meter } = count;
  const quarters = quartersOfBeat(meter);
  const first = part.hits.reduce((least, h) => Math.min(least, was.toSeconds(h.tick)), Infinity);
  const beats = beatsFromBar(count, first);
  const line = beats[0] as number;
  // If the first bar would start before zero, everything moves later.
  const lead = zero === 'kept' ? Math.max(0, line) : Math.max(0, line - first);
  const later = lead - line;
  const leadTicks = Math.round((lead / (((beats[1] as number) - line) / quarters)) * TICKS_PER_QUARTER);
  const stretches: TimedStretch[] = [
    ...(leadTicks > 0 ? [{ quarters: leadTicks / TICKS_PER_QUARTER, seconds: lead }] : []),
    ...beats.slice(1).map((b, i) => ({ quarters, seconds: b - (beats[i] as number) })),
  ];
  const tempo = tempoOfStretches(stretches, ticks(0));
  const now = new TempoMap(tempo);
  const lengthBy = lengthsBetween(was, now);
  const hits = part.hits
    .map((hit): Hit => {
      const tick = ticks(Math.round(now.toTicks(seconds(was.toSeconds(hit.tick) + later))));
      const lengthOf = (length: typeof hit.length) => lengthBy(hit.tick, tick, length);
      return { ...placed(withoutReading(hit), tick, lengthOf(hit.length), ornamentBy(hit.ornament, lengthOf)), home: tick };
    })
    .sort(compareHits);
  const counted: Part = {
    ...part,
    tempo,
    playerTempo: tempo,
    meter: [{ tick: ticks(0), numerator: meter[0], denominator: meter[1] }],
    origin: ticks(leadTicks),
    hits,
  };
  const last = hits.at(-1)?.tick ?? counted.origin;
  const bars = Math.max(1, meterMapOf(counted).barAt(last).index + 1);
  return withHomesRead({ ...counted, bars });
}
