import { expect, test, type Page } from '@playwright/test';
import { violationsInBothThemes } from './axe';
import { benchReady, drag, exportMidi, flatBeat, openMidi, saved, stemOf, clickStem } from './support';

test('a tab that is killed loses no finished edit', async ({ page, context }) => {
  await openMidi(page, 'beat.mid', flatBeat().bytes);
  const url = page.url();
  await clickStem(page, await stemOf(page, 'snare', 0));
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowDown');
  await saved(page);
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await again.goto(url);
  await benchReady(again);
  expect(await again.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity)).toBe(88);
});

test('two tabs on one part: the idle one follows; what both changed is shown and chosen, and the other one kept', async ({
  page,
  context,
}) => {
  await openMidi(page, 'beat.mid', flatBeat().bytes);
  const other = await context.newPage();
  await other.goto(page.url());
  await benchReady(other);
  const snareOf = (tab: Page) => tab.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity);
  const movesOf = (tab: Page) => tab.evaluate(() => window.nodSway!.bench().part.feel.moves.map((m) => m.kind));
  await page.getByRole('button', { name: 'Add swing' }).click();
  await other.waitForFunction(() => window.nodSway!.bench().part.feel.moves.length === 1);
  await other.getByRole('button', { name: /^Undo/i }).click();
  await page.waitForFunction(() => window.nodSway!.bench().part.feel.moves.length === 0);
  await saved(other);

  // The other one holds a stem while this one goes on.
  const stem = await stemOf(other, 'snare', 0);
  await drag(other, { x: stem.headX, y: stem.headY }, { x: 0, y: 12 }, false);
  await page.getByRole('button', { name: 'Add humanize' }).click();
  await saved(page);
  expect(await movesOf(other)).toEqual([]);
  await other.mouse.up();
  const dialog = other.getByRole('dialog', { name: 'Changed in two tabs' });
  await expect(dialog.getByRole('region', { name: 'This tab' })).toContainText('One step');
  await expect(dialog.getByRole('region', { name: 'The other tab' })).toContainText('humanize');
  expect(await violationsInBothThemes(other, '[role=dialog]')).toEqual([]);
  const dragged = await snareOf(other);
  expect(dragged).toBeLessThan(100);
  await dialog.getByRole('button', { name: 'Use this tab’s version' }).click();
  await expect(dialog).toBeHidden();
  await saved(other);
  expect([await snareOf(other), await movesOf(other)]).toEqual([dragged, []]);
  // The first tab follows that as well, and what was not taken is a version.
  await page.waitForFunction((v) => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity === v, dragged);
  await page.getByRole('button', { name: 'Versions', exact: true }).click();
  await page.getByRole('button', { name: 'Restore From the other tab' }).click();
  await other.waitForFunction(() => window.nodSway!.bench().part.feel.moves[0]?.kind === 'humanize');
  expect(await snareOf(other)).toBe(100);
});

test('a store that refuses says so, and the work can still be exported', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat().bytes);
  await page.evaluate(() => {
    const { add } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.add = function (...args) {
      if (this.name === 'edits') throw new DOMException('no room', 'QuotaExceededError');
      return add.apply(this, args);
    };
  });
  await page.getByRole('button', { name: 'Add swing' }).click();
  await expect(page.getByTestId('save-trouble')).toContainText('no room left');
  await expect(page.getByTestId('save-state')).toHaveText('not saved');
  expect((await exportMidi(page)).length).toBeGreaterThan(100);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByTestId('save-trouble')).toContainText('no room left');
});

test('a part that is not there is explained', async ({ page }) => {
  await page.goto('/bench/nowhere');
  await expect(page.getByRole('heading', { name: 'This part is not on the Shelf.' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the Shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Low Tide' })).toBeVisible();
});
