import { expect, test } from '@playwright/test';
import { clickStem, drawn, exportMidi, flatBeat, openMidi, notesOf, stemOf, stems, swingPercent } from './support';

test('by keyboard: select all, louder, later, undo, redo, delete', async ({ page }) => {
  const beat = flatBeat(1);
  await openMidi(page, 'beat.mid', beat.bytes);
  await page.keyboard.press('Control+a');
  for (const key of ['Shift+ArrowUp', 'ArrowUp', 'ArrowDown', 'ArrowDown']) await page.keyboard.press(key);
  for (const key of ['Shift+ArrowRight', 'ArrowLeft']) await page.keyboard.press(key);
  // 109, and 4 ms late: 7.68 ticks of 960 at 120 BPM.
  expect(notesOf(await exportMidi(page))).toEqual(beat.notes.map(([t, k]) => [t * 2 + 8, k, 109]));
  for (let i = 0; i < 6; i++) await page.keyboard.press('Control+z');
  expect(notesOf(await exportMidi(page))).toEqual(beat.notes.map(([t, k, v]) => [t * 2, k, v]));
  await page.keyboard.press('Control+y');
  expect(notesOf(await exportMidi(page))).toEqual(beat.notes.map(([t, k]) => [t * 2, k, 110]));
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.length)).toBe(0);
  await page.keyboard.press('Control+z');
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.length)).toBe(beat.notes.length);
});

test('Space plays and stops, also after a button was clicked, and presses a button that the keyboard reached', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '2:1', exact: true }).click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.getByRole('button', { name: '5:3', exact: true }).focus();
  await page.keyboard.press('Space');
  expect(await swingPercent(page)).toBe(62.5);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('arrows on the swing slider sweep the swing and leave the selection alone', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('slider', { name: 'Swing in percent' }).focus();
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowLeft');
  const state = async () => [
    await swingPercent(page),
    await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.nudge).length),
  ];
  expect(await state()).toEqual([79.5, 0]);
  await page.keyboard.press('Control+z');
  expect((await state())[0]).toBe(80);
});

test('sway 0 is the written part, halfway is half the swing', async ({ page }) => {
  const beat = flatBeat(1);
  await openMidi(page, 'beat.mid', beat.bytes);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '3:1', exact: true }).click();
  const sway = page.getByRole('spinbutton', { name: 'Sway in %' });
  for (const [percent, late] of [
    [50, 60],
    [0, 0],
    [100, 120],
  ] as const) {
    await sway.fill(String(percent));
    await sway.press('Enter');
    // 75 % of a pair of 480 ticks is 120 late.
    expect(notesOf(await exportMidi(page))).toEqual(
      beat.notes.map(([t, k, v]) => [t * 2 + ((t / 120) % 2 ? late : 0), k, v]).sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]!),
    );
  }
});

test('the wheel scrolls time and zooms around the pointer; the lens changes what a pixel means', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(8).bytes);
  const view = () => page.evaluate(() => ({ ...window.nodSway!.bench().view }));
  await stems(page).hover({ position: { x: 400, y: 300 } });
  const before = await view();
  await page.mouse.wheel(300, 0);
  await expect.poll(async () => (await view()).scroll).toBeGreaterThan(before.scroll);
  const place = async () => {
    const v = await view();
    return v.scroll + ((400 - 28) / v.pixelsPerQuarter) * 80640;
  };
  const under = await place();
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -200);
  await page.keyboard.up('Control');
  await expect.poll(async () => (await view()).pixelsPerQuarter).toBeGreaterThan(before.pixelsPerQuarter * 1.2);
  expect(Math.abs((await place()) - under)).toBeLessThan(2);

  await page.evaluate(() => window.nodSway!.bench().setView({ scroll: 0 as never }));
  await clickStem(page, await stemOf(page, 'snare', 0));
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await drawn(page);
  const aside = async () => {
    const s = await stemOf(page, 'snare', 0);
    return s.headX - s.footX;
  };
  const at20 = await aside();
  await page.getByRole('combobox', { name: 'Lean scale' }).click();
  await page.getByRole('option', { name: '10 ms' }).click();
  await drawn(page);
  expect(await aside()).toBeCloseTo(2 * at20, 1);
});

test('a new part: an empty bench that teaches, then a first hit', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New part' }).click();
  await page.getByRole('button', { name: 'Create part' }).click();
  await page.waitForURL(/\/bench\//);
  await page.waitForFunction(() => window.nodSway?.scene());
  await page.keyboard.press('Space');
  await expect(page.getByTestId('silence')).toContainText('click an empty step to place one');
  const scene = await page.evaluate(() => {
    const s = window.nodSway!.scene()!;
    const row = s.rows.find((r) => r.voice === 'kick')!;
    return { y: row.baseline - 12, x: 28 };
  });
  await stems(page).click({ position: scene });
  await expect(page.getByTestId('silence')).toBeHidden();
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 0);
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.map((h) => [h.voice, h.tick, h.key, h.velocity]))).toEqual([
    ['kick', 0, 36, 96],
  ]);
});

test('dropping a file anywhere on the shelf brings it in', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
  const bytes = [...flatBeat(1).bytes];
  await page.evaluate((data) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([new Uint8Array(data)], 'dropped_groove.mid', { type: 'audio/midi' }));
    const target = document.querySelector('main')!;
    for (const type of ['dragenter', 'dragover', 'drop'])
      target.dispatchEvent(new DragEvent(type, { dataTransfer: transfer, bubbles: true, cancelable: true }));
  }, bytes);
  await page.waitForURL(/\/bench\//);
  await expect(page.getByLabel('Name of the part')).toHaveValue('dropped groove');
});

test('Space is the transport’s after a click on a page, a checkbox, a field that was left; P and a letter open a page; Ctrl+S answers', async ({
  page,
}) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const playing = () => page.evaluate(() => window.nodSway!.engine.isPlaying);
  const plays = async (after: string) => {
    await page.keyboard.press('Space');
    await expect.poll(playing, after).toBe(true);
    await page.keyboard.press('Space');
    await expect.poll(playing, after).toBe(false);
  };
  await page.getByRole('tab', { name: 'Bars' }).click();
  await plays('a page');
  await page.getByRole('tab', { name: 'Feel' }).click();
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('checkbox', { name: /^at equal loudness/i }).check();
  await plays('a checkbox');
  await page.getByRole('spinbutton', { name: 'Tempo in BPM' }).fill('131');
  await page.keyboard.press('Enter');
  await plays('a field that was left by Enter');
  await page.getByRole('spinbutton', { name: 'Tempo in BPM' }).fill('77');
  await page.keyboard.press('Escape');
  await plays('a field that was left by Escape');
  expect(await page.evaluate(() => Math.round(60e6 / window.nodSway!.bench().part.tempo[0]!.microsecondsPerQuarter))).toBe(131);
  // Where text is typed it is a blank.
  await page.getByRole('textbox', { name: 'Name of the part' }).fill('beat');
  await page.keyboard.press('Space');
  expect(await playing()).toBe(false);
  await expect(page.getByRole('textbox', { name: 'Name of the part' })).toHaveValue('beat ');
  await page.keyboard.press('Escape');
  for (const [letter, title] of [
    ['t', 'Takes'],
    ['h', 'Hits'],
    ['b', 'Bars'],
    ['f', 'Feel'],
  ] as const) {
    await page.keyboard.press('p');
    await expect(page.getByText(/^P, then a letter/i)).toBeVisible();
    await page.keyboard.press(letter);
    await expect(page.getByRole('tab', { name: title })).toHaveAttribute('aria-selected', 'true');
  }
  await page.keyboard.press('Control+s');
  await expect(page.getByText(/^Saved at \d\d:\d\d:\d\d/i)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: /i)).toBeVisible();
});

test('from the hits to any section of a page in at most twelve presses', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const here = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent ?? '');
  const presses = async (letter: string, wanted: string | RegExp): Promise<number> => {
    await page.keyboard.press('p');
    await page.keyboard.press(letter);
    await expect(page.getByRole('tabpanel')).toBeVisible();
    for (let n = 2; n <= 12; n++) {
      if (new RegExp(wanted).test(await here())) return n;
      await page.keyboard.press('ArrowDown');
    }
    return Infinity;
  };
  const before = await page.evaluate(() => window.nodSway!.bench().history.undo.length);
  for (const [letter, section] of [
    ['f', /^Feel presets/],
    ['h', /^Copies and shifts/],
    ['b', /^Time signature and grid/],
    ['t', /^MIDI out/],
  ] as const) {
    await expect.poll(() => presses(letter, section)).toBeLessThanOrEqual(12);
    await page.keyboard.press('Escape');
  }
  // The arrows went through the page and moved no hit.
  expect(await page.evaluate(() => window.nodSway!.bench().history.undo.length)).toBe(before);
});
