import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { drawn } from './support';

/**
 * What axe finds wrong on a page, or within a part of it. There are no frames here: it need not open pages of its own to put results
 * together.
 */
async function violations(page: Page, within: string | undefined, rules?: string[]): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true);
  if (within) axe.include(within);
  const { violations: found } = await (rules ? axe.withRules(rules) : axe).analyze();
  return found.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' | ')}`);
}

/** Nothing fades in or out any more, and messages stay as they do under a pointer: what is half there has half a contrast. */
const settled = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    document.querySelector('[data-sonner-toaster]')?.dispatchEvent(new MouseEvent('mouseover', { bubbles: true }));
    await Promise.allSettled(
      document
        .getAnimations()
        .filter((a) => a.effect?.getComputedTiming().iterations !== Infinity)
        .map((a) => a.finished),
    );
    // A message that was just said begins to appear a frame later, one that is on its way out is gone a little later.
    const isHalf = () =>
      [...document.querySelectorAll('[data-sonner-toast][data-visible=true]')].some((toast) => getComputedStyle(toast).opacity !== '1');
    while (isHalf()) await new Promise((done) => requestAnimationFrame(done));
  });

/**
 * The same page in both themes: what is open stays open, and a theme changes nothing but colours.
 * @param within what a view adds to a page that is looked at as a whole elsewhere
 */
export async function violationsInBothThemes(page: Page, within?: string): Promise<string[]> {
  await settled(page);
  const light = await violations(page, within);
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'dark'));
  await drawn(page);
  const dark = (await violations(page, within, ['color-contrast'])).map((v) => `dark: ${v}`);
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'light'));
  return [...light, ...dark];
}
