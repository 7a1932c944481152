import { formRequest } from '@tests/support/multipart';
import { longScope, WORST_FILES } from '@tests/support/worst-files';
import { MAX_FILE_BYTES } from '@/core/smf/read';
import { groove } from './groove';
import { perform } from './perform';
import { report } from './report';

const feel = JSON.stringify({ format: 'nod-sway/feel@1', moves: [{ kind: 'tighten' }, { kind: 'swing' }, { kind: 'drift' }] });

async function outcome(response: Response): Promise<string | null> {
  if (response.status === 200) return null;
  expect(response.status).toBeLessThan(500);
  const body = await response.text();
  expect(body.length).toBeLessThan(16 * 1024);
  return (JSON.parse(body) as { error: { code: string } }).error.code;
}

// What took a minute would run into the runner's limit.
test.each(WORST_FILES.map((f) => [f.name, f] as const))('%s is answered or refused by name', async (_name, file) => {
  const midi = file.bytes();
  expect(midi.length).toBeLessThanOrEqual(MAX_FILE_BYTES);
  expect(await outcome(await report(formRequest({ midi })))).toBe(file.refused);
  if (midi.length < 100_000)
    expect([
      await outcome(await groove(formRequest({ midi }))),
      await outcome(await perform(formRequest({ midi, feel, keepOtherTracks: 'true' }))),
    ]).toEqual([file.refused, file.refused]);
});

test('a scope of 120,000 entries, or a feel of too many moves for so many hits, is refused by name', async () => {
  const midi = WORST_FILES.find((f) => f.name === '150,000 hits')!.bytes();
  expect(await outcome(await perform(formRequest({ midi, feel: longScope(120_000) })))).toBe('bad-feel');
  const moves = JSON.stringify({ format: 'nod-sway/feel@1', moves: Array.from({ length: 7 }, () => ({ kind: 'lay', ms: 1 })) });
  expect(await outcome(await perform(formRequest({ midi, feel: moves })))).toBe('too-much-work');
});

test('a body without a declared length is left as soon as it passes its limit; of errors only a little is repeated', async () => {
  let sent = 0;
  const endless = new ReadableStream({
    pull(controller) {
      sent += 1 << 20;
      controller.enqueue(new Uint8Array(1 << 20));
    },
  });
  const headers = { 'content-type': 'multipart/form-data; boundary=x' };
  expect(
    (await report(new Request('http://127.0.0.1/api', { method: 'POST', body: endless, headers, duplex: 'half' } as RequestInit))).status,
  ).toBe(413);
  // Part files may have 16 MiB.
  expect(sent).toBeLessThan(20 << 20);
  const parts = `--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n\r\n`.repeat(100);
  expect(await outcome(await report(new Request('http://127.0.0.1/api', { method: 'POST', body: `${parts}--x--`, headers })))).toBe(
    'bad-form',
  );
  const long = await report(formRequest({ ['x'.repeat(5_000)]: '1' }));
  const text = await long.text();
  expect([long.status, text.length < 1000, text.includes('x'.repeat(101))]).toEqual([400, true, false]);
  const noise = JSON.stringify({ format: 'nod-sway/feel@1', moves: [], ['y'.repeat(200_000)]: 1 });
  const midi = WORST_FILES.find((f) => f.name === 'a note held for ever')!.bytes();
  expect((await (await perform(formRequest({ midi, feel: noise }))).text()).length).toBeLessThan(1000);
});
