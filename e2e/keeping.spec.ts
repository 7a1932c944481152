import { expect, test } from '@playwright/test';
import { benchReady, exportMidi, flatBeat, openMidi, saved, stemOf, clickStem } from './support';

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

test('two tabs on one part do not overwrite each other silently', async ({ page, context }) => {
  await openMidi(page, 'beat.mid', flatBeat().bytes);
  const other = await context.newPage();
  await other.goto(page.url());
  await benchReady(other);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await saved(page);

  await clickStem(other, await stemOf(other, 'snare', 0));
  await other.keyboard.press('ArrowDown');
  const trouble = other.getByTestId('save-trouble');
  await expect(trouble).toContainText('changed in another tab');
  // Mine is kept as a copy, with the song; the first tab's version is untouched.
  const first = other.url();
  await trouble.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await other.waitForURL((url) => url.href !== first);
  await benchReady(other);
  expect(await other.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity)).toBe(99);
  await page.reload();
  await benchReady(page);
  expect(await page.evaluate(() => window.nodSway!.bench().part.feel.moves.length)).toBe(1);
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity)).toBe(100);
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
  await expect(page.getByRole('heading', { name: 'This part is not on the shelf.' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Low Tide' })).toBeVisible();
});

