import { expect, test, type Page } from '@playwright/test';
import { violationsInBothThemes } from './axe';

/**
 * At every size the whole of every page is there: nothing is cut off, nothing lies over another, no word stands alone on a line of a
 * button.
 */

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 700 },
  { width: 853, height: 533 },
  { width: 820, height: 1180 },
  { width: 1920, height: 1080 },
] as const;

/** Sizes at which barriers are looked for too; at the first it is done view by view elsewhere. */
const AXE_AT = new Set<number>([1024, 853, 820]);

/** What is wrong with what is seen now. */
const faults = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    const nameOf = (e: Element) =>
      `${e.tagName.toLowerCase()} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').replace(/\s+/g, ' ').trim().slice(0, 40)}”`;
    if (document.documentElement.scrollWidth > innerWidth + 1) found.push(`the page is ${document.documentElement.scrollWidth} wide`);
    const seen = [...document.querySelectorAll('button, a[href], input, [role=combobox], [role=tab]')].filter((e) => {
      const box = e.getBoundingClientRect();
      if (
        box.width < 2 ||
        box.height < 2 ||
        getComputedStyle(e).opacity === '0' ||
        e.closest('.sr-only, [inert], nav[aria-label="Skip to"]') ||
        !e.checkVisibility()
      )
        return false;
      // What is scrolled out of its page's frame is reached by scrolling.
      for (let up = e.parentElement; up; up = up.parentElement) {
        if (getComputedStyle(up).overflowY === 'visible') continue;
        const frame = up.getBoundingClientRect();
        if (box.bottom <= frame.top + 1 || box.top >= frame.bottom - 1) return false;
      }
      return true;
    });
    const scrolls = (e: Element, axis: 'X' | 'Y'): boolean => {
      // The Shelf scrolls as a document does.
      if (axis === 'Y' && document.documentElement.scrollHeight > innerHeight + 1) return true;
      for (let up = e.parentElement; up; up = up.parentElement)
        if (/auto|scroll/.test(getComputedStyle(up)[`overflow${axis}`])) return true;
      return false;
    };
    for (const e of seen) {
      const box = e.getBoundingClientRect();
      if ((box.left < -1 || box.right > innerWidth + 1) && !scrolls(e, 'X')) found.push(`${nameOf(e)} leaves the window at the side`);
      if ((box.top < -1 || box.bottom > innerHeight + 1) && !scrolls(e, 'Y')) found.push(`${nameOf(e)} leaves the window above or below`);
      // Words that do not fit, unless they end in an ellipsis on purpose.
      const style = getComputedStyle(e);
      if (e.matches('button, a') && e.scrollWidth > e.clientWidth + 2 && style.textOverflow !== 'ellipsis' && !e.querySelector('.truncate'))
        found.push(`${nameOf(e)} is cut off`);
    }
    /** What is seen of it within the frames that scroll. */
    const visible = (e: Element): DOMRect => {
      let { left, top, right, bottom } = e.getBoundingClientRect();
      for (let up = e.parentElement; up; up = up.parentElement) {
        if (getComputedStyle(up).overflowY === 'visible') continue;
        const frame = up.getBoundingClientRect();
        [left, top, right, bottom] = [
          Math.max(left, frame.left),
          Math.max(top, frame.top),
          Math.min(right, frame.right),
          Math.min(bottom, frame.bottom),
        ];
      }
      return new DOMRect(left, top, Math.max(0, right - left), Math.max(0, bottom - top));
    };
    const overlaps = (a: DOMRect, b: DOMRect) =>
      Math.min(a.right, b.right) - Math.max(a.left, b.left) > 2 && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 2;
    for (let i = 0; i < seen.length; i++) {
      for (let k = i + 1; k < seen.length; k++) {
        const [a, b] = [seen[i] as Element, seen[k] as Element];
        if (a.contains(b) || b.contains(a) || a.closest('[data-groove], li.group') === (b.closest('[data-groove], li.group') ?? a))
          continue;
        if (overlaps(visible(a), visible(b))) found.push(`${nameOf(a)} and ${nameOf(b)} lie over each other`);
      }
    }
    return [...new Set(found)];
  });

for (const size of SIZES) {
  test(`nothing is cut off, nothing overlaps, no barrier at ${size.width} x ${size.height}`, async ({ page }) => {
    await page.setViewportSize(size);
    const all: Record<string, string[]> = {};
    const look = async (where: string) => {
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
      const wrong = await faults(page);
      if (wrong.length > 0) all[where] = wrong;
    };
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
    await look('Shelf');
    await page.goto('/bench/demo-gangway-strut');
    await page.waitForFunction(() => window.nodSway?.scene());
    // All rows end above the strip, or can be scrolled to.
    for (const tab of ['Hits', 'Bars', 'Takes', 'Sound', 'Feel']) {
      await page.getByRole('tab', { name: tab }).click();
      await expect(page.getByRole('tabpanel').getByRole('heading', { name: tab, level: 2 })).toBeVisible();
      await look(tab);
    }
    const barriers = async (where: string) => {
      if (AXE_AT.has(size.width)) expect([where, ...(await violationsInBothThemes(page))]).toEqual([where]);
    };
    await barriers('Feel');
    await page.getByRole('button', { name: 'Add quantize' }).click();
    await look('a move');
    await page.getByRole('button', { name: /^Scope: /i }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    const scope = (await page.getByRole('dialog').boundingBox())!;
    if (scope.x < 0 || scope.y < 0 || scope.x + scope.width > size.width || scope.y + scope.height > size.height)
      all.scope = ['the scope leaves the window'];
    await page.keyboard.press('Escape');
    await page.getByRole('radio', { name: 'paint' }).click();
    await look('painting');
    await page.goto('/grooves?part=demo-gangway-strut');
    await expect(page.getByRole('button', { name: 'Choose Lower Hold' })).toBeVisible();
    await look('Grooves');
    await barriers('Grooves');
    expect(all).toEqual({});
  });
}
