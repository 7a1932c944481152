import type { Hit } from '../model/part';
import { FEWEST_SECONDS as FEWEST, measured, mergedBars, SWING_LIMITS, WITHOUT_FIRSTS, type Second, type Swings } from '../homes/swings';
import { meterMapOf } from '../part/part-time';
import { indicesByVoice } from '../part/by-voice';
import { TICKS_PER_QUARTER } from '../units';
import type { Fit, Material, Readable } from './material';

const SECONDS_SHARE = 0.3;
const [LEAST, MOST] = SWING_LIMITS;

/** Measures swing by strokes on second lines whose beats are counted as swung. Null where there are too few, or it is no swing. */
export function swingsOf(part: Readable, material: Material, strokes: Int32Array, fit: Fit): Swings | null {
  const map = meterMapOf(part);
  const mass = (list: Float64Array): number => list.reduce((a, b) => a + b, 0);
  const division = mass(fit.swung.eighths) >= mass(fit.swung.sixteenths) ? '1/8' : '1/16';
  const pair = division === '1/8' ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2;
  const isSwung = division === '1/8' ? fit.swung.eighths : fit.swung.sixteenths;
  const placeOf = (k: number): { second: boolean; first: boolean; start: number; bar: number } => {
    const { home } = fit.answers[k]![0] ?? { home: material.ticks[k] as number };
    const bar = map.barAt(home as never);
    const place = (home - bar.start) % pair;
    return { first: place < 1, second: Math.abs(place - pair / 2) < 1, start: home - place, bar: bar.index };
  };
  // The row's own lean on first lines is no swing.
  const ofRow = new Map<string, { firsts: number; sum: number; seconds: number; strokes: number }>();
  const rowOf = new Map<number, string>();
  for (const [voice, indices] of indicesByVoice(part.hits)) for (const i of indices) rowOf.set(i, voice);
  const placed = Array.from(strokes, (i, k) => ({ ...placeOf(k), row: rowOf.get(i) as string, tick: (part.hits[i] as Hit).tick, home: fit.answers[k]![0]?.home ?? 0, swung: isSwung[k] as number }));
  for (const p of placed) {
    const row = ofRow.get(p.row) ?? { firsts: 0, sum: 0, seconds: 0, strokes: 0 };
    row.strokes++;
    if (p.first) {
      row.firsts++;
      row.sum += p.tick - p.home;
    }
    if (p.second && p.swung > 0.5) row.seconds++;
    ofRow.set(p.row, row);
  }
  const enough = [...ofRow].filter(([, r]) => r.firsts >= FEWEST).map(([row]) => row);
  const anchored = enough.some((row) => ofRow.get(row)!.seconds >= FEWEST);
  const rows = anchored ? enough : [...ofRow.keys()];
  const used = new Set(rows.filter((row) => ofRow.get(row)!.seconds >= FEWEST && ofRow.get(row)!.seconds >= SECONDS_SHARE * placed.filter((p) => p.row === row && p.second).length));
  const seconds = placed.flatMap((p): Second[] => {
    if (!p.second || p.swung <= 0.5 || !used.has(p.row)) return [];
    const row = ofRow.get(p.row)!;
    const lean = anchored && row.firsts > 0 ? row.sum / row.firsts : 0;
    return [{ row: p.row, bar: p.bar, percent: ((p.tick - lean - p.start) / pair) * 100 }];
  });
  if (seconds.length < FEWEST) return null;
  const whole = measured(seconds);
  if (whole.percent < LEAST || whole.percent > MOST || (!anchored && whole.percent < WITHOUT_FIRSTS)) return null;
  const byRow = new Map([...used].map((row) => [row, measured(seconds.filter((s) => s.row === row))] as const).filter(([, s]) => s.n >= FEWEST));
  return { division, whole, rows: byRow, bars: mergedBars(seconds) };
}
