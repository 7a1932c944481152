import { expect, test } from '@playwright/test';
import {
  clickStem,
  drag,
  drawn,
  exportMidi,
  flatBeat,
  importMidi,
  openMidi,
  notesOf,
  ppqOf,
  saved,
  stemOf,
  stems,
  type Note,
} from './support';

/** The whole path: a flat file in, shaped by hand, out again, compared number by number. */

const swung = (notes: Note[], percent: number): Note[] =>
  // At 960 ticks a quarter a pair of sixteenths lasts 480: its second half comes (percent/100 - 1/2) of it late.
  notes
    .map(([t, k, v]) => [t * 2 + ((t / 120) % 2 === 1 ? Math.floor((percent / 100 - 0.5) * 480 + 0.5) : 0), k, v] as Note)
    .sort((a, b) => a[0] - b[0] || a[1] - b[1]);

test('import, velocity and nudge by dragging, swing, undo and redo, export, reload', async ({ page }) => {
  const beat = flatBeat();
  await importMidi(page, 'flat_beat.mid', beat.bytes);
  await expect(page.getByLabel('Name of the part')).toHaveValue('flat beat');

  // Velocity: the snare's first hit pulled down; the head stays under the pointer.
  const snare = await stemOf(page, 'snare', 0);
  await drag(page, { x: snare.headX, y: snare.headY }, { x: 0, y: 20 });
  const softer = await stemOf(page, 'snare', 0);
  expect(Math.abs(softer.headY - (snare.headY + 20))).toBeLessThan(1);
  const velocity = await page.evaluate((id) => window.nodSway!.bench().part.hits.find((h) => h.id === id)!.velocity, snare.id);
  expect(velocity).toBeLessThan(80);

  // Nudge: the second snare pulled 8 px late.
  const second = await stemOf(page, 'snare', 1);
  await drag(page, { x: second.headX, y: second.headY }, { x: 8, y: 1 });
  const late = await stemOf(page, 'snare', 1);
  expect(Math.abs(late.headX - (second.headX + 8))).toBeLessThan(1);
  const ms = late.lean;
  expect(ms).toBeGreaterThan(3);

  // Swing, through the sentence's ratio.
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '3:2', exact: true }).click();
  await expect(page.getByTestId('swing-ms')).toHaveText('25.0 ms late');
  await expect(page.getByTestId('swing-word')).toHaveText('medium');

  const expected = swung(beat.notes, 60).map(([t, k, v]): Note => {
    if (k === 38 && t === 960 / 1) return [t, k, velocity];
    if (k === 38 && t === 2880) return [Math.floor(t + (ms / 1000) * 2 * 960 + 0.5), k, v];
    return [t, k, v];
  });
  const sorted = (list: Note[]): Note[] => [...list].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const out = await exportMidi(page);
  expect(ppqOf(out)).toBe(960);
  expect(notesOf(out)).toEqual(sorted(expected));
  expect(notesOf(await exportMidi(page, 'part', 'written'))).toEqual(
    sorted(beat.notes.map(([t, k, v]) => [t * 2, k, k === 38 && t === 480 ? velocity : v])),
  );

  // Each gesture is one step back: ratio, swing, nudge, velocity.
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  expect(notesOf(await exportMidi(page))).toEqual(beat.notes.map(([t, k, v]) => [t * 2, k, v]));
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('button', { name: 'Redo' })).toBeDisabled();

  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.nodSway?.scene());
  expect(notesOf(await exportMidi(page))).toEqual(sorted(expected));
});

test('the song with only its drums replaced keeps every other track', async ({ page }) => {
  await page.goto('/bench/demo-gangway-strut');
  await page.waitForFunction(() => window.nodSway?.scene());
  const before = await exportMidi(page, 'song', 'written');
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '2:1', exact: true }).click();
  const after = await exportMidi(page, 'song');
  for (const channel of [1, 2]) {
    expect(notesOf(after, channel).length).toBeGreaterThan(20);
    expect(notesOf(after, channel)).toEqual(notesOf(before, channel));
  }
  // 66.67 % of a pair of 480 ticks: 80.016 late, 80 when rounded.
  const moved = notesOf(before).map(([t, k, v]): Note => [t + (t % 480 === 240 ? 80 : 0), k, v]);
  expect(notesOf(after)).toEqual(moved.sort((a, b) => a[0] - b[0] || a[1] - b[1]));
});

test('select by click, adding and marquee; type a velocity; place, delete, Escape', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat().bytes);
  const count = () => page.evaluate(() => window.nodSway!.bench().selection.size);
  const hits = () => page.evaluate(() => window.nodSway!.bench().part.hits.length);
  await page.getByRole('tab', { name: 'Hits' }).click();

  await clickStem(page, await stemOf(page, 'snare', 0));
  expect(await count()).toBe(1);
  await clickStem(page, await stemOf(page, 'snare', 1), ['Shift']);
  expect(await count()).toBe(2);

  // A marquee over the first two hats' heads selects them; a drag on empty ground places nothing.
  const hat = await stemOf(page, 'hat-closed', 0);
  const third = await stemOf(page, 'hat-closed', 2);
  const before = await hits();
  await drag(page, { x: hat.headX - 12, y: hat.headY - 14 }, { x: third.headX - hat.headX + 24, y: 30 });
  expect(await count()).toBe(3);
  expect(await hits()).toBe(before);

  await clickStem(page, await stemOf(page, 'snare', 0));
  await page.getByRole('spinbutton', { name: 'Velocity' }).fill('77');
  await page.keyboard.press('Enter');
  await expect.poll(() => page.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity)).toBe(77);

  // Escape puts a drag back.
  const kick = await stemOf(page, 'kick', 1);
  await drag(page, { x: kick.headX, y: kick.headY }, { x: 0, y: 22 }, false);
  expect((await stemOf(page, 'kick', 1)).headY).toBeGreaterThan(kick.headY + 15);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await drawn(page);
  expect((await stemOf(page, 'kick', 1)).headY).toBeCloseTo(kick.headY, 3);

  // One click on an empty step of the kick row places a hit there; Delete takes it away.
  const first = await stemOf(page, 'kick', 0);
  const step = (kick.footX - first.footX) / 4;
  await stems(page).click({ position: { x: first.footX + 2 * step, y: first.footY - 10 } });
  expect(await hits()).toBe(before + 1);
  const placed = await page.evaluate(() => {
    const { part, selection } = window.nodSway!.bench();
    return part.hits.filter((h) => selection.has(h.id)).map((h) => [h.voice, h.tick]);
  });
  expect(placed).toEqual([['kick', 40320]]);
  await page.keyboard.press('Delete');
  expect(await hits()).toBe(before);
});

test('a long drag: the head stays within a pixel of the pointer, and order never changes', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat().bytes);
  const targets = [2, 5, 9].map((n) => ['hat-closed', n, n % 2 ? 9 : -9] as const);
  for (const [voice, n, dx] of targets) {
    const s = await stemOf(page, voice, n);
    await drag(page, { x: s.headX, y: s.headY }, { x: dx, y: 0 });
    const moved = await stemOf(page, voice, n);
    expect(moved.id).toBe(s.id);
    expect(Math.abs(moved.headX - s.headX - dx)).toBeLessThan(1);
  }
  for (const dy of [11, -17, 30]) {
    const s = await stemOf(page, 'snare', 2);
    const limited = await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.voice === 'snare')[2]!.velocity);
    await drag(page, { x: s.headX, y: s.headY }, { x: 0, y: dy });
    if (limited < 127) expect(Math.abs((await stemOf(page, 'snare', 2)).headY - s.headY - dy)).toBeLessThan(1);
  }
});
