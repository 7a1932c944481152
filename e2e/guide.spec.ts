import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';

test('the guide is one click from the Shelf: thirteen pages, led to by their titles, the way back on top', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Guide', exact: true }).click();
  await expect(page).toHaveURL(/\/guide$/);
  await expect(page.getByRole('heading', { level: 2 })).toHaveCount(13);
  const titles = page.getByRole('navigation', { name: 'Pages of the guide' }).getByRole('link');
  await expect(titles).toHaveCount(13);
  await titles.filter({ hasText: 'Breaks' }).click();
  await expect(page.getByRole('heading', { name: 'Breaks', exact: true })).toBeInViewport();
  for (const theme of ['light', 'dark'] as const) {
    if (theme === 'dark') await page.getByRole('button', { name: 'Dark theme' }).click();
    expect((await new AxeBuilder({ page }).analyze()).violations.map((v) => `${theme} ${v.id}`)).toEqual([]);
  }
  await page.getByRole('link', { name: 'Back to the Shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
});
