import { formRequest } from '@tests/support/multipart';
import { WORST_REQUESTS } from '@tests/support/worst-parts';
import { CALLS } from './children/calls';

// What is made before it is counted would end in memory or in the runner's time.
test.each(WORST_REQUESTS.filter((w) => !w.isSlow).map((w) => [`${w.call}: ${w.name}`, w] as const))(
  '%s',
  async (name, { call, fields, refused }) => {
    const response = await CALLS[call](formRequest(fields()));
    if (response.status === 200) return expect(refused).toBeNull();
    const text = await response.text();
    // One of a hundred thousand is named.
    if (name.includes('unknown members')) expect(text).toContain('unknown0');
    expect([
      response.status >= 400 && response.status < 500,
      text.length < 16 * 1024,
      (JSON.parse(text) as { error: { code: string } }).error.code,
    ]).toEqual([true, true, refused]);
  },
);

test('competing pairs are counted though only a thousand are listed', async () => {
  const { call, fields } = WORST_REQUESTS.find((w) => w.name.includes('10,000 hits on two keys'))!;
  const answer = (await (await CALLS[call](formRequest(fields()))).json()) as { competing: unknown[]; counts: { competing: number } };
  // A tick is 1/480 microsecond: all 10,000 strokes lie within 35 ms. Of 25 million pairs of unlike rows those on one line do not compete.
  expect([answer.competing.length, answer.counts.competing > 24e6, answer.counts.competing < 25e6]).toEqual([1000, true, true]);
});
