import { expect, test, type Page } from '@playwright/test';
import { exportPart } from '../src/core/smf/export-part';
import { playTake, STYLES } from '../tests/support/takes';
import { exportMidi, notesOf, openMidi, press } from './support';

/** Which lines a take was meant for: read on import, shown, decided, read again, and what follows from it. */

const Q = 480;
const styleOf = (name: string) => STYLES.find((s) => s.name === name)!;
const take = playTake(styleOf('swung sixteenths'), 'very sloppy', 3021).part;
/** All of its strokes on one row: the most doubtful that it can be. */
const oneRow = exportPart(take, { ppq: Q }).bytes;
const KEYS: Readonly<Record<string, number>> = { kick: 36, snare: 38, 'hat-closed': 42 };
/** Without grace strokes, which keep their distance. */
const kit = exportPart(
  { ...take, hits: take.hits.filter((h) => h.velocity !== 40).map((h) => ({ ...h, key: KEYS[h.voice] ?? h.key })) },
  { ppq: Q },
).bytes;
const hits = (page: Page) =>
  page.evaluate(() =>
    window
      .nodSway!.bench()
      .part.hits.map(({ id, tick, home, sure, decided }) => ({ id, tick, home, sure: sure ?? 1, decided: decided === true })),
  );
const doubtful = async (page: Page) => (await hits(page)).filter((h) => h.sure < 0.9 && !h.decided);

async function openLines(page: Page, bytes: Uint8Array): Promise<void> {
  await openMidi(page, 'take.mid', bytes);
  await page.getByRole('tab', { name: 'Analysis' }).click();
  const lines = page.getByRole('button', { name: /^Lines/i });
  if ((await lines.getAttribute('aria-expanded')) !== 'true') await lines.click();
  await expect(page.getByTestId('lines-read')).toContainText('Sixteenths');
}

test('a swung take says how it swings; an uncertain hit is found and decided by keys, undone, and detected again', async ({ page }) => {
  await openLines(page, oneRow);
  await expect(page.getByTestId('lines-read')).toContainText(/swing \d\d %/i);
  // Most second sixteenths stand far behind their straight lines, and are not taken for triplets.
  const before = await hits(page);
  expect(before.filter((h) => h.home % (80640 / 4) !== 0)).toEqual([]);
  const [first] = await doubtful(page);
  expect(first).toBeDefined();
  await page.keyboard.press('Shift+N');
  await expect.poll(() => page.evaluate(() => [...window.nodSway!.bench().selection])).toEqual([first!.id]);
  await page.keyboard.press('Shift+S');
  const decided = (await hits(page)).find((h) => h.id === first!.id)!;
  expect(decided.decided).toBe(true);
  expect((await doubtful(page)).map((h) => h.id)).not.toContain(first!.id);
  await page.keyboard.press('Control+z');
  expect(await hits(page)).toEqual(before);
  await page.keyboard.press('Escape');
  await press(page, 'Detect again');
  await expect(page.getByText('Every hit keeps its line.')).toBeVisible();
  expect(await hits(page)).toEqual(before);
});

test('the swung grid moves lines and feet and nothing else; quantized with the swing as read, the export swings', async ({ page }) => {
  await openLines(page, kit);
  const written = notesOf(await exportMidi(page));
  const feet = () =>
    page.evaluate(() =>
      window
        .nodSway!.scene()!
        .stems.flat()
        .map((s) => Math.round(s.footX)),
    );
  const straight = await feet();
  await page.keyboard.press('Shift+W');
  await expect.poll(feet).not.toEqual(straight);
  expect(notesOf(await exportMidi(page))).toEqual(written);
  await press(page, 'Show straight grid');
  await expect.poll(feet).toEqual(straight);
  await press(page, 'Quantize with this swing');
  const move = await page.evaluate(
    () => window.nodSway!.bench().part.feel.moves.at(-1) as { kind: string; grid: string; swingPercent: number },
  );
  expect([move.kind, move.grid]).toEqual(['quantize', '1/16']);
  expect(move.swingPercent).toBeGreaterThan(56);
  await page
    .getByRole('spinbutton', { name: /^Strength/i })
    .first()
    .fill('100');
  await page.keyboard.press('Enter');
  await expect.poll(() => page.evaluate(() => (window.nodSway!.bench().part.feel.moves.at(-1) as { strength: number }).strength)).toBe(1);
  // Pulled all the way, every note lies on a sixteenth or on one that is swung.
  const pair = Q / 2;
  const places = notesOf(await exportMidi(page)).map(([t]) => Math.round(((t * (Q / 960)) % pair) * 10) / 10);
  expect(new Set(places).size).toBeLessThan(6);
});
