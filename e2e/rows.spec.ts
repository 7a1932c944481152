import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import {
  chooseExport,
  exportMidi,
  importMidi,
  midiFile,
  noteEvents,
  notesOf,
  openMidi,
  press,
  stems,
  tempoEvent,
  trackChunk,
  type Note,
} from './support';

const Q = 480;
/** Two snares in turn over four bars, hats on the eighths, kick; a bass on another track. */
const drums: Note[] = Array.from({ length: 4 }, (_, bar) => bar * 4 * Q).flatMap((start): Note[] => [
  ...Array.from({ length: 8 }, (_, i): Note => [start + (i * Q) / 2, 42, i % 2 ? 60 : 84]),
  [start, 36, 110],
  [start + Q, 38, 100],
  [start + 2 * Q, 36, 104],
  [start + 3 * Q, 40, 96],
  [start + 3.5 * Q, 40, 40],
]);
const song = midiFile(1, Q, [
  trackChunk([tempoEvent(0, 500_000)]),
  trackChunk(
    noteEvents(
      [
        [0, 36, 90],
        [960, 40, 80],
      ],
      200,
      1,
    ),
  ),
  trackChunk(noteEvents(drums, 30)),
]);
const rowsNow = () => window.nodSway!.bench().part.rows.map((r) => r.name ?? r.voice);

test('two snares of an imported song are shaped apart: only one changes in the exported song', async ({ page }) => {
  await importMidi(page, 'two snares.mid', song);
  expect(await page.evaluate(rowsNow)).toEqual(['hat-closed', 'snare', 'snare:2', 'kick']);
  const before = notesOf(await exportMidi(page, 'song'));
  await page.getByRole('button', { name: 'More about Snare 2' }).click();
  await page.getByRole('menuitem', { name: 'Select all hits of the row' }).click();
  await expect.poll(() => page.evaluate(() => window.nodSway!.bench().selection.size)).toBe(8);
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowUp');
  const after = await exportMidi(page, 'song');
  // Three times 10 louder, up to 127, and no other note of the drums another.
  expect(notesOf(after)).toEqual(before.map(([t, k, v]) => [t, k, k === 40 ? Math.min(127, v + 30) : v]));
  expect(notesOf(after, 1).map(([, k, v]) => [k, v])).toEqual([
    [36, 90],
    [40, 80],
  ]);
});

test('soft hits split from the row, a second hat layer muted alone, a row given another instrument: each in the file', async ({ page }) => {
  await openMidi(
    page,
    'beat.mid',
    midiFile(0, Q, [
      trackChunk([
        tempoEvent(0, 500_000),
        ...noteEvents(
          drums.filter(([, k]) => k !== 40),
          30,
        ),
      ]),
    ]),
  );
  const open = async (row: string) => {
    await press(page, `More about ${row}`);
    await page.getByRole('menuitem', { name: 'Instrument, key, split, layer, merge …' }).click();
  };
  const keys = async (): Promise<Record<number, number>> => {
    const counts: Record<number, number> = {};
    for (const [, key] of notesOf(await exportMidi(page))) counts[key] = (counts[key] ?? 0) + 1;
    return counts;
  };
  await open('Closed hat');
  await page.getByRole('spinbutton', { name: 'Velocity up to' }).fill('70');
  await page.keyboard.press('Tab');
  await press(page, 'Split the row');
  expect(await page.evaluate(rowsNow)).toEqual(['hat-closed', 'hat-closed:2', 'snare', 'kick']);
  expect(await keys()).toEqual({ 22: 16, 36: 8, 38: 4, 42: 16 });

  // The layer doubles the snares at 70 %, and is muted by itself.
  await open('Snare');
  await press(page, 'Double it');
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.voice === 'snare:2')
        .map((h) => [h.velocity, h.key]),
    ),
  ).toEqual(Array.from({ length: 4 }, () => [70, 40]));
  expect(await keys()).toEqual({ 22: 16, 36: 8, 38: 4, 40: 4, 42: 16 });
  await press(page, 'Mute Snare 2');
  expect(await keys()).toEqual({ 22: 16, 36: 8, 38: 4, 42: 16 });

  // The soft hats are played by a shaker from now on: heard and written.
  await open('Closed hat 2');
  await page.getByRole('combobox', { name: 'Play it with' }).click();
  await page.getByRole('option', { name: 'Shaker' }).click();
  await press(page, 'Change instrument');
  expect(await keys()).toEqual({ 36: 8, 38: 4, 42: 16, 82: 16 });
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  expect(await page.evaluate(rowsNow)).toEqual(['hat-closed', 'snare', 'kick']);
  expect(await keys()).toEqual({ 36: 8, 38: 4, 42: 32 });
});

test('a row of one’s own is named, painted on, written beside General MIDI, or with its keys alone; it outlives a reload', async ({
  page,
}) => {
  await openMidi(page, 'beat.mid', midiFile(0, Q, [trackChunk([tempoEvent(0, 500_000), ...noteEvents(drums.slice(0, 13), 30)])]));
  await press(page, 'Rows');
  await page.getByRole('menuitem', { name: 'Add row …' }).click();
  await page.getByRole('option', { name: 'Row with your own name …' }).click();
  await page.getByLabel('Name of the row').fill('Tin lid');
  await page.getByRole('combobox', { name: 'What it sounds like' }).click();
  await page.getByRole('option', { name: 'Cowbell' }).click();
  await press(page, 'Add the row');
  expect(await page.evaluate(rowsNow)).toEqual(['Tin lid', 'hat-closed', 'snare', 'snare:2', 'kick']);
  const row = await page.evaluate(() => window.nodSway!.bench().part.rows[0]!.voice);
  const place = await page.evaluate(() => ({ x: 28, y: window.nodSway!.scene()!.rows[0]!.baseline - 12 }));
  await stems(page).click({ position: place });
  await expect
    .poll(() =>
      page.evaluate(
        (r) =>
          window
            .nodSway!.bench()
            .part.hits.filter((h) => h.voice === r)
            .map((h) => h.key),
        row,
      ),
    )
    .toEqual([22]);
  const [tick] = await page.evaluate(
    (r) =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.voice === r)
        .map((h) => h.tick / 84),
    row,
  );
  expect(
    notesOf(await exportMidi(page))
      .filter(([, k]) => k === 22)
      .map(([t]) => t),
  ).toEqual([tick]);

  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await chooseExport(page, 'the drum part alone');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('checkbox', { name: /General MIDI keys only/i }).check();
  const waiting = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export', exact: true }).click();
  const bytes = new Uint8Array(readFileSync(await (await waiting).path()));
  expect(
    notesOf(bytes)
      .filter(([, k]) => k === 56)
      .map(([t]) => t),
  ).toEqual([tick]);
  expect(notesOf(bytes).filter(([, k]) => k < 35)).toEqual([]);
  await expect(dialog.getByText('Written with General MIDI keys of what is nearest: tin lid.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect
    .poll(() => page.evaluate(() => window.nodSway?.bench().part.rows[0]))
    .toEqual({ voice: row, name: 'Tin lid', like: 'cowbell' });
});
