// One tab: bursts of key edits, and drags that are cut off in the middle.
import { openBench, sleep } from './browser.mjs';

/** Edits only ever make hits softer: a part with a higher sum has lost an edit. */
const SUM = () => window.nodSway.bench().part.hits.reduce((n, h) => n + h.velocity, 0);

export const edits = {
  name: 'edits in one tab',
  async begin({ page }, address, tell) {
    await openBench(page, address);
    await page.exposeFunction('tell', (sum, saved) => saved && tell(sum));
    await page.evaluate(() => {
      let last = '';
      const look = () => {
        const { save, underway, part } = window.nodSway.bench();
        const sum = part.hits.reduce((n, h) => n + h.velocity, 0);
        const saved = save.kind === 'saved' && document.querySelector('[data-testid=save-state]').textContent.startsWith('saved');
        if (!underway && last !== `${sum} ${saved}`) {
          last = `${sum} ${saved}`;
          void window.tell(sum, saved);
        }
        setTimeout(look, 0);
      };
      look();
    });
  },
  async work({ page }, i) {
    const at = await page.evaluate(() => {
      const { hits } = window.nodSway.bench().part;
      const [stem] = window.nodSway
        .scene()
        .stems.flat()
        .sort((a, b) => hits[b.index].velocity - hits[a.index].velocity);
      const box = document.querySelector('[data-testid=stems]').getBoundingClientRect();
      return { x: box.x + stem.headX, y: box.y + stem.headY };
    });
    // As fast as they go, or as a held key repeats.
    const pause = i % 4 < 2 ? 30 : 0;
    await (i % 2 === 0 ? burst(page, at, pause) : drags(page, at, pause));
  },
  /** What is wrong with what was found, given what was last called saved; null where nothing is. */
  async look({ page }, address, claimed) {
    await openBench(page, address);
    const found = await page.evaluate(SUM);
    return claimed !== undefined && found > claimed ? `a sum of ${claimed} was called saved, ${found} was found` : null;
  },
};

async function burst(page, at, pause) {
  await page.mouse.click(at.x, at.y);
  for (;;) {
    await page.keyboard.press('ArrowDown');
    await sleep(pause);
  }
}

async function drags(page, at, pause) {
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  for (let k = 1; ; k++) {
    await page.mouse.move(at.x, at.y + k);
    if (k % 3 !== 0) continue;
    await page.mouse.up();
    await sleep(pause);
    await page.mouse.move(at.x, at.y + k);
    await page.mouse.down();
  }
}
