import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { notesOf, type Note } from './support';

/** Somebody who programs drums and has read nothing: the flat demo part is made human by what stands on the screen, and exported. */

/** What is done, counted. */
class Newcomer {
  actions = 0;

  constructor(
    private readonly page: Page,
    private readonly how: 'click' | 'tap',
  ) {}

  async press(role: Parameters<Page['getByRole']>[0], name: string | RegExp): Promise<void> {
    const target = this.page.getByRole(role, { name, ...(typeof name === 'string' ? { exact: true } : {}) });
    await (this.how === 'tap' ? target.tap() : target.click());
    this.actions++;
  }
}

async function exported(page: Page, act: () => Promise<void>): Promise<Note[]> {
  const [download] = await Promise.all([page.waitForEvent('download'), act()]);
  return notesOf(readFileSync((await download.path()) as string));
}

const part = (page: Page) => page.evaluate(() => window.nodSway!.bench().part);

/** Human: swung, off-beat hats softer, ghosts among the snares, nothing on one velocity. */
async function isHuman(page: Page, notes: readonly Note[]): Promise<void> {
  const { feel, hits } = await part(page);
  expect(feel.moves.map((m) => m.kind).sort()).toEqual(['humanize', 'swing']);
  expect(hits.some((h) => h.ghost)).toBe(true);
  const hats = hits.filter((h) => h.voice === 'hat-closed');
  expect(new Set(hats.map((h) => h.velocity as number)).size).toBeGreaterThan(1);
  expect(notes).toHaveLength(hits.length);
  // Most hits no longer stand on a sixteenth of 240 ticks, and hardly two snares are equally loud.
  expect(notes.filter(([tick]) => tick % 240 !== 0).length).toBeGreaterThan(notes.length / 2);
  expect(new Set(notes.filter(([, key]) => key === 38).map(([, , velocity]) => velocity)).size).toBeGreaterThan(4);
}

for (const how of ['click', 'tap'] as const) {
  test.describe(how === 'tap' ? 'with a finger' : 'by pointer', () => {
    if (how === 'tap') test.use({ hasTouch: true, viewport: { width: 820, height: 1180 } });

    test('the flat part is made human within eight actions, and exported', async ({ page }) => {
      await page.goto('/');
      const hand = new Newcomer(page, how);
      await hand.press('link', /^Gangway Strut/);
      await page.waitForFunction(() => window.nodSway?.scene());
      // Opening is not shaping.
      hand.actions = 0;
      await expect(page.getByRole('region', { name: 'First steps' }).getByText('Every hit is on the grid')).toBeVisible();
      await hand.press('button', 'Soften the off-beat hats');
      await hand.press('button', 'Suggest ghost notes');
      await hand.press('button', 'Suggest');
      await hand.press('button', /^Add all/);
      await hand.press('tab', 'Feel');
      await hand.press('button', 'Add humanize');
      await hand.press('button', 'Add swing');
      expect(hand.actions).toBeLessThanOrEqual(8);
      await hand.press('button', 'Export');
      const notes = await exported(page, () =>
        how === 'tap'
          ? page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).tap()
          : page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click(),
      );
      await isHuman(page, notes);
    });
  });
}

test('by keyboard alone, within sixty presses', async ({ page }) => {
  let presses = 0;
  const press = async (...keys: string[]) => {
    for (const key of keys) {
      await page.keyboard.press(key);
      presses++;
    }
  };
  /** Found by its words; each letter is a press. */
  const find = async (words: string) => {
    await press('Control+k');
    await expect(page.getByRole('combobox', { name: 'Find anything' })).toBeFocused();
    await press(...words);
    await expect(page.getByRole('option').first()).toHaveAttribute('aria-selected', 'true');
    await press('Enter');
    await expect(page.getByRole('dialog', { name: 'Find anything' })).toBeHidden();
  };
  await page.goto('/bench/demo-gangway-strut');
  await page.waitForFunction(() => window.nodSway?.scene());
  await find('humaniz');
  await expect.poll(async () => (await part(page)).feel.moves.length).toBe(1);
  await find('shuffle');
  await expect.poll(async () => (await part(page)).feel.moves.length).toBe(2);
  await find('soften');
  await expect
    .poll(async () => new Set((await part(page)).hits.filter((h) => h.voice === 'hat-closed').map((h) => h.velocity as number)).size)
    .toBeGreaterThan(1);
  await find('ghost');
  await expect(page.getByRole('button', { name: 'Ghost notes' })).toBeFocused();
  await press('Tab');
  for (
    let k = 0;
    k < 12 && !(await page.getByRole('button', { name: 'Suggest', exact: true }).evaluate((b) => b === document.activeElement));
    k++
  )
    await press('Tab');
  await press('Enter');
  // The focus goes where the eye is: on the one that is looked at. All of them are a few steps back.
  await expect(page.getByRole('button', { name: 'Add it' })).toBeFocused();
  for (let k = 0; k < 12 && !(await page.getByRole('button', { name: /^Add all/i }).evaluate((b) => b === document.activeElement)); k++)
    await press('Shift+Tab');
  await press('Enter');
  await press('Control+Shift+e');
  const go = page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true });
  await expect(page.getByRole('dialog', { name: 'Export' })).toBeVisible();
  for (let k = 0; k < 12 && !(await go.evaluate((b) => b === document.activeElement)); k++) await press('Tab');
  const notes = await exported(page, () => press('Enter'));
  expect(presses).toBeLessThanOrEqual(60);
  await isHuman(page, notes);
});
