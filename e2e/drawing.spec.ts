import { expect, test } from '@playwright/test';
import { drawn, meterEvent, midiFile, noteEvents, openMidi, stems, tempoEvent, trackChunk, type Note } from './support';

/** Hits scattered around sixteenths by fixed numbers: leans from 30 ms early to 30 ms late, all velocities. */
function scattered(): Note[] {
  const notes: Note[] = [];
  let seed = 7;
  const next = (): number => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
  for (let step = 1; step < 16 * 16; step++) {
    for (const key of [36, 38, 42, 46])
      if (next() < 0.5) notes.push([step * 240 + Math.round((next() - 0.5) * 60), key, 1 + Math.floor(next() * 127)]);
  }
  return notes;
}

test('foot, head x and y follow the formulas within half a pixel at three zooms; heads of a row keep their order', async ({ page }) => {
  const notes = scattered();
  await openMidi(
    page,
    'scattered.mid',
    midiFile(0, 960, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 20)])]),
  );
  let checked = 0;
  for (const pixelsPerQuarter of [300, 110, 44]) {
    await page.evaluate(
      (p) => window.nodSway!.bench().setView({ pixelsPerQuarter: p, scroll: (p === 110 ? 80640 : 0) as never }),
      pixelsPerQuarter,
    );
    await drawn(page);
    const scene = await page.evaluate(() => {
      const d = window.nodSway!;
      const s = d.scene()!;
      const { part, view } = d.bench();
      return {
        scroll: view.scroll as number,
        reach: view.reach as number,
        rows: s.rows.map((row, r) => ({
          baseline: row.baseline,
          tallest: row.tallest,
          stems: s.stems[r]!.map((t) => ({
            ...t,
            tick: part.hits[t.index]!.tick as number,
            velocity: part.hits[t.index]!.velocity as number,
            home: s.performance.homes.ticks[t.index]!,
          })),
        })),
      };
    });
    const perTick = pixelsPerQuarter / 80640;
    const full = 0.45 * (pixelsPerQuarter / 4);
    for (const row of scene.rows) {
      const feet = [...new Set(row.stems.map((s) => s.footX))].sort((a, b) => a - b);
      row.stems.forEach((s, i) => {
        const before = row.stems[i - 1];
        if (before) expect(s.headX).toBeGreaterThanOrEqual(before.headX);
        const alone = row.stems.filter((o) => o.footX === s.footX).length === 1;
        const f = feet.indexOf(s.footX);
        // At the edges of the picture the neighbour that limits a lean may be out of sight of this test.
        if (!alone || f === 0 || f === feet.length - 1 || checked >= 1000) return;
        const foot = 28 + (s.home - scene.scroll) * perTick;
        const height = 10 + ((row.tallest - 10) * (s.velocity - 1)) / 126;
        // At 120 BPM a quarter lasts 500 ms.
        const lean = ((s.tick - s.home) / 80640) * 500;
        const neighbour = lean < 0 ? s.footX - feet[f - 1]! : feet[f + 1]! - s.footX;
        const most = Math.min(full, 0.45 * neighbour, height);
        const aside = Math.max(-most, Math.min(most, (lean / scene.reach) * full));
        expect(Math.abs(s.footX - foot)).toBeLessThan(0.5);
        expect(Math.abs(s.headX - (foot + aside))).toBeLessThan(0.5);
        expect(Math.abs(s.headY - (row.baseline - height))).toBeLessThan(0.5);
        expect(s.broken).toBe(Math.abs(lean) > scene.reach + 0.05);
        checked++;
      });
    }
  }
  expect(checked).toBeGreaterThanOrEqual(150);
});

test('the picture has ink where the scene has heads: late rust, early teal, on the line ink', async ({ page }) => {
  // One late, one early by 19 of 480 ticks at 120 BPM: 19.8 ms; 20 would be a 64th of a triplet, and exactly on its line.
  const notes: Note[] = [
    [0, 36, 120],
    [499, 36, 120],
    [941, 36, 120],
    [1440, 36, 120],
  ];
  await openMidi(page, 'lean.mid', midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 20)])]));
  const colours = await page.evaluate(() => {
    const s = window.nodSway!.scene()!;
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=stems] canvas')!;
    const g = canvas.getContext('2d')!;
    return s.stems[0]!.map((t) => {
      const [r, gr, b] = g.getImageData(Math.round(t.headX), Math.round(t.headY), 1, 1).data;
      return [r, gr, b];
    });
  });
  expect(colours).toEqual([
    [0x23, 0x26, 0x2b],
    [0x8f, 0x3a, 0x10],
    [0x21, 0x91, 0x9b],
    [0x23, 0x26, 0x2b],
  ]);
});

test('from afar stems become ribbons and bands, and the phrase strip leads back', async ({ page }) => {
  await openMidi(
    page,
    'scattered.mid',
    midiFile(0, 960, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(scattered(), 20)])]),
  );
  const detail = () => page.evaluate(() => window.nodSway!.scene()!.detail);
  const levels: string[] = [];
  for (const p of [100, 40, 20, 10]) {
    await page.evaluate((x) => window.nodSway!.bench().setView({ pixelsPerQuarter: x }), p);
    await drawn(page);
    levels.push(await detail());
  }
  expect(levels).toEqual(['full', 'small', 'ribbon', 'band']);
  await page.evaluate(() => window.nodSway!.bench().setView({ pixelsPerQuarter: 100 }));
  // The strip's cells: a click goes to that bar, a drag chooses the loop.
  const strip = page.getByTestId('phrase');
  const box = (await strip.boundingBox())!;
  const cell = Math.min(92, box.width / 16);
  await strip.click({ position: { x: cell * 8.5, y: 30 } });
  await drawn(page);
  expect(await page.evaluate(() => window.nodSway!.bench().view.scroll)).toBe(8 * 4 * 80640);
  await page.mouse.move(box.x + cell * 3.5, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + cell * 5.5, box.y + 30, { steps: 5 });
  await page.mouse.up();
  expect(await page.evaluate(() => [window.nodSway!.bench().transport.fromBar, window.nodSway!.bench().transport.toBar])).toEqual([3, 6]);
  await stems(page).hover();
});
