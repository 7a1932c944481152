// npm run bench:ui [-- file.mid]: the production build in headless Chromium against its bars. Needs `npm run build` first.
// ORNAMENTS=2000 gives so many hits of the generated part rolls, flams and echoes.
import { build } from 'esbuild';
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../scripts/steps.mjs';
import { say } from './measure.mjs';

const PORT = 3290;
const BASE = `http://127.0.0.1:${PORT}`;
const ORNAMENTS = Number(process.env.ORNAMENTS ?? 0);
const STEADY_SECONDS = Number(process.env.STEADY_SECONDS ?? 60);
const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];

const server = spawn('node', ['server/serve.mjs', String(PORT)], { stdio: 'ignore', detached: true });
const answers = async () => (await fetch(BASE).catch(() => null))?.ok ?? false;
while (!(await answers())) await new Promise((done) => setTimeout(done, 200));

const browser = await chromium.launch({ executablePath: CHROMIUM, args: ARGS });
try {
  // What is kept for working offline would be counted as not sent.
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
  const page = await context.newPage();
  await load(context);
  await page.goto(BASE);
  await page.getByRole('heading', { name: 'Gangway Strut' }).waitFor();
  await shelf(page);
  await page.getByTestId('file-input').setInputFiles({
    name: ORNAMENTS > 0 ? 'large.nodsway.json' : 'large.mid',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(await bytes()),
  });
  await ready(page);
  await open(page);
  await scroll(page);
  await sweep(page);
  await sections(page);
  await selected(page);
  await steady(page);
} finally {
  await browser.close();
  process.kill(-server.pid);
}

async function bytes() {
  const file = process.argv[2];
  if (file) return readFileSync(file);
  const folder = mkdtempSync(join(resolve('node_modules'), '.bench-'));
  const out = join(folder, 'large.mjs');
  await build({
    stdin: {
      contents: "export { largePart, ornamented } from './measure/large-part'; export { exportPart } from '@/core/smf/export-part';",
      resolveDir: '.',
    },
    outfile: out,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'warning',
  });
  const { largePart, ornamented, exportPart } = await import(out);
  rmSync(folder, { recursive: true });
  const part = { ...largePart(12_000), name: 'large' };
  return ORNAMENTS > 0 ? JSON.stringify(ornamented(part, ORNAMENTS)) : exportPart(part).bytes;
}

function ready(page) {
  return page.waitForFunction(() => window.nodSway?.scene());
}

/** JavaScript sent, compressed, on a first visit to each place. */
async function load(context) {
  for (const [name, path, bar] of [
    ['ui-load-shelf', '/', 250],
    ['ui-load-bench', '/bench/demo-galley-brushes', 400],
  ]) {
    const page = await context.newPage();
    const cdp = await context.newCDPSession(page);
    await cdp.send('Network.enable');
    await cdp.send('Network.setCacheDisabled', { cacheDisabled: true });
    const scripts = new Set();
    let sum = 0;
    // What comes before the body is counted off: the bar is for scripts.
    cdp.on('Network.responseReceived', (e) => {
      if (e.type !== 'Script') return;
      scripts.add(e.requestId);
      sum -= e.response.encodedDataLength;
    });
    cdp.on('Network.loadingFinished', (e) => scripts.has(e.requestId) && (sum += e.encodedDataLength));
    await page.goto(BASE + path);
    await page.waitForLoadState('networkidle');
    say(name, sum / 1000, 'kB', 1, bar);
    await page.close();
  }
}

/** A thousand parts on the Shelf, scrolled up and down; then they are taken off it again. */
async function shelf(page) {
  const change = (add) =>
    page.evaluate(
      (adding) =>
        new Promise((done, failed) => {
          const opening = indexedDB.open('nod-sway');
          opening.onsuccess = () => {
            const parts = opening.result.transaction('parts', 'readwrite').objectStore('parts');
            const reading = parts.getAll();
            reading.onsuccess = () => {
              const rows = reading.result.filter((row) => row.id.startsWith('demo-'));
              for (let n = 0; n < 1000; n++) {
                if (adding) parts.put({ ...rows[n % rows.length], id: `many-${n}`, name: `Reel ${n}` });
                else parts.delete(`many-${n}`);
              }
            };
            parts.transaction.oncomplete = () => (opening.result.close(), done());
            parts.transaction.onerror = failed;
          };
        }),
      add,
    );
  await change(true);
  await page.reload();
  await page.getByTestId('shelf-count').getByText('1006 parts').waitFor();
  const idle = await frames(page, null, 3);
  // A page and a half a second, as a finger or a wheel does it.
  const moved = await frames(page, 'window.scrollTo(0, 6000 * (1 - Math.cos(t * 0.2)));');
  say('ui-scroll-shelf', moved.rate, 'frames/s', idle.rate, 0.9, true);
  say('ui-scroll-shelf-quick', moved.quick, 'of frames within 25 ms', 1, 0.95, true);
  await change(false);
  await page.reload();
  await page.getByRole('heading', { name: 'Gangway Strut' }).waitFor();
}

/** From the click on the Shelf to painted stems. */
async function open(page) {
  await page.goto(BASE);
  await page.getByRole('heading', { name: 'large' }).waitFor();
  await page.waitForLoadState('networkidle');
  const ms = await page.evaluate(
    () =>
      new Promise((done) => {
        const card = [...document.querySelectorAll('h2')].find((h) => h.textContent === 'large');
        const start = performance.now();
        card.closest('a').click();
        const look = () =>
          window.nodSway?.scene()?.stems.some((row) => row.length > 0)
            ? requestAnimationFrame(() => done(performance.now() - start))
            : requestAnimationFrame(look);
        look();
      }),
  );
  say('ui-open', ms / 1000, 's', 1, 1);
}

/** Runs a step at every frame for some seconds; gives frames a second and the share of frames within 25 ms. */
function frames(page, step, seconds = 5) {
  return page.evaluate(
    ([source, length]) =>
      new Promise((done) => {
        const run = source ? new Function('t', source) : () => {};
        const gaps = [];
        const start = performance.now();
        let last = start;
        const frame = (now) => {
          gaps.push(now - last);
          last = now;
          if (now - start > length * 1000)
            return done({ rate: gaps.length / ((now - start) / 1000), quick: gaps.filter((g) => g <= 25).length / gaps.length });
          run((now - start) / 1000);
          requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
    [step, seconds],
  );
}

async function scroll(page, name = 'ui-scroll') {
  const idle = await frames(page, null, 3);
  const moved = await frames(
    page,
    `const el = document.querySelector('[data-testid=stems]');
     const zoom = Math.floor(t * 2) % 2 === 1;
     el.dispatchEvent(new WheelEvent('wheel', { deltaX: zoom ? 0 : 120, deltaY: zoom ? Math.sin(t * 3) * 60 : 0, ctrlKey: zoom, clientX: 600, clientY: 400, cancelable: true }));`,
  );
  say(name, moved.rate, 'frames/s', idle.rate, 0.9, true);
  say(`${name}-quick`, moved.quick, 'of frames within 25 ms', 1, 0.95, true);
}

async function sweep(page, name = 'ui-sweep') {
  if (name === 'ui-sweep') await page.getByRole('button', { name: 'Add swing' }).click();
  // 16 bars in view.
  await page.evaluate(() =>
    window.nodSway.bench().setView({ scroll: 0, pixelsPerQuarter: (document.querySelector('[data-testid=stems]').clientWidth - 40) / 64 }),
  );
  const idle = await frames(page, null, 3);
  await page.evaluate(() => void (window.sweep = window.nodSway.bench().open('sweep', 'drag')));
  const swept = await frames(
    page,
    `window.sweep.preview((part) => ({ ...part, feel: { ...part.feel, moves: part.feel.moves.map((m) => ({ ...m, percent: 50 + 25 * Math.abs(Math.sin(t)) })) } }));`,
  );
  await page.evaluate(() => window.sweep.cancel());
  say(name, swept.rate, 'frames/s', idle.rate, 0.9, true);
  say(`${name}-quick`, swept.quick, 'of frames within 25 ms', 1, 0.95, true);
}

/** The same with 40 sections of 16 bars and a running order of them all, the page of the order open. */
async function sections(page) {
  await page.evaluate(() => {
    const sections = Array.from({ length: 40 }, (_, i) => ({ id: `s${i}`, name: `Section ${i + 1}`, from: 16 * i + 1, bars: 16 }));
    window.nodSway
      .bench()
      .run('Sections', (part) => ({ ...part, bars: 640, sections, order: sections.map((s) => ({ section: s.id, times: 2 })) }));
  });
  await page.getByRole('tab', { name: 'Order' }).click();
  await page.getByRole('button', { name: 'Call Section 40' }).first().waitFor();
  await scroll(page, 'ui-scroll-sections');
  await sweep(page, 'ui-sweep-sections');
  await page.evaluate(() => window.nodSway.bench().undo());
}

/** The same with every hit selected and the page of the selection open; a drag of all velocities; and one step back of it. */
async function selected(page) {
  await page.getByRole('tab', { name: 'Hits' }).click();
  await page.keyboard.press('Control+a');
  await scroll(page, 'ui-scroll-selected');
  await sweep(page, 'ui-sweep-selected');
  const idle = await frames(page, null, 3);
  // A head is held with the real pointer and dragged up and down: all 12,000 follow.
  await page.evaluate(() =>
    window.nodSway.bench().setView({ scroll: 0, pixelsPerQuarter: (document.querySelector('[data-testid=stems]').clientWidth - 40) / 16 }),
  );
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  const held = await page.evaluate(() => {
    const box = document.querySelector('[data-testid=stems]').getBoundingClientRect();
    const stem = window.nodSway.scene().stems.find((row) => row.length > 8)[8];
    return { x: box.x + stem.headX, y: box.y + stem.headY };
  });
  await page.mouse.move(held.x, held.y);
  await page.mouse.down();
  const dragged = await frames(
    page,
    `document.querySelector('[data-testid=stems]').dispatchEvent(new PointerEvent('pointermove', { pointerId: 1, clientX: ${held.x}, clientY: ${held.y} + 18 * Math.sin(2 * t + 1), bubbles: true }));`,
  );
  const gesture = await page.evaluate(() => window.nodSway.bench().underway?.label ?? 'none');
  await page.mouse.up();
  if (!gesture.startsWith('Change the velocity')) throw new Error(`no drag of velocities: ${gesture}`);
  say('ui-shape-selected', dragged.rate, 'frames/s', idle.rate, 0.9, true);
  const ms = await page.evaluate(() => {
    const start = performance.now();
    window.nodSway.bench().undo();
    const done = performance.now() - start;
    return new Promise((give) => requestAnimationFrame(() => requestAnimationFrame((now) => give({ done, painted: now - start }))));
  });
  say('ui-undo-selected', ms.done, `ms of work, painted after ${Math.round(ms.painted)} ms`, 16.7, 1);
  await page.getByRole('tab', { name: 'Feel' }).click();
  await page.evaluate(() => window.nodSway.bench().select([]));
}

/** A loop while the main thread is blocked 150 ms every second: hits missed, and late by more than a sample. */
async function steady(page) {
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForFunction(() => window.nodSway.engine.log.length > 0);
  await page.evaluate(
    (seconds) =>
      new Promise((done) => {
        let n = 0;
        const timer = setInterval(() => {
          const until = performance.now() + 150;
          while (performance.now() < until);
          if (++n >= seconds) {
            clearInterval(timer);
            setTimeout(done, 500);
          }
        }, 1000);
      }),
    STEADY_SECONDS,
  );
  const result = await page.evaluate(() => {
    const { engine } = window.nodSway;
    const { anchorFrame } = engine.state;
    const { performed } = engine.known.get(engine.state.name).versions;
    const rate = engine.sampleRate;
    const last = Math.max(...engine.log.map((o) => o.pass));
    const seen = new Map(engine.log.map((o) => [`${o.slot}.${o.pass}`, o.frame]));
    let missed = 0;
    let late = 0;
    let checked = 0;
    for (let pass = 0; pass < last; pass++) {
      performed.slots.forEach((slot, i) => {
        checked++;
        const frame = seen.get(`${slot}.${pass}`);
        const due = anchorFrame + (pass * performed.length + performed.offsets[i]) * rate;
        if (frame === undefined) missed++;
        else if (Math.abs(frame - due) > 1) late++;
      });
    }
    return { missed, late, checked, passes: last };
  });
  await page.getByRole('button', { name: 'Stop' }).click();
  console.log(
    JSON.stringify({
      name: 'play-steady',
      value: result.missed + result.late,
      unit: `hits missed or late of ${result.checked} in ${result.passes} passes`,
      baseline: 0,
      ratio: 0,
      bar: 0,
      ok: result.missed + result.late === 0 && result.checked > 0,
    }),
  );
}
