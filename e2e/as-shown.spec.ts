import { expect, test, type Page } from '@playwright/test';
import { chooseExport, flatBeat, importMidi, midiFile, noteEvents, openMidi, openShelf, benchReady, saved, trackChunk } from './support';

/** What is shown is what is there: names beside their hits, exports that can be done, loops and tempos that stay. */

const exportDialog = async (page: Page) => {
  await page.getByRole('button', { name: 'Export' }).first().click();
  return page.getByRole('dialog', { name: 'Export' });
};

test('names and hits keep one scroll position, whatever scrolls them', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 480 });
  const keys = [49, 55, 52, 51, 53, 46, 42, 44, 54, 82, 38, 37, 45, 41, 36];
  await openMidi(page, 'many.mid', midiFile(0, 480, [trackChunk(noteEvents(keys.map((key, i) => [i * 120, key, 90] as const), 30))]));
  const offsets = () =>
    page.evaluate(() => {
      const top = document.querySelector('[data-row-names]')!.getBoundingClientRect().top;
      return window.nodSway!.scene()!.rows.map((row) => {
        const name = document.querySelector(`[data-row-names] [data-row="${row.voice}"]`)!.getBoundingClientRect();
        return Math.round(Math.abs(name.top - top - row.top));
      });
    });
  const last = page.getByRole('button', { name: 'More about Kick' });
  await last.focus();
  await expect(last).toBeInViewport();
  await expect.poll(offsets).toEqual(keys.map(() => 0));
  const first = page.getByRole('button', { name: 'Mute Crash' });
  await first.focus();
  await expect(first).toBeInViewport();
  await expect.poll(offsets).toEqual(keys.map(() => 0));
});

test('an export that cannot be done, or would be empty, says so before it is tried', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(2).bytes);
  await page.evaluate(() => window.nodSway!.bench().run('Meter', (p) => ({ ...p, meter: [{ ...p.meter[0]!, numerator: 3 }] })));
  const dialog = await exportDialog(page);
  await chooseExport(page, 'the song with these drums');
  await expect(dialog.getByTestId('export-refusal')).toContainText('The meter was changed');
  await expect(dialog.getByRole('button', { name: 'Export', exact: true })).toBeDisabled();
  await chooseExport(page, 'the drum part alone');
  await expect(dialog.getByTestId('export-refusal')).toBeHidden();
  await expect(dialog.getByRole('button', { name: 'Export', exact: true })).toBeEnabled();
  await page.keyboard.press('Escape');
  await page.evaluate(() => window.nodSway!.bench().run('Mute', (p) => ({ ...p, rows: p.rows.map((r) => ({ ...r, muted: true })) })));
  await exportDialog(page);
  await chooseExport(page, 'the drum part alone');
  await expect(dialog.getByTestId('export-refusal')).toContainText('Muted, so not exported');
  await chooseExport(page, 'the sound');
  await expect(dialog.getByTestId('export-refusal')).toContainText('No row with hits can be heard');
  await page.keyboard.press('Escape');
  await page.evaluate(() => window.nodSway!.bench().run('Solo', (p) => ({ ...p, rows: p.rows.map((r) => ({ ...r, muted: false, soloed: r.voice === 'kick' })) })));
  await exportDialog(page);
  await chooseExport(page, 'the sound');
  await expect(dialog).toContainText('Solo is on: only kick is exported, without closed hat, snare.');
});

test('an export that is left goes on, and says when it is done', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(8).bytes);
  const dialog = await exportDialog(page);
  await chooseExport(page, 'the sound');
  const file = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  expect((await file).suggestedFilename()).toBe('beat 120bpm 4bars Wheelhouse.wav'.replace('4bars', '8bars'));
  await expect(page.getByText('was downloaded')).toBeVisible();
});

test('the loop is kept with the part, and later tempos are asked about once', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(4).bytes);
  await page.evaluate(() => window.nodSway!.bench().run('Tempo', (p) => ({ ...p, tempo: [{ ...p.tempo[0]! }, { tick: 4 * 80_640, microsecondsPerQuarter: 400_000 } as never] })));
  await saved(page);
  const from = page.getByRole('spinbutton', { name: 'First bar of the loop' });
  await from.fill('2');
  await from.press('Enter');
  const to = page.getByRole('spinbutton', { name: 'Last bar of the loop' });
  await to.fill('3');
  await to.press('Enter');
  const kept = () =>
    page.evaluate(async () => {
      const db = await new Promise<IDBDatabase>((done) => {
        const request = indexedDB.open('nod-sway');
        request.onsuccess = () => done(request.result);
      });
      const rows = await new Promise<{ name: string; loop?: object }[]>((done) => {
        const request = db.transaction('parts').objectStore('parts').getAll();
        request.onsuccess = () => done(request.result as { name: string; loop?: object }[]);
      });
      db.close();
      return rows.find((row) => row.name === 'beat')?.loop;
    });
  await expect.poll(kept).toEqual({ loop: true, fromBar: 1, toBar: 3 });
  await page.goto('/');
  await page.getByRole('heading', { name: 'beat', exact: true }).click();
  await benchReady(page);
  await expect(from).toHaveValue('2');
  await expect(to).toHaveValue('3');
  await expect(page.getByRole('button', { name: 'Loop', exact: true })).toHaveAttribute('aria-pressed', 'true');

  const tempos = () => page.evaluate(() => window.nodSway!.bench().part.tempo.map((t) => Math.round(60e6 / t.microsecondsPerQuarter)));
  const tempo = page.getByRole('spinbutton', { name: /^Tempo/ });
  await tempo.fill('90');
  await tempo.press('Enter');
  await page.getByRole('dialog', { name: 'Change the later tempos too?' }).getByRole('button', { name: 'Only up to the next change' }).click();
  await expect.poll(tempos).toEqual([90, 150]);
  // It is not asked again.
  await tempo.fill('100');
  await tempo.press('Enter');
  await expect.poll(tempos).toEqual([100, 150]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(tempos).toEqual([120, 150]);
  await openShelf(page);
});
