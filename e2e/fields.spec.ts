import { expect, test, type Page } from '@playwright/test';
import { benchReady, clickStem, drag, drawn, flatBeat, openMidi, openDemo, stemOf, swingPercent } from './support';

const undoSteps = (page: Page) => page.evaluate(() => window.nodSway!.bench().history.undo.length);

test('a number takes typing, arrows, the wheel, a drag on its unit or itself, and a double-click for its default', async ({ page }) => {
  await openDemo(page, 'Fog Signal');
  await page.getByRole('button', { name: 'Add swing' }).click();
  const field = page.getByRole('spinbutton', { name: 'Swing in %' });
  await field.fill('61,5');
  await field.press('Enter');
  expect(await swingPercent(page)).toBe(61.5);
  await field.press('ArrowDown');
  expect(await swingPercent(page)).toBe(60.5);
  await field.press('Shift+ArrowUp');
  expect(await swingPercent(page)).toBe(60.6);
  await field.press('PageUp');
  expect(await swingPercent(page)).toBe(70.6);
  await field.focus();
  await field.hover();
  await page.mouse.wheel(0, -100);
  await expect.poll(() => swingPercent(page)).toBe(71.6);
  await field.fill('nonsense');
  await field.press('Enter');
  expect(await swingPercent(page)).toBe(71.6);
  await field.fill('500');
  await field.press('Enter');
  expect(await swingPercent(page)).toBe(80);

  const unit = page.locator('label', { has: field }).locator('span').last();
  await unit.hover();
  const box = (await unit.boundingBox())!;
  const before = await undoSteps(page);
  await page.mouse.move(box.x + 4, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 4, box.y + 28, { steps: 5 });
  await page.mouse.move(box.x + 4, box.y + 48, { steps: 5 });
  await page.mouse.up();
  // Four pixels are one step.
  expect(await swingPercent(page)).toBe(70);
  expect(await undoSteps(page)).toBe(before + 1);
  await unit.dblclick();
  expect(await swingPercent(page)).toBe(50);
  // The figure itself is dragged too, and takes a click and a double-click as before.
  await field.blur();
  const figure = (await field.boundingBox())!;
  await page.mouse.move(figure.x + 20, figure.y + 10);
  await page.mouse.down();
  await page.mouse.move(figure.x + 20, figure.y - 10, { steps: 5 });
  await page.mouse.move(figure.x + 20, figure.y - 30, { steps: 5 });
  await page.mouse.up();
  expect(await swingPercent(page)).toBe(60);
  await expect(field).not.toBeFocused();
  await field.click();
  await expect(field).toBeFocused();
  await field.blur();
  await field.dblclick();
  expect(await swingPercent(page)).toBe(50);
});

test('a sweep of the slider is one step back', async ({ page }) => {
  await openDemo(page, 'Fog Signal');
  await page.getByRole('button', { name: 'Add swing' }).click();
  const before = await undoSteps(page);
  const thumb = page.getByRole('slider', { name: 'Swing in percent' });
  const box = (await thumb.boundingBox())!;
  await page.mouse.move(box.x + 8, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 8, { steps: 12 });
  await page.mouse.move(box.x + 90, box.y + 8, { steps: 12 });
  await page.mouse.up();
  expect(await swingPercent(page)).toBeGreaterThan(65);
  expect(await undoSteps(page)).toBe(before + 1);
  await page.keyboard.press('Control+z');
  expect(await swingPercent(page)).toBeCloseTo(56, 2);
});

test('several hits: the mean is moved, the shape stays; a level sets all; Shift is fine', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await page.getByRole('tab', { name: 'Hits' }).click();
  const first = await stemOf(page, 'kick', 0);
  await drag(page, { x: first.headX, y: first.headY }, { x: 0, y: 18 });
  const soft = await page.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'kick')!.velocity as number);
  await clickStem(page, await stemOf(page, 'kick', 0));
  await clickStem(page, await stemOf(page, 'kick', 1), ['Shift']);
  const field = page.getByRole('spinbutton', { name: 'Mean velocity' });
  await expect(field).toHaveValue(((soft + 100) / 2).toFixed(1));
  await field.fill(String((soft + 100) / 2 + 10));
  await field.press('Enter');
  const kicks = () =>
    page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.voice === 'kick')
        .map((h) => h.velocity as number),
    );
  expect(await kicks()).toEqual([soft + 10, 110, 100, 100]);
  await page.getByRole('combobox', { name: 'What to do' }).click();
  await page.getByRole('option', { name: 'set', exact: true }).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Apply' }).click();
  const [a, b] = await kicks();
  expect(a).toBe(b);
  await page.getByRole('button', { name: 'More about Kick' }).click();
  await page.getByRole('menuitem', { name: 'Select all hits of the row' }).click();
  await page.getByRole('button', { name: 'Marks' }).click();
  await page.getByRole('button', { name: 'Make ghosts', exact: true }).click();
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.ghost).length)).toBe(4);
});

test('duplicates are offered to be merged', async ({ page }) => {
  const beat = flatBeat(1);
  await openMidi(page, 'beat.mid', beat.bytes);
  await page.evaluate(() =>
    window.nodSway!.bench().run('double', (p) => ({
      ...p,
      hits: p.hits.flatMap((h) => (h.voice === 'snare' ? [h, { ...h, id: `${h.id}.9`, velocity: 60 as never }] : [h])),
    })),
  );
  await page.getByRole('tab', { name: 'Hits' }).click();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Marks' }).click();
  await page.getByRole('button', { name: 'Merge 2 duplicates' }).click();
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.length)).toBe(beat.notes.length);
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.voice === 'snare')
        .map((h) => h.velocity as number),
    ),
  ).toEqual([100, 100]);
});

test('renaming, the theme and the search of the shelf', async ({ page }) => {
  await openDemo(page, 'Net Menders');
  const name = page.getByLabel('Name of the part');
  await name.fill('Net Menders, second draft');
  await name.press('Enter');
  await expect(page).toHaveTitle('Net Menders, second draft · Nod Sway');
  await page.getByRole('button', { name: 'Dark theme' }).click();
  await drawn(page);
  const corner = await page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=stems] canvas')!;
    return [...canvas.getContext('2d')!.getImageData(3, canvas.height - 3, 1, 1).data].slice(0, 3);
  });
  expect(corner).toEqual([0x1e, 0x1c, 0x19]);
  await page.getByRole('link', { name: 'Back to the Shelf' }).click();
  const cards = page.getByRole('listitem').filter({ has: page.getByRole('heading') });
  await expect(cards).toHaveCount(6);
  await page.getByLabel('Search the shelf').fill('second draft 2/4');
  await expect(cards).toHaveCount(1);
  await page.getByLabel('Search the shelf').fill('no such part');
  await expect(page.getByText('No part matches “no such part”.')).toBeVisible();
});

test('the jump goes to the next bar that differs', async ({ page }) => {
  await page.goto('/bench/demo-gangway-strut');
  await benchReady(page);
  const bar = () => page.evaluate(() => window.nodSway!.bench().view.scroll / (4 * 80640));
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await page.getByRole('button', { name: 'Zoom in' }).click();
  const seen: number[] = [];
  for (let i = 0; i < 3; i++) {
    await page.getByRole('button', { name: 'Next different bar' }).click();
    await drawn(page);
    seen.push(await bar());
  }
  // Zooming kept the middle of the first two bars in the middle.
  expect(seen).toEqual([2, 3, 4]);
});
