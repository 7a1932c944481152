import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { noteEvents, midiFile, trackChunk } from '@tests/support/midi-bytes';
import { formRequest } from '@tests/support/multipart';
import { WORST_REQUESTS } from '@tests/support/worst-parts';
import { EMPTY_FEEL } from '@/core/model/feel';
import { FIELDS, type CallName } from '../fields';
import { HttpError } from '../http-error';
import { perform } from '../perform';
import { render } from '../render';
import { inChild, poolOf, SLOT_LIMITS } from './in-child';
import { slowdown, usageOf } from './usage';
import type { Waiting } from './waiting';

const folder = mkdtempSync(join(tmpdir(), 'nod-sway-test-'));
const code = join(folder, 'child.cjs');
beforeAll(() => {
  execFileSync('npx', [
    'esbuild',
    'src/api/children/child.ts',
    '--bundle',
    '--platform=node',
    '--format=cjs',
    '--target=node20',
    `--outfile=${code}`,
    '--log-level=error',
  ]);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

type Limits = Parameters<typeof poolOf>[1];
const poolWith = (limits?: Limits, waiting?: Waiting) => {
  const pool = poolOf(code, limits, waiting);
  return {
    pool,
    ask: (call: CallName, fields: Parameters<typeof formRequest>[0]) => inChild(call, FIELDS[call], () => pool)(formRequest(fields)),
  };
};
const feel = JSON.stringify(EMPTY_FEEL);
const beat = midiFile(0, 480, [
  trackChunk(
    noteEvents([
      [0, 36, 100],
      [480, 38, 90],
      [960, 36, 100],
      [1440, 38, 90],
    ]),
  ),
]);
const code422 = async (response: Response) => [response.status, ((await response.json()) as { error: { code: string } }).error.code];
const bytesOf = async (response: Response) => Buffer.from(await response.arrayBuffer());

test('a child answers with the bytes, status and headers that the call itself gives, errors included', async () => {
  const { ask } = poolWith();
  const own = await perform(formRequest({ midi: beat, feel }));
  const answer = await ask('perform', { midi: beat, feel });
  expect([answer.status, answer.headers.get('content-type'), answer.headers.get('content-disposition')]).toEqual([
    200,
    'audio/midi',
    own.headers.get('content-disposition'),
  ]);
  expect((await bytesOf(answer)).equals(await bytesOf(own))).toBe(true);
  expect(await code422(await ask('perform', { midi: Uint8Array.of(1, 2), feel }))).toEqual([422, 'not-midi']);
  expect((await inChild('perform', FIELDS.perform)(new Request('http://127.0.0.1/', { method: 'POST', body: 'x' }))).status).toBe(415);
});

test('a long answer goes through a file that is gone once it is open, and is counted until it is read or left', async () => {
  const { pool, ask } = poolWith();
  const fields = {
    midi: midiFile(0, 480, [
      trackChunk(
        noteEvents([
          [0, 36, 100],
          [480 * 12, 38, 90],
        ]),
      ),
    ]),
    rate: '96000',
    bits: '32f',
  };
  const answer = await ask('render', fields);
  expect(readdirSync(pool.folder)).toEqual([]);
  expect(() => pool.waiting.check('files', 2 ** 30)).toThrow(HttpError);
  expect((await bytesOf(answer)).equals(await bytesOf(await render(formRequest(fields))))).toBe(true);
  pool.waiting.check('files', 2 ** 30);
  await (await ask('render', fields)).body?.cancel();
  pool.waiting.check('files', 2 ** 30);
});

test('while too much waits for slow readers, calls are asked to come again', async () => {
  const { pool, ask } = poolWith();
  const release = pool.waiting.hold('files', 2 ** 30 + 1);
  const refused = await ask('render', { midi: beat });
  expect([refused.status, refused.headers.get('retry-after')]).toEqual([503, '5']);
  // What is short is not kept in files.
  expect((await ask('perform', { midi: beat, feel })).status).toBe(200);
  release();
  const memory = pool.waiting.hold('memory', 64 * 2 ** 20 + 1);
  expect((await ask('perform', { midi: beat, feel })).status).toBe(503);
  memory();
  const bodies = pool.waiting.hold('bodies', 256 * 2 ** 20);
  expect((await ask('perform', { midi: beat, feel })).status).toBe(503);
  bodies();
  expect((await ask('render', { midi: beat })).status).toBe(200);
  // Nothing of these bodies is counted any more.
  pool.waiting.check('bodies', 256 * 2 ** 20);
});

test('work that needs too much memory or time is refused, and the next request is answered', async () => {
  const heavy = WORST_REQUESTS.find((w) => w.name === '512 rows struck together on 40 beats')!;
  // Time enough: on a busy machine the heap would fill after the work's few seconds.
  const small = poolWith({ ...SLOT_LIMITS, short: { ...SLOT_LIMITS.short, heapMegabytes: 24, seconds: 600 } });
  expect(await code422(await small.ask('report', heavy.fields()))).toEqual([422, 'too-large']);
  expect((await small.ask('perform', { midi: beat, feel })).status).toBe(200);
  const short = poolWith({ ...SLOT_LIMITS, short: { ...SLOT_LIMITS.short, seconds: 0.01 } });
  expect(await code422(await short.ask('report', heavy.fields()))).toEqual([422, 'too-slow']);
  const tight = poolWith({ ...SLOT_LIMITS, short: { ...SLOT_LIMITS.short, megabytes: 1, seconds: 600 } });
  expect(await code422(await tight.ask('report', heavy.fields()))).toEqual([422, 'too-large']);
});

test('short work waits for its turn, sound is asked to come again', async () => {
  const { ask } = poolWith();
  const answers = await Promise.all(Array.from({ length: 7 }, () => ask('perform', { midi: beat, feel })));
  expect(answers.map((a) => a.status)).toEqual(Array.from({ length: 7 }, () => 200));
  const sounds = await Promise.all(Array.from({ length: 3 }, () => ask('render', { midi: beat })));
  expect(sounds.map((a) => a.status).sort()).toEqual([200, 200, 429]);
  expect(sounds.find((a) => a.status === 429)?.headers.get('retry-after')).toBe('2');
});

test('CPU time and memory are read from the system, and a busy machine allows up to four times the time on the clock', () => {
  const own = usageOf(process.pid);
  if (process.platform === 'linux') expect([own!.cpuSeconds > 0, own!.megabytes > 10]).toEqual([true, true]);
  expect(usageOf(-1)).toBeNull();
  expect([slowdown(0.1, 2), slowdown(4, 2), slowdown(40, 2)]).toEqual([1, 2, 4]);
});
