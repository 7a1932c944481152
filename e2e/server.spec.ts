import { request as ask, type RequestOptions } from 'node:http';
import { expect, test } from '@playwright/test';
import { benchReady } from './support';

/** The server's own manners: hosts, addresses, methods, headers. */

const PORT = 3210;

/** A request as raw as a browser would never send it. */
function raw(options: RequestOptions): Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; text: string }> {
  return new Promise((done, failed) => {
    const sent = ask({ host: '127.0.0.1', port: PORT, ...options }, (answer) => {
      let text = '';
      answer.on('data', (d) => (text += d));
      answer.on('end', () => done({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
    });
    sent.on('error', failed);
    sent.end();
  });
}

test('methods, hosts and addresses that do not belong here are refused, never with 5xx', async () => {
  for (const method of ['TRACE', 'GET', 'PUT', 'DELETE', 'OPTIONS']) {
    const answer = await raw({ path: '/api/perform', method });
    expect([answer.status, answer.headers.allow]).toEqual([405, 'POST']);
  }
  expect([(await raw({ path: '/', method: 'POST' })).status, (await raw({ path: '/', method: 'POST' })).headers.allow]).toEqual([
    405,
    'GET, HEAD',
  ]);
  for (const path of ['/%', '/%zz', '/api/report?%E0%A4%A', '/bench/%ff']) expect((await raw({ path })).status).toBe(400);
  expect((await raw({ path: '/', headers: { host: 'elsewhere.example' } })).status).toBe(421);
  expect((await raw({ path: '/', headers: { host: 'localhost:1' } })).status).toBe(200);
  expect((await raw({ path: '/nowhere' })).status).toBe(404);
});

test('addresses that are none, of another host or a foreign page are refused before anything is computed', async () => {
  for (const [method, path] of [
    ['GET', '*'],
    ['HEAD', '*'],
    ['OPTIONS', '*'],
    ['GET', '//elsewhere.example/'],
    ['GET', 'http://127.0.0.1//elsewhere.example/'],
  ] as const)
    expect([path, (await raw({ path, method })).status]).toEqual([path, 400]);
  const away = await raw({ path: 'http://elsewhere.example/' });
  expect([away.status, away.headers.location]).toEqual([421, undefined]);
  expect((await raw({ path: `http://127.0.0.1:${PORT}/grooves` })).status).toBe(200);
  const call = async (headers: Record<string, string>) => (await raw({ path: '/api/report', method: 'POST', headers })).status;
  for (const headers of [{ origin: 'http://elsewhere.example' }, { origin: 'null' }, { 'sec-fetch-site': 'cross-site' }] as Record<
    string,
    string
  >[])
    expect(await call(headers)).toBe(403);
  // Not multipart: it went on to the call.
  expect(await call({ origin: `http://127.0.0.1:${PORT}`, 'sec-fetch-site': 'same-origin' })).toBe(415);
});

test('every answer carries its headers, and no page breaks them', async ({ page }) => {
  for (const path of ['/', '/bench/demo-low-tide', '/grooves', '/nowhere', '/api/report', '/icon.svg', '/%zz']) {
    const { headers } = await raw({ path });
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['referrer-policy']).toBe('no-referrer');
    expect(headers['permissions-policy']).toContain('camera=()');
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).toContain("worker-src 'self'");
    expect(/script-src ([^;]*)/.exec(policy)![1]).not.toContain('unsafe');
  }
  const broken: string[] = [];
  page.on('console', (m) => m.type() === 'error' && broken.push(m.text()));
  page.on('pageerror', (e) => broken.push(e.message));
  await page.goto('/bench/demo-low-tide');
  await benchReady(page);
  await page.keyboard.press('Space');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 2);
  await page.keyboard.press('Space');
  await page.goto('/grooves?part=demo-low-tide');
  await expect(page.getByRole('heading', { name: 'Grooves' })).toBeVisible();
  await page.goto('/nowhere');
  expect(broken.filter((text) => !text.includes('404'))).toEqual([]);
});
