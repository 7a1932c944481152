import { expect, test } from '@playwright/test';
import { WORST_REQUESTS } from '../tests/support/worst-parts';
import { exportMidi, flatBeat, openMidi, midiFile, noteEvents, notesOf, trackChunk } from './support';

/** The HTTP API of the running server. */

const SWING = { format: 'nod-sway/feel@1', moves: [{ kind: 'swing', division: '1/16', percent: 60 }] };
const file = (bytes: Uint8Array) => ({ name: 'beat.mid', mimeType: 'audio/midi', buffer: Buffer.from(bytes) });

test('the browser and the API write the same bytes for the same part and feel', async ({ page, request }) => {
  const { bytes } = flatBeat(2);
  await openMidi(page, 'part.mid', bytes);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '3:2', exact: true }).click();
  const fromBrowser = [await exportMidi(page), await exportMidi(page, 'song')];
  const fromApi = await Promise.all(
    ['false', 'true'].map(async (keepOtherTracks) => {
      const answer = await request.post('/api/perform', { multipart: { midi: file(bytes), feel: JSON.stringify(SWING), keepOtherTracks } });
      expect(answer.status()).toBe(200);
      expect(answer.headers()['content-type']).toBe('audio/midi');
      return new Uint8Array(await answer.body());
    }),
  );
  expect([...fromApi[0]!]).toEqual([...fromBrowser[0]!]);
  expect([...fromApi[1]!]).toEqual([...fromBrowser[1]!]);
});

test('a feel of its own for hats, every second bar, off-beats only', async ({ request }) => {
  const { bytes, notes } = flatBeat(2);
  const feel = {
    format: 'nod-sway/feel@1',
    moves: [
      {
        kind: 'swing',
        division: '1/16',
        percent: 75,
        scope: { voices: ['hat-closed'], bars: { every: 2, at: [2] }, steps: { grid: '1/16', of: 4, at: [3] } },
      },
    ],
  };
  const answer = await request.post('/api/perform', { multipart: { midi: file(bytes), feel: JSON.stringify(feel), ppq: '480' } });
  // Bar 2's fourth sixteenths come a quarter of a pair (240 ticks) late.
  const expected = notes.map(([t, k, v]) => [t + (k === 42 && t >= 1920 && (t / 120) % 4 === 3 ? 60 : 0), k, v]);
  expect(notesOf(new Uint8Array(await answer.body()))).toEqual(expected.sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]!));
});

test('what is rendered is heard again: strokes where they were written, a reading that fits, the groove', async ({ request }) => {
  const { bytes } = flatBeat(2);
  const rendered = await request.post('/api/render', { multipart: { midi: file(bytes), kit: 'Beacon', rate: '44100', ending: 'fold' } });
  const audio = { name: 'beat.wav', mimeType: 'audio/wav', buffer: await rendered.body() };
  const heard = (await (await request.post('/api/onsets', { multipart: { audio } })).json()) as {
    onsets: { seconds: number }[];
    readings: { bars: number; bpm: number }[];
  };
  // Sixteenths at 120: the limiter's rest and the strokes' own rise are under a millisecond.
  expect(heard.onsets.map((o) => Math.round(o.seconds / 0.125))).toEqual(Array.from({ length: 32 }, (_, i) => i));
  expect(Math.max(...heard.onsets.map((o, i) => Math.abs(o.seconds - i * 0.125)))).toBeLessThan(0.003);
  expect(heard.readings.map((r) => [r.bars, Math.round(r.bpm)])).toContainEqual([2, 120]);
  const learnt = (await (
    await request.post('/api/groove', { multipart: { audio, bars: '2', meter: '4/4', firstDownbeat: '0' } })
  ).json()) as { steps: { offset: number }[] };
  expect(Math.max(...learnt.steps.map((s) => Math.abs(s.offset)))).toBeLessThan(0.03);
  const refused = await request.post('/api/onsets', { multipart: { audio: { ...audio, buffer: Buffer.from('no sound') } } });
  expect([refused.status(), ((await refused.json()) as { error: { code: string } }).error.code]).toEqual([422, 'bad-sound']);
});

test('a report over HTTP, and errors with their status', async ({ request }) => {
  const late = midiFile(0, 480, [
    trackChunk(
      noteEvents(
        Array.from({ length: 32 }, (_, i) => [i * 120 + 40, 42, 60 + i] as const),
        30,
      ),
    ),
  ]);
  const report = await (await request.post('/api/report', { multipart: { midi: file(late), origin: 'auto' } })).json();
  expect(report).toMatchObject({
    tempo: 120,
    meter: [4, 4],
    bars: 2,
    originTicks: 40,
    voices: [{ voice: 'hat-closed', key: 42, n: 32, meanLeanMs: 0, sdLeanMs: 0, velocity: { min: 60, mean: 75.5, max: 91 } }],
  });

  const status = async (multipart: Parameters<typeof request.post>[1]): Promise<[number, string]> => {
    const answer = await request.post('/api/perform', multipart);
    return [answer.status(), ((await answer.json()) as { error: { code: string } }).error.code];
  };
  expect(await status({ data: 'plain' })).toEqual([415, 'not-multipart']);
  expect(await status({ multipart: { feel: JSON.stringify(SWING) } })).toEqual([400, 'bad-field']);
  expect(await status({ multipart: { midi: file(late), feel: '{"format":"nod-sway/feel@1","moves":[{"kind":"drag"}]}' } })).toEqual([
    400,
    'bad-feel',
  ]);
  expect(await status({ multipart: { midi: file(Uint8Array.of(77, 84)), feel: JSON.stringify(SWING) } })).toEqual([422, 'not-midi']);
  expect(await status({ multipart: { midi: file(new Uint8Array(8 * 1024 * 1024 + 1)), feel: JSON.stringify(SWING) } })).toEqual([
    413,
    'file-too-large',
  ]);
  expect((await request.get('/api/report')).status()).toBe(405);
});

test('requests that would make far too much are refused, and the server goes on', async ({ request }) => {
  for (const name of [
    'a loop length of one 1/64T over 100,000 bars of 64/1',
    '200,000 unknown members',
    'an order of 640 rounds with 5,000 tempo changes',
  ]) {
    const { call, fields, refused } = WORST_REQUESTS.find((w) => w.name === name)!;
    const multipart = Object.fromEntries(
      Object.entries(fields()).map(([field, value]) => [
        field,
        field === 'part' ? { name: 'part.json', mimeType: 'application/json', buffer: Buffer.from(value as string) } : (value as string),
      ]),
    );
    const answer = await request.post(`/api/${call}`, { multipart });
    expect([name, answer.status() < 500, ((await answer.json()) as { error: { code: string } }).error.code]).toEqual([name, true, refused]);
  }
  expect((await request.post('/api/report', { multipart: { midi: file(flatBeat(1).bytes) } })).status()).toBe(200);
});
