import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import * as policy from '../server/policy.cjs';
import * as readers from '../server/readers.cjs';

test('a request line names a path of this server, a whole address with its host, or nothing', () => {
  expect(
    ['/', '/bench/x?y=1', 'http://other/', 'HTTP://127.0.0.1:3000', 'https://a/b?c#d', 'http://a?b'].map((url) => policy.targetOf(url)),
  ).toEqual([
    { url: '/' },
    { url: '/bench/x?y=1' },
    { host: 'other', url: '/' },
    { host: '127.0.0.1:3000', url: '/' },
    { host: 'a', url: '/b?c#d' },
    { host: 'a', url: '/?b' },
  ]);
  for (const url of ['*', '', 'foo', '//other/x', '/\\other', 'http://127.0.0.1//other', 'ftp://other/', 'other:80'])
    expect(policy.targetOf(url)).toBeNull();
});

test('pages of other servers are foreign unless they are named', () => {
  const host = '127.0.0.1:3000';
  const isForeign = (headers: Record<string, string>, named = '') => policy.senderOf({ host, ...headers }, named).isForeign;
  expect([
    isForeign({}),
    isForeign({ origin: `http://${host}` }),
    isForeign({ 'sec-fetch-site': 'same-origin' }),
    isForeign({ 'sec-fetch-site': 'none' }),
  ]).toEqual([false, false, false, false]);
  for (const headers of [
    { origin: 'http://evil.test' },
    { origin: 'null' },
    { origin: 'http://127.0.0.1:4000' },
    { 'sec-fetch-site': 'cross-site' },
    { origin: `http://${host}`, 'sec-fetch-site': 'cross-site' },
  ] as Record<string, string>[])
    expect(isForeign(headers)).toBe(true);
  expect(
    policy.senderOf({ host, origin: 'https://cues.test', 'sec-fetch-site': 'cross-site' }, 'http://a.test, https://cues.test/'),
  ).toEqual({ isForeign: false, named: 'https://cues.test' });
});

test('a reader that takes nothing of its answer is cut off; one that reads, or waits for what is computed, is not', async () => {
  let server: Server | undefined;
  const closed = new Promise<string>((done) => {
    server = createServer((request, response) => {
      readers.cutOffSlowReader(request, response, 100);
      response.on('close', () => !response.writableFinished && done('cut off'));
      response.write(Buffer.alloc(64 * 2 ** 20));
    });
  });
  await new Promise<void>((done) => server!.listen(0, '127.0.0.1', done));
  const socket = connect((server!.address() as AddressInfo).port, '127.0.0.1', () => socket.write('GET / HTTP/1.1\r\nHost: x\r\n\r\n'));
  socket.on('error', () => undefined);
  socket.pause();
  expect(await closed).toBe('cut off');
  socket.destroy();
  server!.close();

  let answerLate: (() => void) | undefined;
  const patient = createServer((request, response) => {
    readers.cutOffSlowReader(request, response, 20);
    // The time passes once without an answer: the reader stays.
    response.once('timeout', () => answerLate?.());
    answerLate = () => response.end('late');
  });
  await new Promise<void>((done) => patient.listen(0, '127.0.0.1', done));
  expect(await (await fetch(`http://127.0.0.1:${(patient.address() as AddressInfo).port}/`)).text()).toBe('late');
  patient.closeAllConnections();
  patient.close();
});
