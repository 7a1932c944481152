import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { violationsInBothThemes } from './axe';
import { exportMidi, flatBeat, meterEvent, midiFile, noteEvents, notesOf, openMidi, press, tempoEvent, trackChunk } from './support';

/** Patterns carried from part to part, and fills, checked by the exported bytes. */

const hats = (bytes: Uint8Array): string[] =>
  notesOf(bytes)
    .filter(([, key]) => key === 42)
    .map(([tick, , velocity]) => `${tick}:${velocity}`);

test('a hat pattern is kept and put into another part at another tempo, heard before it is taken; taken back, the part is as it was', async ({
  page,
}) => {
  const { bytes } = flatBeat(1, 90);
  await openMidi(page, 'beat.mid', bytes);
  await page.evaluate(() => {
    const { part, run, setFocus } = window.nodSway!.bench();
    run('shape', (p) => ({
      ...p,
      hits: p.hits.map((h, i) => (h.voice === 'hat-closed' ? { ...h, velocity: (60 + (i % 5) * 10) as typeof h.velocity } : h)),
    }));
    setFocus(part.rows.find((r) => r.voice === 'hat-closed')!.voice);
    window.nodSway!.bench().setUi({ dialog: 'patterns' });
  });
  const source = hats(
    await (async () => {
      await page.getByRole('textbox', { name: 'Name for this pattern' }).fill('Sixteen hats');
      await page.getByRole('button', { name: 'Save this pattern' }).click();
      await expect(page.getByText('Sixteen hats is saved for every part.')).toBeVisible();
      await page.keyboard.press('Escape');
      return exportMidi(page);
    })(),
  );
  expect(new Set(source.map((s) => s.split(':')[1])).size).toBeGreaterThan(3);

  // Another part: slower, two kicks and two hats.
  await openMidi(
    page,
    'slow.mid',
    midiFile(0, 480, [
      trackChunk([
        tempoEvent(0, 1_000_000),
        meterEvent(0, 4, 2),
        ...noteEvents(
          [
            [0, 36, 100],
            [0, 42, 33],
            [960, 36, 100],
            [1000, 42, 34],
          ],
          60,
        ),
      ]),
    ]),
  );
  const before = await exportMidi(page);
  const put = async (way: 'beside' | 'instead') => {
    await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'patterns' }));
    await page
      .getByRole('button', { name: `Paste Sixteen hats ${way} ${way === 'beside' ? 'what is there' : 'of what is there'}` })
      .click();
  };
  await put('instead');
  await expect(page.getByText('Sixteen hats: 16 hits, in place of 2.')).toBeVisible();
  expect(await page.evaluate(() => window.nodSway!.bench().underway?.kind)).toBe('trial');
  await page.keyboard.press('Enter');
  expect(hats(await exportMidi(page))).toEqual(source);
  await page.keyboard.press('Control+z');
  expect(await exportMidi(page)).toEqual(before);
  await put('beside');
  // The hat on the first line stays, and is said to.
  await expect(page.getByText(/left out, since a hit stands there/i)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => page.evaluate(() => window.nodSway!.bench().underway)).toBeNull();
  expect(await exportMidi(page)).toEqual(before);

  // In the Library it is heard by itself, given another name, taken out, deleted and brought in again.
  await page.goto('/library');
  await press(page, 'Hear Sixteen hats');
  await press(page, 'Stop Sixteen hats');
  await press(page, 'Rename Sixteen hats');
  await page.getByRole('textbox', { name: 'New name of Sixteen hats' }).fill('Hats');
  await page.keyboard.press('Enter');
  const waiting = page.waitForEvent('download');
  await press(page, 'Export Hats');
  const file = readFileSync(await (await waiting).path());
  await press(page, 'Delete Hats');
  await expect(page.getByText('No patterns yet.')).toBeVisible();
  // As everywhere, Ctrl Z brings it back.
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Hear Hats' })).toBeVisible();
  await press(page, 'Delete Hats');
  await expect(page.getByText('No patterns yet.')).toBeVisible();
  await expect(page.getByText('Hats is deleted.').first()).toBeVisible();
  expect(await violationsInBothThemes(page)).toEqual([]);
  await page
    .getByLabel('Files for the library')
    .setInputFiles({ name: 'hats.nodpattern.json', mimeType: 'application/json', buffer: file });
  await expect(page.getByRole('button', { name: 'Hear Hats' })).toBeVisible();
  expect(await violationsInBothThemes(page)).toEqual([]);
});

test('a fill is chosen from three pictures, heard in the loop, kept and undone: only the end of its bar changes', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(2, 100).bytes);
  const before = await exportMidi(page);
  await page.getByRole('tab', { name: /^Bars/i }).click();
  await page.getByRole('button', { name: /^Fills/i }).click();
  await page.getByRole('button', { name: 'Hear fill 1' }).click();
  await page.getByRole('button', { name: 'Hear fill 2' }).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Apply' }).click();
  const notes = notesOf(await exportMidi(page));
  // Bar 2 ends at 7680; a fill of two beats begins at 5760. What lies before is as it was.
  const plain = notesOf(before);
  expect(notes.filter(([t]) => t > 0 && t < 5760)).toEqual(plain.filter(([t]) => t > 0 && t < 5760));
  const fill = notes.filter(([t, key]) => t >= 5760 && key !== 36);
  // The pedal keeps time under the snare.
  expect(fill.every(([, key]) => key === 38 || key === 44)).toBe(true);
  expect(fill.filter(([, key]) => key === 44).map(([t]) => Math.round(t / 960))).toEqual([6, 7]);
  expect(fill.length).toBeGreaterThan(4);
  expect(Math.max(...fill.map(([, , v]) => v))).toBeGreaterThan(105);
  // The kick keeps on under it.
  expect(notes.filter(([t, key]) => t >= 5760 && key === 36)).toEqual(plain.filter(([t, key]) => t >= 5760 && key === 36));
  await press(page, 'Undo');
  expect(await exportMidi(page)).toEqual(before);
});

test('a bar is varied: proposals are seen and heard, one left out, the others kept; the backbeat stays, undo brings all back', async ({
  page,
}) => {
  await openMidi(page, 'beat.mid', flatBeat(4, 70).bytes);
  const before = await exportMidi(page);
  await page.getByRole('tab', { name: /^Bars/i }).click();
  await page.getByRole('button', { name: /^Vary/i }).click();
  await page.getByRole('button', { name: 'Propose' }).click();
  const changes = page.getByRole('list', { name: 'Proposed changes' }).getByRole('checkbox');
  // 22 strokes in the bar: 15 % are three.
  await expect(changes).toHaveCount(3);
  await changes.nth(1).uncheck();
  await page.getByRole('button', { name: 'Apply 2' }).click();
  const after = notesOf(await exportMidi(page));
  const plain = notesOf(before);
  expect(after.filter(([t]) => t < 3 * 3840)).toEqual(plain.filter(([t]) => t < 3 * 3840));
  expect(after).not.toEqual(plain);
  const differs = [
    ...after.filter((a) => !plain.some((b) => String(a) === String(b))),
    ...plain.filter((a) => !after.some((b) => String(a) === String(b))),
  ];
  expect(differs.length).toBeGreaterThanOrEqual(2);
  expect(differs.length).toBeLessThanOrEqual(4);
  await press(page, 'Undo');
  expect(await exportMidi(page)).toEqual(before);
});
