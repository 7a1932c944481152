import { expect, test, type Page } from '@playwright/test';
import {
  clickStem,
  drag,
  drawn,
  flatBeat,
  meterEvent,
  midiFile,
  noteEvents,
  openDemo,
  openMidi,
  stemOf,
  stems,
  tempoEvent,
  trackChunk,
  type Note,
  press,
} from './support';

/** What lies under the pointer is what is meant, and nothing that is clicked moves. */

const labels = (page: Page) => page.evaluate(() => window.nodSway!.bench().history.undo.map((e) => e.label));
const selection = (page: Page) => page.evaluate(() => [...window.nodSway!.bench().selection]);

test('a hit tells its place, how loud it is written and heard, and where its lean comes from', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await press(page, 'Add lay back');
  await page.getByRole('spinbutton', { name: /^Lay/i }).fill('11');
  await page.keyboard.press('Enter');
  const snare = await stemOf(page, 'snare', 0);
  await drag(page, { x: snare.headX, y: snare.headY }, { x: 12, y: 0 });
  const box = (await stems(page).boundingBox())!;
  const now = await stemOf(page, 'snare', 0);
  await page.mouse.move(box.x + 2, box.y + 60);
  await page.mouse.move(box.x + now.headX, box.y + now.headY);
  await drawn(page);
  const tip = await page.evaluate(() => window.nodSway!.tip());
  expect(tip?.title).toBe('Snare, bar 1 · 2');
  expect(tip?.velocity).toBe('velocity 100');
  // 11 ms by the move, the rest by hand: together what it leans.
  const [, lean, lay, hand] = /^([\d.]+) ms late: ([\d.]+) lay back, ([\d.]+) by hand$/.exec(tip!.lean)!;
  expect(Number(lay)).toBe(11);
  expect(Math.abs(Number(lean) - 11 - Number(hand))).toBeLessThanOrEqual(0.6);
  expect(Math.abs(Number(lean) - now.lean)).toBeLessThanOrEqual(0.5);
  await page.mouse.move(box.x + 2, box.y + 60);
  expect(await page.evaluate(() => window.nodSway!.tip())).toBeNull();
});

test('a right click selects what is under it first; bars, moves and cards have menus as hits have', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(4).bytes);
  const kick = await stemOf(page, 'kick', 1);
  await stems(page).click({ position: { x: kick.headX, y: kick.headY }, button: 'right' });
  await expect(page.getByRole('menuitem', { name: 'Delete' })).toBeVisible();
  expect(await selection(page)).toEqual([kick.id]);
  await page.getByRole('menuitem', { name: 'Make it a ghost' }).click();
  expect(await page.evaluate((id) => window.nodSway!.bench().part.hits.find((h) => h.id === id)?.ghost, kick.id)).toBe(true);
  // The ruler, over bar 2.
  const x = await page.evaluate(
    () => 28 + (4 * 80640 + 400 - window.nodSway!.bench().view.scroll) * (window.nodSway!.bench().view.pixelsPerQuarter / 80640),
  );
  await stems(page).click({ position: { x: x + 60, y: 12 }, button: 'right' });
  await page.getByRole('menuitem', { name: 'Loop bar 2 alone' }).click();
  expect(await page.evaluate(() => [window.nodSway!.bench().transport.fromBar, window.nodSway!.bench().transport.toBar])).toEqual([1, 2]);
  // The strip, over bar 3.
  const strip = (await page.getByTestId('phrase').boundingBox())!;
  await page.getByTestId('phrase').click({ position: { x: Math.min(92, strip.width / 4) * 2.5, y: 30 }, button: 'right' });
  await page.getByRole('menuitem', { name: 'Repeat bar 3 after itself' }).click();
  expect(await page.evaluate(() => window.nodSway!.bench().part.bars)).toBe(5);
  await press(page, 'Add swing');
  await page.getByRole('heading', { name: 'Swing', level: 3 }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Delete the swing' }).click();
  expect(await labels(page)).toEqual(expect.arrayContaining(['Repeat bar 3', 'Add swing', 'Delete the swing']));
  await page.getByText('Closed hat', { exact: true }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Select all hits of the row' }).click();
  expect((await selection(page)).length).toBeGreaterThan(16);
});

test('a drag at the edge scrolls on, and a rectangle takes what it passed', async ({ page }) => {
  await openMidi(page, 'long.mid', flatBeat(8).bytes);
  const box = (await stems(page).boundingBox())!;
  const before = await page.evaluate(() => window.nodSway!.bench().view.scroll as number);
  const top = await page.evaluate(() => window.nodSway!.scene()!.rows[0]!.top);
  // From the ground between two hats to the right edge, and waiting there until the fourth bar is in sight.
  const hat = await stemOf(page, 'hat-closed', 1);
  await page.mouse.move(box.x + hat.footX + 14, box.y + top + 3);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 40, box.y + box.height - 4, { steps: 4 });
  await page.mouse.move(box.x + box.width - 6, box.y + box.height - 4, { steps: 2 });
  await expect.poll(() => page.evaluate(() => window.nodSway!.bench().view.scroll as number)).toBeGreaterThan(before + 2 * 4 * 80640);
  await page.mouse.up();
  const chosen = await page.evaluate(() => {
    const { part, selection: s } = window.nodSway!.bench();
    const ticks = part.hits.filter((h) => s.has(h.id)).map((h) => (h.tick as number) / 80640);
    return {
      first: Math.min(...ticks),
      last: Math.max(...ticks),
      all: part.hits.filter((h) => (h.tick as number) / 80640 >= Math.min(...ticks) && (h.tick as number) / 80640 <= Math.max(...ticks))
        .length,
      n: ticks.length,
    };
  });
  expect(chosen.first).toBe(0.5);
  expect(chosen.last).toBeGreaterThan(8);
  expect(chosen.n).toBe(chosen.all);
});

test('no name moves from under the pointer when its row opens, whichever was open before', async ({ page }) => {
  await openDemo(page, 'Gangway Strut');
  for (const row of ['Snare', 'Crash', 'Kick', 'Closed hat', 'Tom floor']) {
    const name = page.getByRole('button', { name: `Open ${row}`, exact: true });
    const before = (await name.boundingBox())!;
    await name.click();
    await expect(name).toHaveAttribute('aria-expanded', 'true');
    const after = (await name.boundingBox())!;
    expect([row, Math.round(after.y - before.y)]).toEqual([row, 0]);
  }
});

test('changes of tempo and meter stand on the ruler and are edited there', async ({ page }) => {
  const notes: Note[] = Array.from({ length: 16 }, (_, i) => [i * 480, 36, 100]);
  await openMidi(
    page,
    'changes.mid',
    midiFile(0, 480, [
      trackChunk(
        [tempoEvent(0, 500_000), meterEvent(0, 4, 2), tempoEvent(1920, 600_000), meterEvent(3840, 3, 2), ...noteEvents(notes, 60)].sort(
          (a, b) => a[0]! - b[0]!,
        ),
      ),
    ]),
  );
  await press(page, 'Fit all bars');
  await press(page, 'Tempo 100.0 from here');
  await page.getByRole('spinbutton', { name: 'Tempo from here in BPM' }).fill('90');
  await page.keyboard.press('Enter');
  const tempi = () => page.evaluate(() => window.nodSway!.bench().part.tempo.map((t) => 60e6 / t.microsecondsPerQuarter));
  expect(await tempi()).toEqual([120, 90]);
  await press(page, 'Delete this change');
  expect(await tempi()).toEqual([120]);
  await page.keyboard.press('Escape');
  await press(page, 'Meter 3/4 from here: edit it');
  await expect(page.getByRole('tab', { name: 'Bars' })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByRole('button', { name: /^Time signature and grid/i })).toBeFocused();
  expect(await page.evaluate(() => window.nodSway!.bench().transport.fromBar)).toBe(2);
});

test.describe('with fingers', () => {
  test.use({ hasTouch: true });

  test('a long press is a right click; a second finger zooms and places nothing', async ({ page }) => {
    await openMidi(page, 'beat.mid', flatBeat(2).bytes);
    const snare = await stemOf(page, 'snare', 0);
    const box = (await stems(page).boundingBox())!;
    const client = await page.context().newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
      client.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x: box.x + x, y: box.y + y, id })) });
    await touch('touchStart', [snare.headX, snare.headY]);
    await expect(page.getByRole('menu')).toBeVisible();
    await touch('touchEnd');
    expect(await selection(page)).toEqual([snare.id]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('menu')).toHaveCount(0);
    const state = () =>
      page.evaluate(() => ({
        hits: window.nodSway!.bench().part.hits.length,
        zoom: window.nodSway!.bench().view.pixelsPerQuarter,
        steps: window.nodSway!.bench().history.undo.length,
      }));
    const before = await state();
    await touch('touchStart', [300, 300]);
    await touch('touchStart', [300, 300], [420, 300]);
    await touch('touchMove', [260, 300], [420, 300]);
    await touch('touchMove', [220, 300], [460, 300]);
    await touch('touchEnd');
    const after = await state();
    expect(after.zoom).toBeGreaterThan(before.zoom * 1.5);
    expect([after.hits, after.steps]).toEqual([before.hits, before.steps]);
  });
});

test('a click on a hit opens nothing: rows open by their names alone', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const before = await stemOf(page, 'snare', 0);
  await clickStem(page, before);
  expect(await selection(page)).toEqual([before.id]);
  const after = await stemOf(page, 'snare', 0);
  expect([after.headX, after.headY]).toEqual([before.headX, before.headY]);
});
