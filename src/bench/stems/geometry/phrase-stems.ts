import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import type { Hit, Part } from '@/core/model/part';
import type { Performance } from '@/core/perform/perform';
import { ticks } from '@/core/units';

/** A hit in the strip of the whole part: where in its bar, how far up, how it leans. */
export interface PhraseStem {
  bar: number;
  /** Of the bar's length, 0 to 1. */
  place: number;
  /** Of the rows' height: 0 is the highest row's foot, 1 the lowest's. */
  row: number;
  /** 0 to 1. */
  height: number;
  /** ms; negative = early. */
  lean: number;
}

/** All hits as the strip draws them, by bar. */
export function phraseStems(part: Part, performance: Performance): PhraseStem[] {
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const played = new Set(part.hits.map((h) => h.voice));
  const rows = part.rows.map((r) => r.voice).filter((v) => played.has(v));
  const rowOf = new Map(rows.map((voice, i) => [voice, rows.length < 2 ? 1 : i / (rows.length - 1)]));
  return part.hits.map((hit: Hit, i): PhraseStem => {
    const home = ticks(performance.placedHomes[i] as number);
    const bar = map.barAt(home);
    return {
      bar: bar.index,
      place: (home - bar.start) / bar.length,
      row: rowOf.get(hit.voice) ?? 1,
      height: (performance.velocities[i] as number) / 127,
      lean: tempo.between(home, ticks(performance.ticks[i] as number)),
    };
  });
}
