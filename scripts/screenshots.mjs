// Takes the pictures of docs/screenshots from the demo data: npm run build, then npm run screenshots.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { CHROMIUM } from './steps.mjs';

const PORT = 3291;
const BASE = `http://127.0.0.1:${PORT}`;
const OUT = 'docs/screenshots';
mkdirSync(OUT, { recursive: true });
const server = spawn('node', ['server/serve.mjs', String(PORT)], { stdio: 'ignore', detached: true });
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
  // The first visit: the legend stands under the rows, a sentence says what the part is like.
  await open('demo-gangway-strut');
  await page.getByText('A flat part').waitFor();
  await shot('first-visit');
  await page.getByRole('region', { name: 'What the pictures mean' }).getByRole('button', { name: 'Close' }).click();
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
  await page.getByRole('tab', { name: /^Hits/ }).click();
  await page.getByRole('img', { name: /^Distribution/ }).waitFor();
  await shot('bench-swing');
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByRole('dialog').waitFor();
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByTestId('export-account').waitFor();
  await shot('export');
  await page.keyboard.press('Escape');

  // A shape that is tried out on the off-beat hats.
  await open('demo-gangway-strut');
  await page.getByRole('tab', { name: /^Hits/ }).click();
  await page.getByRole('button', { name: 'Open Closed hat', exact: true }).click();
  await page.getByRole('button', { name: 'Choose' }).click();
  await page.getByRole('button', { name: 'off-beats', exact: true }).click();
  await page.getByRole('radio', { name: 'of these' }).click();
  await page.getByRole('button', { name: 'the open row', exact: true }).click();
  await page.getByRole('button', { name: 'Choose' }).click();
  await page.getByRole('combobox', { name: 'What to do' }).click();
  await page.getByRole('option', { name: 'accent' }).click();
  await page.getByRole('img', { name: /^Distribution/ }).waitFor();
  await shot('hits');
  await page.keyboard.press('Escape');

  // A rhythm cell in view, the table below.
  await open('demo-fog-signal');
  await page.getByRole('tab', { name: 'Bars' }).click();
  await page.getByRole('button', { name: 'evenly spread', exact: true }).click();
  await page.keyboard.press('x');
  await page.getByRole('table', { name: 'Hits' }).waitFor();
  await shot('bars');
  await page.keyboard.press('x');
  await page.keyboard.press('Escape');
  // The kit, its room, and a row's sound.
  await open('demo-galley-brushes');
  await page.getByRole('tab', { name: /^Sound/ }).click();
  await page.getByRole('button', { name: 'Sound of Snare', exact: true }).click();
  await page.getByRole('spinbutton', { name: 'Level of Snare in dB' }).waitFor();
  await shot('sound');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find anything' }).fill('velocity');
  await shot('find');

  // A sloppy take: quantized, a little humanized.
  await open('demo-low-tide');
  await page.getByRole('button', { name: 'Add humanize' }).click();
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await page.getByRole('button', { name: 'Move the quantize up' }).click();
  await page.getByText('doubtful', { exact: false }).first().waitFor();
  await shot('feel');
  await page.getByRole('group', { name: 'Hear a whole feel' }).getByRole('button', { name: 'Late Ferry' }).click();
  await page.getByRole('button', { name: 'Put it back' }).scrollIntoViewIfNeeded();
  await shot('feels');

  // Ornaments and suggested ghosts, with a kept version behind; then the versions.
  await open('demo-gangway-strut');
  const press = (name) => page.getByRole('button', { name, exact: true }).click();
  await press('versions');
  await press('Keep it as it stands');
  await press('Compare with Version 2');
  await page.getByRole('tab', { name: /^Hits/ }).click();
  const choose = (voice, n) =>
    page.evaluate(([v, k]) => {
      const { part, select } = window.nodSway.bench();
      select([part.hits.filter((h) => h.voice === v)[k].id]);
    }, [voice, n]);
  await press('Ornaments');
  await choose('snare', 1);
  await press('drag');
  await choose('hat-closed', 4);
  await press('roll');
  await page.evaluate(() => window.nodSway.bench().run('Soften the kicks', (p) => ({ ...p, hits: p.hits.map((h) => (h.voice === 'kick' ? { ...h, velocity: 76 } : h)) })));
  for (const section of [/^Dynamics/, /^Placement by hand/]) await page.getByRole('button', { name: section }).click();
  await press('Ghost notes');
  await press('suggest');
  await page.keyboard.press('ArrowRight');
  await page.getByText('Comparing with').waitFor({ state: 'detached' });
  await shot('small-strokes');
  await press('Dismiss all');
  await press('versions');
  await page.getByTestId('changes').first().waitFor();
  await shot('versions');

  // Grooves: one used on the hats, another tried; then learning from the finished part.
  await page.goto(`${BASE}/grooves?part=demo-gangway-strut`);
  await page.getByRole('list', { name: 'Rows' }).waitFor();
  await page.getByRole('checkbox', { name: 'Closed hat' }).check();
  await press('Choose Tide Race');
  await press('Use Tide Race on closed hat');
  await page.getByRole('checkbox', { name: 'Closed hat' }).uncheck();
  await press('Choose Parade Rest');
  await page.getByRole('tab', { name: 'Compare' }).click();
  await page.getByRole('combobox', { name: 'Compare with' }).click();
  await page.getByRole('option', { name: 'Lower Hold', exact: true }).click();
  await page.getByTestId('difference').waitFor();
  await shot('grooves');
  await press('Learn');
  await page.getByRole('list', { name: 'Parts to learn from' }).getByRole('button', { name: /Galley Brushes/ }).click();
  await page.getByTestId('verdict').waitFor();
  await shot('learn');
  await page.keyboard.press('Escape');

  // A take while it is played in by the practice player, and what is offered after it.
  await open('demo-low-tide');
  await page.getByRole('tab', { name: 'Takes' }).click();
  await page.getByRole('combobox', { name: 'Play from' }).click();
  await page.getByRole('option', { name: 'Practice player' }).click();
  await press('show the pads');
  await page.evaluate(() => window.nodSway.recording().recorder.set({ countIn: 0, passes: 1, pattern: 2 }));
  await press('Record');
  await page.waitForFunction(() => window.nodSway.recording().recorder.state.getState().strokes > 14, null, { timeout: 60_000 });
  await shot('recording');
  await page.waitForFunction(() => window.nodSway.recording().recorder.state.getState().phase === 'done', null, { timeout: 60_000 });
  await page.getByRole('list', { name: 'Takes' }).waitFor();
  await page.getByRole('list', { name: 'Takes' }).scrollIntoViewIfNeeded();
  await shot('takes');

  // Painting on an empty part.
  await page.goto(BASE);
  await page.getByRole('button', { name: 'New part' }).click();
  await page.getByRole('button', { name: 'Start the part' }).click();
  await page.waitForFunction(() => window.nodSway?.scene());
  await page.keyboard.press('h');
  await page.getByRole('combobox', { name: 'Accents of painted hits' }).click();
  await page.getByRole('option', { name: 'first of four' }).click();
  const place = await page.evaluate(() => {
    const box = document.querySelector('[data-testid=stems]').getBoundingClientRect();
    const row = window.nodSway.scene().rows.find((r) => r.voice === 'hat-closed');
    return { x: box.x + 28, y: box.y + row.baseline - 14, quarter: window.nodSway.bench().view.pixelsPerQuarter };
  });
  await page.mouse.move(place.x, place.y);
  await page.mouse.down();
  await page.mouse.move(place.x + 3.8 * place.quarter, place.y, { steps: 3 });
  await page.mouse.up();
  await page.mouse.move(place.x + 4.5 * place.quarter, place.y);
  await shot('painting');
} finally {
  await browser.close();
  process.kill(-server.pid);
}
