// Two tabs edit one part at the same time, each a hit of its own; where both went on, one of them waits for a choice.
import { openBench, tableOf } from './browser.mjs';

/** Softens a hit again and again, and tells its velocity whenever all is called saved. */
const SOFTEN = ([index, tab]) => {
  const step = () => {
    const { part, run, save } = window.nodSway.bench();
    const hit = part.hits[index];
    if (save.kind === 'saved' && document.querySelector('[data-testid=save-state]').textContent.startsWith('saved'))
      void window.tell(tab, hit.id, hit.velocity);
    if (hit.velocity > 1)
      run('Soften', (p) => ({ ...p, hits: p.hits.map((h, i) => (i === index ? { ...h, velocity: h.velocity - 1 } : h)) }));
    setTimeout(step, Math.random() * 25);
  };
  step();
};

export const tabs = {
  name: 'edits in two tabs',
  async begin(browser, address, tell) {
    browser.other = await browser.newPage();
    const lowest = {};
    for (const page of [browser.page, browser.other]) {
      await openBench(page, address);
      await page.exposeFunction('tell', (_tab, id, velocity) => {
        lowest[id] = Math.min(lowest[id] ?? Infinity, velocity);
        tell({ ...lowest });
      });
    }
  },
  async work({ page, other }, i) {
    const count = await page.evaluate(() => window.nodSway.bench().part.hits.length);
    await Promise.all([page.evaluate(SOFTEN, [(2 * i) % count, 0]), other.evaluate(SOFTEN, [(2 * i + 1) % count, 1])]);
    await new Promise(() => {});
  },
  /** Each claimed velocity is in the part, or in a state that waits for a choice. */
  async look({ page }, address, claimed = {}) {
    await openBench(page, address);
    const id = address.split('/').at(-1);
    const part = await page.evaluate(() => window.nodSway.bench().part);
    const states = [part, ...(await tableOf(page, 'versions')).filter((row) => row.partId === id).map((row) => row.part)];
    const lost = Object.entries(claimed).filter(
      ([hit, velocity]) => !states.some(({ hits }) => hits.some((h) => h.id === hit && h.velocity <= velocity)),
    );
    return lost.length > 0 ? `called saved, but nowhere: ${JSON.stringify(lost)}` : null;
  },
};
