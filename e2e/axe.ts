import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { drawn } from './support';

/** What axe finds wrong on a page. There are no frames here: it need not open pages of its own to put results together. */
async function violations(page: Page, rules?: string[]): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true);
  const { violations: found } = await (rules ? axe.withRules(rules) : axe).analyze();
  return found.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' | ')}`);
}

/** The same page in both themes: what is open stays open, and a theme changes nothing but colours. */
export async function violationsInBothThemes(page: Page): Promise<string[]> {
  const light = await violations(page);
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'dark'));
  await drawn(page);
  const dark = (await violations(page, ['color-contrast'])).map((v) => `dark: ${v}`);
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'light'));
  return [...light, ...dark];
}
