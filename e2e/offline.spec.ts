import { readFileSync } from 'node:fs';
import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test as base, type Page } from '@playwright/test';
import { benchReady, clickStem, drag, exportMidi, notesOf, press, saved, stemOf } from './support';

/** The application without its server, and what happens when a newer version comes: a line to the server that can be cut. */

const SERVER = 3210;

interface Line {
  address: string;
  /** No request gets through any more. */
  cut(): Promise<void>;
  /** The server has another version from now on. */
  renew(): void;
}

function open(): Promise<Line> {
  let renewed = 0;
  const line: Server = createServer((from, to) => {
    if (from.url === '/service-worker.js' && renewed > 0) {
      const script = readFileSync('public/service-worker.js', 'utf8').replace(/(version:"[0-9a-f]{12})"/, `$1-${renewed}"`);
      to.setHeader('Content-Type', 'application/javascript');
      return void to.end(script);
    }
    const through = request(
      { port: SERVER, host: '127.0.0.1', method: from.method, path: from.url, headers: { ...from.headers, host: `127.0.0.1:${SERVER}` } },
      (answer) => {
        to.writeHead(answer.statusCode ?? 500, answer.headers);
        answer.pipe(to);
      },
    );
    through.on('error', () => to.destroy());
    from.pipe(through);
  });
  return new Promise((ready) =>
    line.listen(0, '127.0.0.1', () =>
      ready({
        address: `http://127.0.0.1:${(line.address() as AddressInfo).port}`,
        cut: () =>
          new Promise((done) => {
            line.close(() => done());
            line.closeAllConnections();
          }),
        renew: () => void renewed++,
      }),
    ),
  );
}

const test = base.extend<{ line: Line }>({
  line: async ({}, use) => {
    const line = await open();
    await use(line);
    await line.cut().catch(() => undefined);
  },
});
test.use({ serviceWorkers: 'allow' });

/** The version is kept, and serves this page. */
const isKept = (page: Page): Promise<unknown> =>
  page
    .evaluate(
      async () =>
        (await navigator.serviceWorker.ready).active?.state === 'activated' ||
        new Promise((done) => navigator.serviceWorker.addEventListener('controllerchange', done, { once: true })),
    )
    .then(() => page.waitForFunction(() => navigator.serviceWorker.controller?.state === 'activated'));

test('the server is stopped: all places open, a part is worked on and exported, and a reload has it', async ({ page, line }) => {
  await page.goto(line.address);
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
  await isKept(page);
  await line.cut();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
  // By a click, as from place to place; then by its address.
  await page.getByRole('link', { name: /Gangway Strut/i }).click();
  await benchReady(page);
  await clickStem(page, await stemOf(page, 'snare', 0));
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown');
  await press(page, 'Add swing');
  await saved(page);
  await page.reload();
  await benchReady(page);
  expect(notesOf(await exportMidi(page)).find(([, key]) => key === 38)?.[2]).toBe(95);
  // What plays is made here as well.
  await press(page, 'Play');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 3);
  await press(page, 'Stop');
  for (const [path, name] of [
    ['/grooves', 'Extract'],
    ['/library', 'Import files'],
  ] as const) {
    await page.goto(`${line.address}${path}`);
    await expect(page.getByRole('button', { name, exact: true })).toBeVisible();
  }
});

test('it can be installed: a name, pictures, a start of its own', async ({ page, line }) => {
  await page.goto(line.address);
  const manifest = (await (
    await page.request.get(`${line.address}${await page.locator('link[rel=manifest]').getAttribute('href')}`)
  ).json()) as { start_url: string; display: string; icons: { src: string; sizes: string }[] };
  expect([manifest.start_url, manifest.display]).toEqual(['/', 'standalone']);
  for (const { src } of manifest.icons) expect((await page.request.get(`${line.address}${src}`)).status()).toBe(200);
});

test('a newer version is offered, and taken in the midst of an edit: nothing is lost', async ({ page, line }) => {
  await page.goto(`${line.address}/bench/demo-gangway-strut`);
  await benchReady(page);
  await isKept(page);
  const other = await page.context().newPage();
  await other.goto(`${line.address}/bench/demo-low-tide`);
  await benchReady(other);
  line.renew();
  await page.evaluate(() => navigator.serviceWorker.getRegistration().then((r) => r?.update()));
  await expect(page.getByText('A newer version of Nod Sway is available.')).toBeVisible();
  // A stem is held while the offer is taken, by the keyboard.
  const stem = await stemOf(page, 'snare', 0);
  await drag(page, { x: stem.headX, y: stem.headY }, { x: 0, y: 12 }, false);
  const velocity = await page.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity);
  expect(velocity).toBeLessThan(100);
  const loaded = page.waitForEvent('load');
  await page.getByRole('button', { name: 'Update now' }).dispatchEvent('click');
  await loaded;
  await benchReady(page);
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity)).toBe(velocity);
  // The other tab works on, has the scripts that it still needs, and is asked.
  await expect(other.getByText('Another tab switched to a newer version')).toBeVisible();
  await other.getByRole('tab', { name: /^Analysis/i }).click();
  await other.getByTestId('reading').waitFor();
  const again = other.waitForEvent('load');
  await other.getByRole('button', { name: 'Reload here' }).click();
  await again;
  await benchReady(other);
});
