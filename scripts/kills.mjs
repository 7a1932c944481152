// npm run kills [-- count]: kills the whole browser in bursts of edits and in the middle of drags, and looks whether anything that the
// mark called saved is lost. Needs `npm run build` first.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from './steps.mjs';

const COUNT = Number(process.argv[2] ?? 100);
const PORT = 3292;
const BENCH = `http://127.0.0.1:${PORT}/bench/demo-gangway-strut`;
const ARGS = ['--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--remote-debugging-port=0', '--window-size=1280,800', 'about:blank'];

const server = spawn('node', ['server/serve.mjs', String(PORT)], { stdio: 'ignore' });
while (!(await fetch(`http://127.0.0.1:${PORT}`).catch(() => null))) await new Promise((done) => setTimeout(done, 100));
const profile = mkdtempSync(join(tmpdir(), 'nod-sway-kills-'));

const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

/** A browser of its own process group, so that all of it dies at once. */
async function launch() {
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
  const page = browser.contexts()[0].pages()[0] ?? (await browser.contexts()[0].newPage());
  return { page, kill: () => process.kill(-child.pid, 'SIGKILL'), gone: new Promise((done) => child.on('exit', done)) };
}

/** Edits only ever make hits softer: a part with a higher sum has lost an edit. */
const SUM = () => window.nodSway.bench().part.hits.reduce((n, h) => n + h.velocity, 0);

let lost = 0;
let found = Infinity;
/** The sum that was last called saved, and the sum after the last finished edit that was seen. */
let [claimed, finished] = [Infinity, Infinity];
const totals = { finished: 0, kept: 0, claimed: 0 };
for (let i = 0; i <= COUNT; i++) {
  const { page, kill, gone } = await launch();
  await page.goto(BENCH);
  await page.waitForFunction(() => window.nodSway?.scene());
  const before = found;
  found = await page.evaluate(SUM);
  if (i > 0) {
    totals.finished += before - finished;
    totals.kept += before - Math.max(found, finished);
    totals.claimed += before - claimed;
    if (found > claimed) {
      lost++;
      console.log(`LOST by kill ${i}: ${claimed} was called saved, ${found} was found`);
    }
  }
  if (i === COUNT) {
    kill();
    await gone;
    break;
  }
  claimed = finished = found;
  await page.exposeFunction('tell', (sum, saved) => {
    finished = Math.min(finished, sum);
    if (saved) claimed = Math.min(claimed, sum);
  });
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
  const at = await page.evaluate(() => {
    const { hits } = window.nodSway.bench().part;
    const [stem] = window.nodSway.scene().stems.flat().sort((a, b) => hits[b.index].velocity - hits[a.index].velocity);
    const box = document.querySelector('[data-testid=stems]').getBoundingClientRect();
    return { x: box.x + stem.headX, y: box.y + stem.headY };
  });
  const wait = 60 + ((i * 137) % 1100);
  const timer = new Promise((done) => setTimeout(done, wait)).then(kill);
  // As fast as they go, or as a held key repeats.
  const pause = i % 4 < 2 ? 30 : 0;
  const work = i % 2 === 0 ? burst(page, at, pause) : drags(page, at, pause);
  await Promise.race([work.catch(() => {}), gone]);
  await timer;
  await gone;
}
server.kill();
rmSync(profile, { recursive: true, force: true });
console.log(`${COUNT} kills, half of them in the middle of drags: ${totals.claimed} velocity steps had been called saved, ${lost} kills lost any of them; of ${totals.finished} steps that were seen finished ${totals.kept} were kept.`);
process.exit(lost === 0 ? 0 : 1);

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
