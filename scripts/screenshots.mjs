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
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--autoplay-policy=no-user-gesture-required'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
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
  // Two parts chosen, tagged; one is heard.
  for (const name of ['Low Tide', 'Galley Brushes']) await page.getByRole('checkbox', { name: `Choose ${name}` }).check();
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  for (const tag of ['brushes', 'slow']) {
    await page.getByRole('textbox', { name: 'New tag' }).fill(tag);
    await page.keyboard.press('Enter');
    await page.getByRole('checkbox', { name: tag, exact: true }).waitFor();
  }
  await page.keyboard.press('Escape');
  await page.getByText('Each of 2 parts has the tag').first().waitFor({ state: 'detached', timeout: 60_000 });
  await page.getByRole('listitem').filter({ hasText: 'Galley Brushes' }).hover();
  await shot('shelf');
  // The first visit: the legend stands under the rows, a sentence says what the part is like.
  await open('demo-gangway-strut');
  await page.getByText('Every hit is on the grid').first().waitFor();
  await shot('first-visit');
  await page.getByRole('region', { name: 'What the pictures mean' }).getByRole('button', { name: 'Close' }).click();
  await open('demo-galley-brushes');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForFunction(() => window.nodSway.engine.log.length > 14);
  await shot('bench');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Dark theme' }).click();
  await shot('bench-dark');
  await page.getByRole('button', { name: 'Light theme' }).click();
  await open('demo-gangway-strut');
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '3:2', exact: true }).click();
  await page.evaluate(() => {
    const { part, select, setFocus } = window.nodSway.bench();
    setFocus('snare');
    select(
      part.hits
        .filter((h) => h.voice === 'snare')
        .slice(1, 4)
        .map((h) => h.id),
    );
  });
  await page.getByRole('tab', { name: /^Hits/ }).click();
  await page.getByRole('img', { name: /^Distribution/ }).waitFor();
  await shot('bench-swing');
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByRole('dialog').waitFor();
  // With its choices: the drum part, each row a track.
  await page.getByRole('combobox', { name: 'What to export' }).click();
  await page.getByRole('option', { name: 'the drum part alone' }).click();
  await page.getByRole('combobox', { name: 'Output map of the export' }).click();
  await page.getByRole('option', { name: 'General MIDI, one track per row' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByTestId('export-account').waitFor();
  await shot('export');
  await page.keyboard.press('Escape');

  // A shape that is tried out on the off-beat hats.
  await open('demo-gangway-strut');
  await page.getByRole('tab', { name: /^Hits/ }).click();
  await page.getByRole('button', { name: 'Open Closed hat', exact: true }).click();
  await page.getByRole('button', { name: 'Choose' }).click();
  await page.getByRole('button', { name: 'Off-beats', exact: true }).click();
  await page.getByRole('radio', { name: 'Narrow selection' }).click();
  await page.getByRole('button', { name: 'The open row', exact: true }).click();
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

  // Sections, one called while another sounds, and a running order.
  await open('demo-gangway-strut');
  await page.getByRole('tab', { name: /^Order/ }).click();
  for (const [from, to] of [
    [0, 4],
    [4, 6],
    [6, 8],
  ]) {
    await page.evaluate(([a, b]) => window.nodSway.bench().setTransport({ loop: true, fromBar: a, toBar: b }), [from, to]);
    await page.getByRole('button', { name: /^Make a section of/ }).click();
  }
  // Two ideas of what the verse might be.
  await page.evaluate(() => window.nodSway.bench().setTransport({ loop: true, fromBar: 4, toBar: 6 }));
  for (const letter of ['A', 'B']) {
    await page.keyboard.press('Shift+I');
    await page.getByRole('button', { name: `Open idea ${letter === 'A' ? 1 : 2}`, pressed: true }).waitFor();
    await page.evaluate(
      (l) =>
        window.nodSway.bench().run('Thin out', (p) => ({
          ...p,
          hits: p.hits.filter((h, i) =>
            l === 'A' ? h.voice !== 'hat-closed' || i % 3 === 0 : h.voice !== 'tambourine' && h.voice !== 'ride',
          ),
        })),
      letter,
    );
  }
  await page.getByRole('button', { name: 'Open the part' }).click();
  for (const name of ['Intro', 'Verse']) {
    await page.getByRole('combobox', { name: 'Add a line' }).click();
    await page.getByRole('option', { name, exact: true }).click();
  }
  await page.evaluate(() => window.nodSway.bench().setTransport({ loop: true, fromBar: 0, toBar: 4 }));
  // What was said of the ideas is gone before it would cover the page: it stays under a pointer.
  await page.mouse.move(500, 300);
  await page.getByText('Press Z to step through').waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByText(', sounds').waitFor();
  // Called early in a bar: what comes next is seen for a while.
  await page.waitForFunction(() => (window.nodSway.engine.position() / 80640) % 4 < 1);
  await page.getByRole('button', { name: 'Play next: Verse', exact: true }).first().click();
  await page.getByText('comes next').waitFor();
  await shot('order');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  // A sloppy take: quantized, a little humanized.
  await open('demo-low-tide');
  await page.getByRole('button', { name: 'Add humanize' }).click();
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await page.getByRole('button', { name: 'Move the quantize up' }).click();
  await page.getByText('uncertain', { exact: false }).first().waitFor();
  await shot('feel');

  // Ornaments and suggested ghosts, with a kept version behind; then the versions.
  await open('demo-gangway-strut');
  const press = (name) => page.getByRole('button', { name, exact: true }).click();
  await press('Versions');
  await press('Save version');
  await press('Compare with Version 2');
  await page.getByRole('tab', { name: /^Hits/ }).click();
  const choose = (voice, n) =>
    page.evaluate(
      ([v, k]) => {
        const { part, select } = window.nodSway.bench();
        select([part.hits.filter((h) => h.voice === v)[k].id]);
      },
      [voice, n],
    );
  await press('Ornaments');
  await choose('snare', 1);
  await press('drag');
  await choose('hat-closed', 4);
  await press('roll');
  await page.evaluate(() =>
    window.nodSway
      .bench()
      .run('Soften the kicks', (p) => ({ ...p, hits: p.hits.map((h) => (h.voice === 'kick' ? { ...h, velocity: 76 } : h)) })),
  );
  for (const section of [/^Dynamics/, /^Nudges/]) await page.getByRole('button', { name: section }).click();
  await press('Ghost notes');
  await press('Suggest');
  await page.keyboard.press('ArrowRight');
  await page.getByText('Comparing with').waitFor({ state: 'detached' });
  await shot('small-strokes');
  await press('Dismiss all');
  await press('Versions');
  await page.getByTestId('changes').first().waitFor();
  await page.keyboard.press('Escape');

  // Where rows sit, and who plays what under the hits.
  await open('demo-galley-brushes');
  await page.getByRole('tab', { name: /^Hands/ }).click();
  await page.getByRole('checkbox', { name: 'show hands and feet under the hits' }).check();
  await page.getByRole('tab', { name: /^Analysis/ }).click();
  await page.getByTestId('reading').waitFor();
  await shot('placement');

  // The Library: patterns kept of a demo part, a feel.
  await open('demo-gangway-strut');
  for (const [name, voices] of [
    ['Strut, the hats', ['hat-closed', 'hat-open']],
    ['Strut, kick and snare', ['kick', 'snare']],
  ]) {
    await page.evaluate((rows) => {
      const { part, select, setUi } = window.nodSway.bench();
      select(part.hits.filter((h) => rows.includes(h.voice)).map((h) => h.id));
      setUi({ dialog: 'patterns' });
    }, voices);
    await page.getByRole('textbox', { name: 'Name for this pattern' }).fill(name);
    await press('Save this pattern');
    await page.getByRole('list', { name: 'Your patterns' }).getByText(name).waitFor();
    await page.keyboard.press('Escape');
  }
  await page.evaluate(() => window.nodSway.bench().setUi({ dialog: 'feels' }));
  await page.getByRole('button', { name: 'Use Late Ferry' }).click();
  await page.evaluate(() => window.nodSway.bench().setUi({ dialog: 'feels' }));
  await page.getByRole('textbox', { name: 'Name for this feel' }).fill('Ferry, a little later');
  await press('Save this feel');
  await page.getByRole('list', { name: 'Your feels' }).waitFor();
  await page.goto(`${BASE}/library`);
  await page.getByText('Strut, the hats').waitFor();
  await page.getByTestId('room').waitFor();
  await shot('library');

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
  await press('Extract');
  await page
    .getByRole('list', { name: 'Parts to extract from' })
    .getByRole('button', { name: /Galley Brushes/ })
    .click();
  await page.getByTestId('verdict').waitFor();
  await shot('learn');
  await page.keyboard.press('Escape');

  // A take while it is played in by the practice player, and what is offered after it.
  await open('demo-low-tide');
  await page.getByRole('tab', { name: 'Takes' }).click();
  await page.getByRole('combobox', { name: 'Play from' }).click();
  await page.getByRole('option', { name: 'Practice player' }).click();
  await press('Show the pads');
  await page.evaluate(() => window.nodSway.recording().recorder.set({ countIn: 0, passes: 1, pattern: 2 }));
  await press('Record');
  await page.waitForFunction(() => window.nodSway.recording().recorder.state.getState().strokes > 14, null, { timeout: 60_000 });
  await shot('recording');
  await page.waitForFunction(() => window.nodSway.recording().recorder.state.getState().phase === 'done', null, { timeout: 60_000 });

  // A recorded loop under programmed rows.
  await open('demo-harbour-lights');
  await page.getByTestId('strokes-found').waitFor();
  await page.getByRole('tab', { name: /^Breaks/ }).click();
  await page
    .getByRole('group', { name: /^Hits of/ })
    .getByRole('button')
    .nth(4)
    .click();
  await page.getByRole('combobox', { name: 'Where it is cut' }).waitFor();
  await page.getByRole('button', { name: /^Hits that sound alike/ }).click();
  await page
    .getByRole('button', { name: /^\d+ hits$/ })
    .first()
    .click();
  await shot('breaks');

  // A take without a click, played by the practice player, with the beats that were found.
  await page.goto(BASE);
  await page.getByRole('button', { name: 'New part' }).click();
  await page.getByRole('button', { name: 'Create part' }).click();
  await page.waitForFunction(() => window.nodSway?.scene());
  await page.getByRole('tab', { name: 'Takes' }).click();
  await page.getByRole('combobox', { name: 'Play from' }).click();
  await page.getByRole('option', { name: 'Practice player' }).click();
  await page.evaluate(() => window.nodSway.recording().recorder.set({ free: true, pattern: 1 }));
  await press('Record');
  await page.waitForFunction(() => window.nodSway.recording().recorder.state.getState().strokes > 90, null, { timeout: 60_000 });
  await press('Stop and keep the take');
  await page.waitForFunction(() => window.nodSway.bench().part.playerTempo, null, { timeout: 60_000 });
  await page.evaluate(() => window.nodSway.engine.stop());
  await page
    .getByTestId('drift')
    .or(page.getByRole('radiogroup', { name: 'Count' }))
    .first()
    .waitFor();
  const apply = page.getByRole('region', { name: 'Ways to count it' }).getByRole('button', { name: 'Apply' });
  await page.getByRole('progressbar', { name: 'Finding the beats' }).waitFor({ state: 'detached' });
  if (await apply.isVisible()) await apply.click();
  await page.getByTestId('drift').waitFor();
  await shot('tempo');
} finally {
  await browser.close();
  process.kill(-server.pid);
}
