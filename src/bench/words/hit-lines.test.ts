import fc from 'fast-check';
import { EMPTY_FEEL, type Feel } from '@/core/model/feel';
import { performPart } from '@/core/perform/perform';
import { strokesOf } from '@/core/ornament/strokes';
import { setOrnament } from '@/core/commands/ornaments';
import { tempoMapOf } from '@/core/part/part-time';
import type { Part } from '@/core/model/part';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { ornamentArbitrary, smallPart } from '@tests/support/arbitraries';
import { setTable } from '@tests/support/bench-table';
import { xOf } from '../stems/geometry/axis';
import { hitLines } from './hit-lines';

const FEEL: Feel = {
  ...EMPTY_FEEL,
  moves: [
    { kind: 'quantize', grid: '1/16', strength: 0.5, outer: 0.6, innerMs: 0, swingPercent: 50 },
    { kind: 'swing', division: '1/16', percent: 62 },
  ],
};

test('50 random ornaments, swung and tightened, at three tempos: the table and the drawing have the strokes that are played', () => {
  const ornaments = fc.sample(ornamentArbitrary, { numRuns: 50, seed: 11 });
  for (const bpm of [72, 120, 171.3]) {
    const base = smallPart(
      ornaments.map((_, i): [string, number, number] => ['snare', 4 * i + 1 + 0.25 * (i % 4) + 0.01 * (i % 5), 40 + i]),
      { bars: 54, feel: FEEL, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 60_000_000 / bpm }] },
    );
    const part = base.hits.reduce<Part>((p, h, i) => setOrnament(p, new Set([h.id]), ornaments[i]!), base);
    const performance = performPart(part);
    const strokes = strokesOf(part, performance);
    const played = [...strokes.hits].map((h, s) => ({
      hit: h,
      number: strokes.numbers[s]!,
      tick: strokes.ticks[s]!,
      velocity: strokes.velocities[s]!,
    }));

    const lines = hitLines(part, performance);
    const tempo = tempoMapOf(part);
    expect(lines.map((l) => [l.index, l.stroke, l.heard])).toEqual(played.map((s) => [s.hit, s.number, s.velocity]));
    // The table tells a stroke's place by its ms from the hit's home.
    const far = lines.map((l, k) => Math.abs(l.lean - tempo.between(ticks(performance.placedHomes[l.index]!), ticks(played[k]!.tick))));
    expect(Math.max(...far)).toBeLessThan(1e-6);

    const t = setTable(part);
    let drawn = 0;
    for (let hit = 0; hit < part.hits.length; hit++) {
      t.store.getState().setView({ scroll: ticks(part.hits[hit]!.tick - TICKS_PER_QUARTER), pixelsPerQuarter: 120 });
      const scene = t.scene();
      const mark = scene.ornaments.find((m) => m.index === hit)!;
      const own = played.filter((s) => s.hit === hit && s.number > 0);
      expect(mark.strokes.map((s) => s.velocity)).toEqual(own.map((s) => s.velocity));
      const stem = scene.stems.flat().find((s) => s.index === hit)!;
      const mainX = xOf(scene.axis, performance.ticks[hit]!);
      // Strokes behind the hit stand as far from its foot as they sound after it; grace strokes are set apart further.
      if (mark.drawn !== 'before')
        own.forEach((s, k) => expect(mark.strokes[k]!.x - stem.footX).toBeCloseTo(xOf(scene.axis, s.tick) - mainX, 6));
      else own.forEach((s, k) => expect(mark.strokes[k]!.x - stem.headX).toBeLessThanOrEqual(xOf(scene.axis, s.tick) - mainX + 1e-6));
      drawn += own.length;
    }
    expect(drawn).toBe(played.length - 50);
  }
});
