import { freeTake } from '@tests/support/free-takes';
import { meterEvent, midiFile, noteEvents, tempoEvent, trackChunk } from '@tests/support/midi-bytes';
import { beats } from './beats';

type Fields = Record<string, string | Uint8Array>;

const request = (fields: Fields): Request => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields))
    form.set(name, typeof value === 'string' ? value : new Blob([value as Uint8Array<ArrayBuffer>]));
  return new Request('http://127.0.0.1/api', { method: 'POST', body: form });
};
const failure = async (response: Response): Promise<[number, string, unknown]> => {
  const { error } = (await response.json()) as { error: { code: string; message: string; details?: unknown } };
  expect(error.message.length).toBeGreaterThan(5);
  return [response.status, error.code, error.details];
};

describe('beats', () => {
  interface Answer {
    readings: {
      likelihood: number;
      meter: [number, number];
      beats: number[];
      downbeat: number;
      bpm: { mean: number; min: number; max: number };
    }[];
  }
  const read = async (fields: Fields): Promise<Answer['readings']> => {
    const response = await beats(request(fields));
    expect(response.status).toBe(200);
    return ((await response.json()) as Answer).readings;
  };
  const eventsOf = (seed: number): string =>
    JSON.stringify(freeTake(seed, { bars: 8 }).strokes.map(({ at, key, velocity }) => ({ t: at, key, velocity })));

  test('events that were played freely: three readings at most, the first as it was meant', async () => {
    const take = freeTake(7, { bars: 8 });
    const readings = await read({ events: eventsOf(7) });
    expect(readings.length).toBeLessThanOrEqual(3);
    expect(readings.reduce((sum, r) => sum + r.likelihood, 0)).toBeLessThanOrEqual(1);
    const [first] = readings;
    expect(first!.meter).toEqual(take.meter);
    for (const beat of take.beats.slice(1, -2)) expect(Math.min(...first!.beats.map((b) => Math.abs(b - beat)))).toBeLessThan(0.07);
    expect([first!.bpm.min <= first!.bpm.mean, first!.bpm.mean <= first!.bpm.max]).toEqual([true, true]);
  });

  test('a MIDI file is read by the clock: half its tempo, twice the length of a beat', async () => {
    const bars = Array.from({ length: 8 }, (_, b) => b * 1920);
    const notes = bars.flatMap((at) => [
      [at, 36, 110] as const,
      [at + 480, 38, 108] as const,
      [at + 960, 36, 104] as const,
      [at + 1440, 38, 110] as const,
      ...Array.from({ length: 8 }, (_, i) => [at + 240 * i, 42, i % 2 ? 64 : 90] as const),
    ]);
    notes.sort((a, b) => a[0] - b[0]);
    const at = async (us: number) => {
      const midi = midiFile(0, 480, [trackChunk([tempoEvent(0, us), meterEvent(0, 4, 2), ...noteEvents(notes, 30)])]);
      return (await read({ midi })).map((r) => Math.round(r.bpm.mean))[0];
    };
    expect([await at(500_000), await at(600_000)]).toEqual([120, 100]);
  });

  test('taps narrow it; what is wrong is named', async () => {
    const take = freeTake(7, { bars: 8 });
    const [tapped] = await read({ events: eventsOf(7), taps: JSON.stringify([take.beats[0], take.beats[1]]) });
    expect(tapped!.likelihood).toBeGreaterThan(0.5);
    const named = async (fields: Fields) => failure(await beats(request(fields)));
    expect(await named({})).toMatchObject([400, 'bad-field', { midi: expect.any(String) }]);
    expect(await named({ events: 'no' })).toMatchObject([400, 'bad-field', { events: 'is not JSON' }]);
    expect(await named({ events: '{}' })).toMatchObject([400, 'bad-field', { events: expect.any(String) }]);
    for (const wrong of [
      { t: '1' },
      { t: 1, key: 128, velocity: 3 },
      { t: 1, key: 3, velocity: 0 },
      { t: 1e9, key: 3, velocity: 4 },
      5,
      null,
    ])
      expect(await named({ events: JSON.stringify([wrong]) })).toMatchObject([
        400,
        'bad-field',
        { events: expect.stringContaining('entry 0') },
      ]);
    for (const taps of ['no', '[]', '[2, 1]', '["a"]', '[1, null]'])
      expect(await named({ events: eventsOf(7), taps })).toMatchObject([400, 'bad-field', { taps: expect.any(String) }]);
    expect(await named({ events: eventsOf(7), midi: new Uint8Array(4) })).toMatchObject([400, 'bad-field', { events: expect.any(String) }]);
    const few = JSON.stringify(Array.from({ length: 7 }, (_, i) => ({ t: i, key: 36, velocity: 90 })));
    expect(await named({ events: few })).toMatchObject([422, 'too-few-strokes', { strokes: 7 }]);
    const many = JSON.stringify(Array.from({ length: 20_001 }, (_, i) => ({ t: i / 100, key: 36, velocity: 90 })));
    expect(await named({ events: many })).toMatchObject([422, 'too-many-strokes', expect.anything()]);
    expect(await named({ events: `[${' '.repeat(4 * 2 ** 20)}]` })).toMatchObject([413, 'json-too-large', expect.anything()]);
  });
});
