// A browser that can be killed as a whole, with a profile that outlives it.
import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../steps.mjs';

const ARGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
  '--remote-debugging-port=0',
  '--window-size=1280,800',
  'about:blank',
];

export const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

/** In a process group of its own, so that all of it dies at once. */
export async function launch(profile) {
  const child = spawn(CHROMIUM, [`--user-data-dir=${profile}`, ...ARGS], { detached: true, stdio: ['ignore', 'ignore', 'pipe'] });
  const address = await new Promise((done) => {
    let text = '';
    child.stderr.on('data', (d) => {
      text += d;
      const found = /DevTools listening on (ws:\S+)/.exec(text);
      if (found) done(found[1]);
    });
  });
  const browser = await chromium.connectOverCDP(address);
  const [context] = browser.contexts();
  const gone = new Promise((done) => child.on('exit', done));
  return {
    page: context.pages()[0] ?? (await context.newPage()),
    newPage: () => context.newPage(),
    async kill() {
      process.kill(-child.pid, 'SIGKILL');
      await gone;
    },
    gone,
  };
}

/** Opens a part and waits until its hits are drawn. */
export async function openBench(page, address) {
  await page.goto(address);
  await page
    .waitForFunction(() => window.nodSway?.scene())
    .catch(async (e) => {
      throw new Error(`The Bench did not open. On the page: ${await page.evaluate(() => document.body.innerText.slice(0, 600))}`, {
        cause: e,
      });
    });
}

/** All rows of a table of the browser's store. */
export const tableOf = (page, table) =>
  page.evaluate(async (name) => {
    const answer = (request) =>
      new Promise((done, failed) =>
        Object.assign(request, { onsuccess: () => done(request.result), onerror: () => failed(request.error) }),
      );
    const db = await answer(indexedDB.open('nod-sway'));
    const rows = await answer(db.transaction(name).objectStore(name).getAll());
    db.close();
    return rows;
  }, table);
