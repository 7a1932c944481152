// Takes the pictures of docs/screenshots from the demo data: npm run build, then npm run screenshots.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { CHROMIUM } from './steps.mjs';

const PORT = 3291;
const BASE = `http://127.0.0.1:${PORT}`;
const OUT = 'docs/screenshots';
mkdirSync(OUT, { recursive: true });
const server = spawn('npx', ['next', 'start', '-H', '127.0.0.1', '-p', String(PORT)], { stdio: 'ignore', detached: true });
while (!(await fetch(BASE).catch(() => null))?.ok) await new Promise((done) => setTimeout(done, 200));
const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--autoplay-policy=no-user-gesture-required'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const shot = async (name) => {
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.screenshot({ path: `${OUT}/${name}.png` });
};
const open = async (id) => {
  await page.goto(`${BASE}/bench/${id}`);
  await page.waitForFunction(() => window.nodSway?.scene());
  await page.evaluate(() => document.fonts.ready);
};
try {
  await page.goto(BASE);
  await page.getByRole('heading', { name: 'Galley Brushes' }).waitFor();
  await page.evaluate(() => document.fonts.ready);
  await shot('shelf');
  await open('demo-galley-brushes');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForFunction(() => window.nodSway.engine.log.length > 14);
  await shot('bench');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Dark paper' }).click();
  await shot('bench-dark');
  await page.getByRole('button', { name: 'Light paper' }).click();
  await open('demo-gangway-strut');
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '3:2', exact: true }).click();
  await page.evaluate(() => {
    const { part, select, setFocus } = window.nodSway.bench();
    setFocus('snare');
    select(part.hits.filter((h) => h.voice === 'snare').slice(1, 4).map((h) => h.id));
  });
  await page.getByRole('tab', { name: 'Hits' }).click();
  await shot('bench-swing');
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByRole('dialog').waitFor();
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByTestId('export-account').waitFor();
  await shot('export');
} finally {
  await browser.close();
  process.kill(-server.pid);
}
