import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { openDemo } from './support';

const press = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();

for (const theme of ['light', 'dark'] as const) {
  test(`no accessibility violation on the Bench at work, ${theme}`, async ({ page }) => {
    await page.addInitScript((t) => localStorage.setItem('theme', t), theme);
    const violations = async (): Promise<string[]> => (await new AxeBuilder({ page }).analyze()).violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' | ')}`);
    await openDemo(page, 'Galley Brushes');
    await page.getByRole('tab', { name: /^Hits/ }).click();
    await page.keyboard.press('Control+a');
    for (const section of ['Choose', 'Marks', 'Copies and shifts']) await press(page, section);
    await press(page, 'accent');
    await expect(page.getByRole('img', { name: /^Distribution/ })).toBeVisible();
    await page.keyboard.press('x');
    await expect(page.getByRole('table', { name: 'Hits' })).toBeVisible();
    expect(await violations()).toEqual([]);
    await press(page, 'Keep');
    await page.getByRole('tab', { name: 'Bars' }).click();
    await press(page, 'evenly spread');
    await page.keyboard.press('b');
    await press(page, 'shape the accents');
    expect(await violations()).toEqual([]);
    await page.keyboard.press('Escape');
    await press(page, 'More about Ride');
    await expect(page.getByRole('menu')).toBeVisible();
    expect(await violations()).toEqual([]);
    await page.getByRole('menuitem', { name: 'Key, voice, merge …' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    expect(await violations()).toEqual([]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    expect(await violations()).toEqual([]);
    await page.keyboard.press('Escape');
    await press(page, 'Rows');
    await page.getByRole('menuitem', { name: 'Kit map …' }).click();
    await expect(page.getByRole('dialog', { name: /^Kit map/ })).toBeVisible();
    expect(await violations()).toEqual([]);
  });
}
