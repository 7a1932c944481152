import { expect, test, type Page } from '@playwright/test';
import { benchReady, drawn, exportMidi, notesOf, stems, swingPercent, type Note } from './support';

/**
 * A two-bar groove made from an empty part: accented hats, a backbeat with ghosts, a clap 10 ms behind it, a crescendo over the last
 * beat. Once by pointer alone, once by keyboard alone, with swing 62 % switched on first, and straight once that is off.
 */

const STEP = 240;
/** Hand-written: steps of two bars, key, velocity. */
const WRITTEN: readonly (readonly [step: number, key: number, velocity: number])[] = [
  // Hats on eighths, loud and soft in turn.
  ...Array.from({ length: 16 }, (_, i) => [2 * i, 42, i % 2 === 0 ? 108 : 74] as const),
  // Kick on 1 and the "&" of 3.
  [0, 36, 96],
  [10, 36, 96],
  [16, 36, 96],
  [26, 36, 96],
  // Backbeat, ghosts around it; the last beat rises: 45 to 112 in thirds.
  [4, 38, 100],
  [12, 38, 100],
  [20, 38, 100],
  [7, 38, 26],
  [9, 38, 26],
  [23, 38, 26],
  [28, 38, 45],
  [29, 38, 67],
  [30, 38, 90],
  [31, 38, 112],
  // Clap, 10 ms late: 16 ticks of 960 at 100 BPM.
  [4, 39, 100],
  [12, 39, 100],
  [20, 39, 100],
  [28, 39, 100],
];

/** Swing 62 % makes the second sixteenth of each pair of 480 ticks 57.6 late: 240 + 57.6 rounds to 298. */
const expected = (swing: boolean): Note[] =>
  WRITTEN.map(([step, key, velocity]): Note => [
    step * STEP + (swing && step % 2 === 1 ? 58 : 0) + (key === 39 ? 16 : 0),
    key,
    velocity,
  ]).sort((a, b) => a[0] - b[0] || a[1] - b[1]);

const sorted = (notes: Note[]): Note[] => [...notes].sort((a, b) => a[0] - b[0] || a[1] - b[1]);

async function newPart(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New part' }).click();
  await page.getByRole('button', { name: 'Create part' }).click();
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
}

/** A pointer that counts what it does: a click or a drag is one action. */
class Hand {
  actions = 0;
  constructor(private readonly page: Page) {}

  async press(role: 'button' | 'tab' | 'menuitem' | 'option' | 'radio' | 'combobox', name: string | RegExp): Promise<void> {
    this.actions++;
    await this.page
      .getByRole(role, { name, exact: typeof name === 'string' })
      .first()
      .click();
  }

  /** Where a step of a row lies on the page. */
  private async place(voice: string, step: number): Promise<{ x: number; y: number }> {
    const box = (await stems(this.page).boundingBox())!;
    const at = await this.page.evaluate((v) => {
      const row = window.nodSway!.scene()!.rows.find((r) => r.voice === v)!;
      return { y: row.baseline - 14, perQuarter: window.nodSway!.bench().view.pixelsPerQuarter };
    }, voice);
    return { x: box.x + 28 + (step * at.perQuarter) / 4, y: box.y + at.y };
  }

  async click(voice: string, step: number): Promise<void> {
    this.actions++;
    const p = await this.place(voice, step);
    await this.page.mouse.click(p.x, p.y);
    await drawn(this.page);
  }

  async stroke(voice: string, from: number, to: number): Promise<void> {
    this.actions++;
    const a = await this.place(voice, from);
    const b = await this.place(voice, to);
    await this.page.mouse.move(a.x, a.y);
    await this.page.mouse.down();
    await this.page.mouse.move(b.x, b.y, { steps: 3 });
    await this.page.mouse.up();
    await drawn(this.page);
  }

  /** Drags the unit of a number up by so many of its steps. */
  async turn(label: string, by: number): Promise<void> {
    this.actions++;
    const unit = this.page.getByRole('spinbutton', { name: label }).locator('xpath=following-sibling::span');
    await unit.hover();
    const box = (await unit.boundingBox())!;
    await this.page.mouse.move(box.x + 4, box.y + 8);
    await this.page.mouse.down();
    await this.page.mouse.move(box.x + 4, box.y + 8 - 4 * by, { steps: 6 });
    await this.page.mouse.up();
  }

  async reset(label: string): Promise<void> {
    this.actions++;
    await this.page.getByRole('spinbutton', { name: label }).locator('xpath=following-sibling::span').dblclick();
  }
}

/** Swung as it was made; and straight, once the swing is switched off. */
async function sameAsByHand(page: Page, order: (notes: Note[]) => Note[]): Promise<void> {
  expect(order(notesOf(await exportMidi(page)))).toEqual(expected(true));
  await page.evaluate(() => window.nodSway!.bench().run('Straight', (p) => ({ ...p, feel: { ...p.feel, moves: [] } })));
  expect(order(notesOf(await exportMidi(page)))).toEqual(expected(false));
  await page.evaluate(() => window.nodSway!.bench().undo());
}

test('by pointer alone, swung first: at most 60 actions, nothing typed', async ({ page }) => {
  await newPart(page);
  const hand = new Hand(page);
  await hand.press('tab', 'Feel');
  await hand.press('button', 'Add swing');
  await hand.reset('Swing in %');
  await hand.turn('Swing in %', 12);
  expect(await swingPercent(page)).toBe(62);
  // Kick by clicks, repeated into the next bar.
  await hand.click('kick', 0);
  await hand.click('kick', 10);
  await hand.press('button', 'More about Kick');
  await hand.press('menuitem', 'Select all hits of the row');
  await hand.press('tab', /^Hits/);
  await hand.press('button', 'Copies and shifts');
  await hand.press('button', 'Repeat into the next bar');
  // Hats by painting.
  await hand.press('radio', 'paint');
  await hand.press('combobox', 'Accents of painted hits');
  await hand.press('option', 'loud, soft');
  await hand.turn('Stride of painted hits', 1);
  await hand.stroke('hat-closed', 0, 31);
  // Ghosts by painting.
  await hand.press('combobox', 'Accents of painted hits');
  await hand.press('option', 'ghosts');
  for (const step of [7, 9, 23]) await hand.click('snare', step);
  // Backbeats from a rhythm cell, on the snare and on the clap.
  await hand.press('tab', 'Bars');
  await hand.press('button', 'backbeat');
  await hand.press('button', 'Take 4 hits');
  await hand.press('combobox', 'Row of the cell');
  await hand.press('option', 'Clap');
  await hand.press('button', 'Take 4 hits');
  // The clap is selected: lay it back by 10 ms.
  await hand.press('tab', /^Hits/);
  await hand.press('combobox', 'Nudge by');
  await hand.press('option', '10 ms');
  await hand.press('button', 'Later');
  // The last beat: four strokes, then a ramp.
  await hand.press('combobox', 'Accents of painted hits');
  await hand.press('option', 'even');
  await hand.turn('Stride of painted hits', -1);
  await hand.stroke('snare', 28, 31);
  await hand.press('combobox', 'What to do');
  await hand.press('option', 'ramp');
  await hand.press('button', 'Apply');

  expect(hand.actions).toBeLessThanOrEqual(60);
  await sameAsByHand(page, (notes) => notes);
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.ghost)
        .map((h) => (h.tick as number) / 20160),
    ),
  ).toEqual([7, 9, 23]);
});

test('by keyboard alone, swung first', async ({ page }) => {
  await page.goto('/');
  const key = async (...keys: string[]) => {
    for (const k of keys) await page.keyboard.press(k);
  };
  const times = (k: string, n: number): string[] => Array.from({ length: n }, () => k);
  await page.getByRole('button', { name: 'New part' }).focus();
  await key('Enter');
  await expect(page.getByRole('button', { name: 'Create part' })).toBeFocused();
  await key('Enter');
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  await page.getByRole('button', { name: 'Add swing' }).focus();
  await key('Enter');
  const field = page.getByRole('spinbutton', { name: 'Swing in %' });
  await field.focus();
  await page.keyboard.type('62');
  await key('Enter', 'Escape');

  // The cursor starts on the lowest row's first step: the kick.
  await key('c', 'Enter', ...times('ArrowRight', 10), 'Enter', 'a', 'r');
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.length)).toBe(4);
  // Clap and snare: backbeat at velocity 100, which is 96 and four up.
  await key('Home', 'ArrowUp');
  await key(...times('ArrowRight', 4), 'Enter', ...times('ArrowRight', 8), 'Enter', 'a', 'r');
  await key('a', ...times('u', 4), ...times('Shift+l', 2));
  await key('Home', 'ArrowUp');
  await key(...times('ArrowRight', 4), 'Enter', ...times('ArrowRight', 8), 'Enter', 'a', 'r', 'a', ...times('u', 4));
  // Ghosts: level 2 of painting is 26.
  await key(
    'Escape',
    '2',
    'Home',
    ...times('ArrowRight', 7),
    'Enter',
    'ArrowRight',
    'ArrowRight',
    'Enter',
    'PageDown',
    ...times('ArrowRight', 7),
    'Enter',
  );
  // The last beat with even painting, then a ramp from the Hits page.
  await key('Escape', '7', 'End', ...times('ArrowLeft', 3), 'f');
  await page.getByRole('tab', { name: /^Hits/i }).focus();
  await key('Enter');
  await page.getByRole('combobox', { name: 'What to do' }).focus();
  await key('Enter');
  await expect(page.getByRole('option', { name: 'ramp' })).toBeVisible();
  await key('r');
  await expect(page.getByRole('option', { name: 'ramp' })).toBeFocused();
  await key('Enter');
  await page.getByRole('toolbar').getByRole('button', { name: 'Apply' }).focus();
  await key('Enter');
  // Hats: two rows above the snare's toms; level by level with the grid on eighths.
  await key('Escape', 'Shift+g', 'Home');
  for (let row = 0; row < 3; row++) await key('ArrowUp');
  expect(await page.evaluate(() => window.nodSway!.bench().ui.step)).toEqual({ voice: 'hat-closed', tick: 0 });
  await page.getByRole('radio', { name: 'paint' }).focus();
  await key('Enter');
  const accents = page.getByRole('combobox', { name: 'Accents of painted hits' });
  await accents.focus();
  await key('Enter');
  await expect(page.getByRole('option', { name: 'even' })).toBeFocused();
  await key('ArrowDown');
  // The list moves its focus a moment after the key.
  await expect(page.getByRole('option', { name: 'loud, soft' })).toBeFocused();
  await key('Enter');
  await expect(accents).toHaveText('loud, soft');
  await key('Escape', 'f');

  await sameAsByHand(page, sorted);
});

test('three pointer events while painting over 64 steps make 64 hits; without painting none', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New part' }).click();
  await page.getByRole('button', { name: 'Create part' }).click();
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  const hits = () => page.evaluate(() => window.nodSway!.bench().part.hits.map((h) => h.tick as number));
  await page.keyboard.press('g');
  const box = (await stems(page).boundingBox())!;
  const row = await page.evaluate(() => {
    const perQuarter = window.nodSway!.bench().view.pixelsPerQuarter;
    return { y: window.nodSway!.scene()!.rows.find((r) => r.voice === 'hat-closed')!.baseline - 14, step: perQuarter / 8 };
  });
  const across = async () => {
    await page.mouse.move(box.x + 28, box.y + row.y);
    await page.mouse.down();
    await page.mouse.move(box.x + 28 + 63 * row.step, box.y + row.y);
    await page.mouse.up();
    await drawn(page);
  };
  await across();
  expect(await hits()).toEqual([]);
  await page.keyboard.press('h');
  await across();
  expect(await hits()).toEqual(Array.from({ length: 64 }, (_, i) => i * 10080));
  // One stroke is one step back; wiping takes as many away as it crosses.
  await page.keyboard.press('Control+z');
  expect(await hits()).toEqual([]);
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Shift+h');
  await across();
  expect(await hits()).toEqual([]);
});
