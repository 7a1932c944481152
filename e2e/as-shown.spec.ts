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
  await openMidi(
    page,
    'many.mid',
    midiFile(0, 480, [
      trackChunk(
        noteEvents(
          keys.map((key, i) => [i * 120, key, 90] as const),
          30,
        ),
      ),
    ]),
  );
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
  await expect(dialog.getByTestId('export-refusal')).toContainText('The time signature was changed');
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
  await page.evaluate(() =>
    window.nodSway!.bench().run('Solo', (p) => ({ ...p, rows: p.rows.map((r) => ({ ...r, muted: false, soloed: r.voice === 'kick' })) })),
  );
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
  await page.evaluate(() =>
    window
      .nodSway!.bench()
      .run('Tempo', (p) => ({ ...p, tempo: [{ ...p.tempo[0]! }, { tick: 4 * 80_640, microsecondsPerQuarter: 400_000 } as never] })),
  );
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
  const tempo = page.getByRole('spinbutton', { name: /^Tempo/i });
  await tempo.fill('90');
  await tempo.press('Enter');
  await page
    .getByRole('dialog', { name: 'Change the later tempos too?' })
    .getByRole('button', { name: 'Only up to the next change' })
    .click();
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

test('first steps stay where they are, ticked one by one, until they are dismissed; a new part has none', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(4).bytes);
  const card = page.getByRole('region', { name: 'First steps' });
  const add = page.getByRole('button', { name: 'Add swing' });
  await expect(add).toBeVisible();
  const before = await add.boundingBox();
  await expect(card.getByRole('button', { name: 'Soften the off-beat hats' })).toBeVisible();
  await card.getByRole('button', { name: 'Humanize it' }).click();
  await expect(card.getByRole('button', { name: 'Done: Humanize it' })).toBeVisible();
  // The part is no longer flat: the step that softens its hats stays, and nothing above moved.
  await expect(card.getByRole('button', { name: 'Soften the off-beat hats' })).toBeVisible();
  expect((await add.boundingBox())!.y).toBe(before!.y);
  await saved(page);
  await page.reload();
  await expect(card.getByRole('button', { name: 'Done: Humanize it' })).toBeVisible();
  await card.getByRole('button', { name: 'Dismiss' }).click();
  await expect(card).toBeHidden();
  await page.reload();
  await benchReady(page);
  await expect(page.getByRole('group', { name: 'Add a move' })).toBeVisible();
  await expect(card).toBeHidden();
});

test('a song that goes on after its drums: the import, the page Bars and the export say why the part is shorter', async ({ page }) => {
  const words = 'The part ends with its last drum hit, in bar 2. The song goes on to bar 5.';
  await importMidi(
    page,
    'song.mid',
    midiFile(1, 480, [
      trackChunk(
        noteEvents([
          [0, 36, 100],
          [1920, 38, 90],
        ]),
      ),
      trackChunk(
        noteEvents(
          [
            [0, 60, 80],
            [1920 * 4, 64, 80],
          ],
          480,
          2,
        ),
      ),
    ]),
  );
  await expect(page.getByText(words)).toBeVisible();
  await page.getByRole('tab', { name: /^Bars/i }).click();
  await expect(page.getByRole('tabpanel').getByText(words)).toBeVisible();
  const dialog = await exportDialog(page);
  await chooseExport(page, 'the song with these drums');
  const waiting = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export', exact: true }).click();
  await waiting;
  await expect(dialog.getByText(words)).toBeVisible();
});

test('selecting is no step; the view follows the loop, bars that were made, and the selection when zooming', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(8).bytes);
  const bench = () =>
    page.evaluate(() => {
      const { part, view, history, selection } = window.nodSway!.bench();
      return {
        bar: view.scroll / (4 * 80_640),
        pixels: view.pixelsPerQuarter,
        bars: part.bars,
        steps: history.undo.length,
        selected: selection.size,
      };
    });
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  expect(await bench()).toMatchObject({ steps: 0, bar: 0 });
  await page.keyboard.press('Escape');
  await page.getByRole('spinbutton', { name: 'Last bar of the loop' }).fill('8');
  await page.keyboard.press('Enter');
  await page.getByRole('spinbutton', { name: 'First bar of the loop' }).fill('6');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await bench()).bar).toBe(5);
  await page.getByRole('tab', { name: /^Bars/i }).click();
  await page.getByRole('button', { name: 'Double it' }).click();
  await expect.poll(bench).toMatchObject({ bar: 8, bars: 16, steps: 1 });
  await page.getByRole('button', { name: 'Double it' }).click();
  await expect.poll(bench).toMatchObject({ bar: 16, bars: 32, steps: 2 });
  await page.evaluate(() =>
    window.nodSway!.bench().select(
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.tick === 40 * 80_640)
        .map((h) => h.id),
    ),
  );
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Zoom in' }).click();
  const middle = await page.evaluate(() => {
    const { view } = window.nodSway!.bench();
    return (view.scroll + ((document.querySelector('[data-stems]')!.clientWidth / 2 - 28) / view.pixelsPerQuarter) * 80_640) / 80_640;
  });
  expect(middle).toBeCloseTo(40, 1);
});
