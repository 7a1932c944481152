import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { groove } from './groove';
import { onsets } from './onsets';
import { perform } from './perform';
import { render } from './render';
import { report } from './report';
import { writeWav } from '@/core/audio/wav';
import { EMPTY_FEEL } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import type { HeardLoop } from '@/core/onsets/listen';
import type { Part } from '@/core/model/part';
import { importPart } from '@/core/smf/import-part';
import { readSmf } from '@/core/smf/read';
import { writePartFile } from '@/formats/part-file';
import { midiFile, meterEvent, noteEvents, tempoEvent, trackChunk } from '@tests/support/midi-bytes';

type Fields = Record<string, string | Uint8Array>;
type Note = [tick: number, key: number, velocity: number];

const request = (fields: Fields): Request => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields))
    form.set(name, typeof value === 'string' ? value : new Blob([value as Uint8Array<ArrayBuffer>]));
  return new Request('http://127.0.0.1/api', { method: 'POST', body: form });
};
const swing = (percent: number): string =>
  JSON.stringify({ format: 'nod-sway/feel@1', moves: [{ kind: 'swing', division: '1/16', percent }] });
const eight = Array.from({ length: 16 }, (_, i) => [i * 120 + (i % 2 ? 24 : 0), i % 4 === 0 ? 36 : 42, i % 2 ? 60 : 100] as const);
const song = midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(eight, 30)])]);

const failure = async (response: Response): Promise<[number, string, unknown]> => {
  const { error } = (await response.json()) as { error: { code: string; message: string; details?: unknown } };
  expect(error.message.length).toBeGreaterThan(5);
  return [response.status, error.code, error.details];
};

test('perform: a file and a feel in, the performed file out, on channel 10 with tempo and meter', async () => {
  const straight = midiFile(0, 480, [
    trackChunk([
      tempoEvent(0, 500_000),
      meterEvent(0, 4, 2),
      ...noteEvents(
        [
          [0, 36, 100],
          [120, 42, 90],
        ],
        30,
      ),
    ]),
  ]);
  const response = await perform(request({ midi: straight, feel: swing(60) }));
  expect(response.status).toBe(200);
  expect(response.headers.get('content-type')).toBe('audio/midi');
  const midi = parseMidi(new Uint8Array(await response.arrayBuffer()));
  expect(midi.header).toMatchObject({ format: 0, ticksPerBeat: 960 });
  let now = 0;
  const events = midi.tracks[0]!.map((e) => ({ ...e, at: (now += e.deltaTime) }));
  expect(events.flatMap((e) => (e.type === 'noteOn' ? [[e.at, e.channel, e.noteNumber]] : []))).toEqual([
    [0, 9, 36],
    [288, 9, 42],
  ]);
  expect(events.map((e) => e.type).filter((t) => t === 'setTempo' || t === 'timeSignature')).toHaveLength(2);
});

test('report: numbers computed by hand', async () => {
  const response = await report(request({ midi: song }));
  const body = (await response.json()) as { voices: { voice: string; key: number; n: number }[] };
  // Off-beat hats lie 24 of 480 ticks late: 25 ms at 120 BPM, at 60 % of their pair of 240.
  expect(body).toMatchObject({ tempo: 120, meter: [4, 4], bars: 1, originTicks: 0 });
  expect(body.voices.map((v) => [v.voice, v.key, v.n])).toEqual([
    ['hat-closed', 42, 12],
    ['kick', 36, 4],
  ]);
  const hat = body.voices[0]!;
  expect(hat).toMatchObject({
    swing: { division: '1/16', percent: 60, n: 8 },
    ghosts: 0,
    velocity: { min: 60, max: 100, mean: (8 * 60 + 4 * 100) / 12 },
  });
});

test('report with homes: a shuffle is read as swung eighths, each hit with its straight line; leans from home or from the swing', async () => {
  // Four bars of eighths at 120, the second of each pair at 60 %: 288 of 480 ticks; one snare 17 ticks late of beat 2.
  const hats = Array.from({ length: 32 }, (_, n): Note => [Math.floor(n / 2) * 480 + (n % 2) * 288, 42, 90]);
  const snares = Array.from({ length: 8 }, (_, n): Note => [480 + n * 960 + (n === 0 ? 17 : 0), 38, 100]);
  const midi = midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), ...noteEvents([...hats, ...snares], 30)])]);
  const bodyOf = async (fields: Record<string, string>) =>
    (await (await report(request({ midi, homes: 'true', ...fields }))).json()) as Report;
  const body = await bodyOf({});
  const hat = body.homes.filter((h) => h.voice === 'hat-closed');
  expect(hat.map((h) => [h.tick, h.home])).toEqual(hats.map(([tick], n) => [tick, n * 240]));
  expect(body.homes.find((h) => h.voice === 'snare')).toMatchObject({ tick: 497, home: 480 });
  expect(body.swings.map(({ voice, division, fromBar, toBar, n }) => [voice, division, fromBar, toBar, n])).toEqual([
    [null, '1/8', 1, 4, 16],
    ['hat-closed', '1/8', 1, 4, 16],
  ]);
  body.swings.forEach((s) => expect([s.percent, s.sd]).toEqual([60, 0]));
  const row = (of: Report) => of.voices.find((v) => v.voice === 'hat-closed')!;
  // 48 ticks at 960 a second are 50 ms, on half of the hats.
  expect([row(body).meanLeanMs, row(body).swing]).toEqual([25, { division: '1/8', percent: 60, n: 16 }]);
  expect(Math.abs(row(await bodyOf({ leansFrom: 'swing' })).meanLeanMs)).toBeLessThan(0.5);
  expect((await report(request({ midi, leansFrom: 'swing' }))).status).toBe(400);
});

interface Report {
  homes: { tick: number; voice: string; home: number; sure: number; other: number | null }[];
  swings: { voice: string | null; fromBar: number; toBar: number; division: string; percent: number; n: number; sd: number }[];
  voices: { voice: string; meanLeanMs: number; swing: { division: string; percent: number; n: number } | null }[];
}

test('report: what falls together, competes, repeats, and cannot be played; who plays it, when asked', async () => {
  const notes = [0, 1].flatMap((bar): [number, number, number][] => [
    [bar * 1920, 36, 100],
    [bar * 1920, 42, 90],
    [bar * 1920 + 480, 38, 100],
    [bar * 1920 + 480, 42, 90],
  ]);
  const jam: [number, number, number][] = [
    [1440, 38, 100],
    [1440, 45, 100],
    [1440, 49, 100],
  ];
  const midi = midiFile(0, 480, [
    trackChunk([
      tempoEvent(0, 500_000),
      meterEvent(0, 4, 2),
      ...noteEvents(
        [...notes, ...jam].sort((a, b) => a[0] - b[0] || a[1] - b[1]),
        60,
      ),
    ]),
  ]);
  const body = (await (await report(request({ midi, sticking: 'true' }))).json()) as Record<string, unknown[]>;
  expect(body.together).toContainEqual({ voices: ['hat-closed', 'kick'], n: 2, meanMs: 0, sdMs: 0 });
  expect(body.competing).toEqual([]);
  expect(body.conflicts).toEqual([
    {
      bar: 1,
      tick: 1440,
      voices: expect.arrayContaining(['crash', 'snare', 'tom-low']) as string[],
      kind: 'hands',
      text: expect.any(String) as string,
    },
  ]);
  expect(body.sticking).toContainEqual({ tick: 480, voice: 'snare', limb: 'L' });
  expect(body.sticking).toContainEqual({ tick: 0, voice: 'kick', limb: 'RF' });
  expect(body.counts).toMatchObject({ conflicts: 1, competing: 0, alike: 0, sticking: 10 });
  const plain = (await (await report(request({ midi }))).json()) as Record<string, unknown[]>;
  expect(plain.sticking).toBeUndefined();
});

test('report against a grid: leans are distances to its lines', async () => {
  const body = (await (await report(request({ midi: song, grid: '1/16' }))).json()) as {
    voices: { meanLeanMs: number; sdLeanMs: number }[];
  };
  expect(body.voices[0]!.meanLeanMs).toBeCloseTo((8 * 25) / 12, 6);
  expect(body.voices[0]!.sdLeanMs).toBeCloseTo(Math.sqrt((8 * 625) / 12 - ((8 * 25) / 12) ** 2), 6);
});

test('origin auto finds a constant distance, a number sets it, and swing counts from there', async () => {
  const late = midiFile(0, 480, [
    trackChunk(
      noteEvents(
        Array.from({ length: 32 }, (_, i) => [i * 120 + 40, 36, 90] as const),
        30,
      ),
    ),
  ]);
  expect(await (await report(request({ midi: late, origin: 'auto' }))).json()).toMatchObject({ originTicks: 40 });
  const out = parseMidi(new Uint8Array(await (await perform(request({ midi: late, feel: swing(60), origin: '40' }))).arrayBuffer()));
  let now = 0;
  const ons = out.tracks[0]!.flatMap((e) => ((now += e.deltaTime), e.type === 'noteOn' ? [now] : []));
  expect(ons).toEqual(Array.from({ length: 32 }, (_, i) => i * 240 + 80 + (i % 2 ? 48 : 0)));
});

test.each<[string, (fields: Fields) => Fields, [number, string, unknown]]>([
  ['no file', ({ midi: _m, ...f }) => f, [400, 'bad-field', { midi: expect.any(String) }]],
  ['a file as text', (f) => ({ ...f, midi: 'notes' }), [400, 'bad-field', { midi: expect.any(String) }]],
  ['no feel', ({ feel: _f, ...f }) => f, [400, 'bad-field', { feel: expect.any(String) }]],
  ['a feel that is no JSON', (f) => ({ ...f, feel: '{' }), [400, 'bad-feel', expect.anything()]],
  [
    'an unknown kind',
    (f) => ({ ...f, feel: '{"format":"nod-sway/feel@1","moves":[{"kind":"wobble"}]}' }),
    [400, 'bad-feel', [expect.objectContaining({ field: 'moves[0].kind' })]],
  ],
  ['a feel of over 256 KiB', (f) => ({ ...f, feel: ' '.repeat(256 * 1024 + 1) }), [413, 'json-too-large', expect.anything()]],
  ['a file of over 8 MiB', (f) => ({ ...f, midi: new Uint8Array(8 * 1024 * 1024 + 1) }), [413, 'file-too-large', expect.anything()]],
  ['not MIDI', (f) => ({ ...f, midi: Uint8Array.of(1, 2, 3) }), [422, 'not-midi', undefined]],
  ['other channels', (f) => ({ ...f, channels: '1,2' }), [422, 'no-drum-notes', { notesByChannel: { 10: 16 } }]],
  ['a wrong channel', (f) => ({ ...f, channels: '17' }), [400, 'bad-field', { channels: expect.any(String) }]],
  ['a wrong origin', (f) => ({ ...f, origin: 'left' }), [400, 'bad-field', { origin: expect.any(String) }]],
  ['a ppq that is no multiple', (f) => ({ ...f, keepOtherTracks: 'true', ppq: '1000' }), [400, 'bad-resolution', expect.anything()]],
  ['a ppq out of range', (f) => ({ ...f, ppq: '12' }), [400, 'bad-resolution', expect.anything()]],
  ['a wrong choice', (f) => ({ ...f, keepOtherTracks: 'maybe' }), [400, 'bad-field', { keepOtherTracks: expect.any(String) }]],
  ['an unknown field', (f) => ({ ...f, speed: '2' }), [400, 'bad-field', { speed: expect.any(String) }]],
])('perform with %s', async (_what, change, expected) => {
  expect(await failure(await perform(request(change({ midi: song, feel: swing(55) }))))).toEqual(expected);
});

test('groove: learnt steps as groove@1, which perform takes back', async () => {
  const body = (await (await groove(request({ midi: song, perVoice: 'true', name: 'From a song' }))).json()) as {
    steps: { offset: number; level: number; n: number }[];
    voices: Record<string, unknown>;
  };
  expect(body).toMatchObject({ format: 'nod-sway/groove@1', name: 'From a song', meter: [4, 4], beats: 4, stepsPerBeat: 4 });
  // Off-beats lie 24 of 120 ticks late: 20 % of a step. Hats: 8 of 60 and 4 of 100, mean 220 / 3.
  expect(body.steps.map((s) => s.offset)).toEqual(Array.from({ length: 16 }, (_, i) => (i % 2 ? expect.closeTo(0.2, 9) : 0)));
  expect(body.steps[1]!.level).toBeCloseTo((60 * 3) / 220, 9);
  expect(Object.keys(body.voices)).toEqual(['hat-closed', 'kick']);
  const straight = midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents([[120, 42, 100]], 30)])]);
  const feel = JSON.stringify({ format: 'nod-sway/feel@1', moves: [{ kind: 'template', groove: body, level: 0 }] });
  const midi = parseMidi(new Uint8Array(await (await perform(request({ midi: straight, feel }))).arrayBuffer()));
  let now = 0;
  expect(midi.tracks[0]!.flatMap((e) => ((now += e.deltaTime), e.type === 'noteOn' ? [now] : []))).toEqual([288]);
});

test.each<[string, Fields, [number, string, unknown]]>([
  ['beats of nothing', { beats: '0' }, [400, 'bad-field', { beats: expect.any(String) }]],
  ['too many beats', { beats: '65' }, [400, 'bad-field', { beats: expect.any(String) }]],
  ['beats as words', { beats: 'four' }, [400, 'bad-field', { beats: expect.any(String) }]],
  ['under one step', { beats: '0.01' }, [400, 'bad-field', { beats: expect.any(String) }]],
  ['no steps', { stepsPerBeat: '0' }, [400, 'bad-field', { stepsPerBeat: expect.any(String) }]],
  ['a name too long', { name: 'x'.repeat(121) }, [400, 'bad-field', { name: expect.any(String) }]],
  ['a wrong choice', { perVoice: 'yes' }, [400, 'bad-field', { perVoice: expect.any(String) }]],
  ['voices that it lacks', { voices: 'rim, clap' }, [422, 'nothing-to-learn', undefined]],
])('groove with %s', async (_what, fields, expected) => {
  expect(await failure(await groove(request({ midi: song, ...fields })))).toEqual(expected);
});

test('not multipart, or a body that claims to be: 415 and 400', async () => {
  expect(await failure(await report(new Request('http://127.0.0.1/api', { method: 'POST', body: 'x' })))).toEqual([
    415,
    'not-multipart',
    undefined,
  ]);
  const broken = new Request('http://127.0.0.1/api', {
    method: 'POST',
    body: 'x',
    headers: { 'content-type': 'multipart/form-data; boundary=a' },
  });
  expect(await failure(await report(broken))).toEqual([400, 'bad-form', undefined]);
});

test('any bytes as a file end in 200 or 4xx', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(fc.nat({ max: song.length - 1 }), fc.nat({ max: 255 })), { maxLength: 8 }), async (edits) => {
      const midi = Uint8Array.from(song);
      for (const [at, value] of edits) midi[at] = value;
      for (const response of [
        await report(request({ midi })),
        await groove(request({ midi })),
        await perform(request({ midi, feel: swing(66), keepOtherTracks: 'true' })),
      ])
        expect([200, 400, 422]).toContain(response.status);
    }),
    { numRuns: 60 },
  );
});

test('a file with both keys of a voice is reported by rows; a feel touches the rows that it names, or all of a voice', async () => {
  const both = midiFile(0, 480, [
    trackChunk(
      noteEvents(
        [
          [0, 38, 100],
          [240, 40, 80],
          [480, 38, 100],
          [720, 40, 80],
        ],
        30,
      ),
    ),
  ]);
  const { voices } = (await (await report(request({ midi: both }))).json()) as { voices: { voice: string; key: number; n: number }[] };
  expect(voices.map((v) => [v.voice, v.key, v.n])).toEqual([
    ['snare', 38, 2],
    ['snare:2', 40, 2],
  ]);
  const starts = async (voice: string): Promise<number[]> => {
    const answer = await perform(
      request({
        midi: both,
        feel: JSON.stringify({ format: 'nod-sway/feel@2', moves: [{ kind: 'lay', ms: 50, scope: { voices: [voice] } }] }),
      }),
    );
    let now = 0;
    return parseMidi(new Uint8Array(await answer.arrayBuffer())).tracks[0]!.flatMap(
      (e) => ((now += e.deltaTime), e.type === 'noteOn' ? [now] : []),
    );
  };
  // 50 ms are 96 ticks at 120 BPM.
  expect(await starts('snare')).toEqual([96, 480, 1056, 1440]);
  expect(await starts('snare:2')).toEqual([0, 576, 960, 1536]);
  expect(await starts('snare:*')).toEqual([96, 576, 1056, 1536]);
  const learnt = (await (await groove(request({ midi: both, perVoice: 'true', voices: 'snare:2' }))).json()) as { voices: object };
  expect(Object.keys(learnt.voices)).toEqual(['snare:2']);
});

/** Where a WAV's samples are, and what they are. */
const wavOf = async (
  response: Response,
): Promise<{ rate: number; bits: number; frames: number; peak: number; bytes: Uint8Array; account: unknown }> => {
  expect([response.status, response.headers.get('content-type')]).toEqual([200, 'audio/wav']);
  const bytes = new Uint8Array(await response.arrayBuffer());
  const v = new DataView(bytes.buffer);
  const [bits, size] = [v.getUint16(34, true), v.getUint32(40, true)];
  let peak = 0;
  if (bits === 16) for (let at = 44; at < 44 + size; at += 2) peak = Math.max(peak, Math.abs(v.getInt16(at, true)) / 32768);
  return {
    rate: v.getUint32(24, true),
    bits,
    frames: size / (bits / 4),
    peak,
    bytes,
    account: JSON.parse(response.headers.get('x-nod-sway-account') ?? 'null'),
  };
};

test('render: a file in, its sound out; the same request gives the same bytes', async () => {
  const one = await wavOf(await render(request({ midi: song, rate: '44100', ending: 'fold' })));
  expect(one).toMatchObject({ rate: 44_100, bits: 16, frames: 88_200, account: { leftOut: [], early: 0, folds: [] } });
  expect(one.peak).toBeGreaterThan(0.05);
  expect((await wavOf(await render(request({ midi: song, rate: '44100', ending: 'fold' })))).bytes).toEqual(one.bytes);
  const float = await wavOf(
    await render(request({ midi: song, rate: '44100', bits: '32f', rows: 'kick', room: 'off', master: 'off', ending: 'fold' })),
  );
  expect(float).toMatchObject({ bits: 32, frames: 88_200, account: { leftOut: ['hat-closed'] } });
  const beacon = await wavOf(await render(request({ midi: song, rate: '44100', ending: 'fold', kit: 'Beacon' })));
  expect(beacon.bytes).not.toEqual(one.bytes);
});

test('a part file is taken by every call: with its feel, its kit and its mutes', async () => {
  const file = importPart(readSmf(song), { name: 'song', lanes: [{ track: 0, channel: 10 }] }).part;
  const part: Part = {
    ...file,
    kit: 'Beacon',
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'lay', ms: 50, scope: { voices: ['kick'] } }] },
    rows: file.rows.map((r) => (r.voice === 'hat-closed' ? { ...r, muted: true } : r)),
  };
  const text = writePartFile({ part });
  const reported = (await (await report(request({ part: text }))).json()) as { voices: { voice: string }[] };
  expect(reported.voices.map((v) => v.voice)).toEqual(['hat-closed', 'kick']);
  const performed = parseMidi(new Uint8Array(await (await perform(request({ part: text }))).arrayBuffer()));
  let now = 0;
  expect(performed.tracks[0]!.flatMap((e) => ((now += e.deltaTime), e.type === 'noteOn' ? [now] : []))[0]).toBe(96);
  expect((await groove(request({ part: text, voices: 'kick' }))).status).toBe(200);
  expect(await wavOf(await render(request({ part: text, rate: '44100', ending: 'fold' })))).toMatchObject({
    account: { leftOut: ['hat-closed'] },
  });
  expect(await failure(await perform(request({ part: text, keepOtherTracks: 'true' })))).toEqual([400, 'bad-field', expect.anything()]);
  expect(await failure(await report(request({ part: text, midi: song })))).toEqual([400, 'bad-field', expect.anything()]);
  expect(await failure(await report(request({ part: '{"format":"nod-sway/part@2"}' })))).toEqual([400, 'bad-part', expect.anything()]);
});

test.each([
  ['kit', 'Cellar'],
  ['rate', '22050'],
  ['bits', '8'],
  ['fromBar', '0'],
  ['toBar', '9'],
  ['rows', ''],
  ['rows', 'kick,'],
  ['rows', 'tuba'],
  ['ending', 'stop'],
  ['room', 'big'],
  ['seed', '-1'],
  ['order', '1'],
])('render: %s=%s is refused by name', async (name, value) => {
  const [status, code, details] = await failure(await render(request({ midi: song, [name]: value })));
  expect([status, code]).toEqual([400, 'bad-field']);
  expect(Object.keys(details as object)).toEqual([name]);
});

test('render: more than ten minutes are too much at once', async () => {
  const long = midiFile(0, 480, [
    trackChunk([
      tempoEvent(0, 3_000_000),
      ...noteEvents(
        [
          [0, 36, 100],
          [480 * 210, 36, 100],
        ],
        30,
      ),
    ]),
  ]);
  expect(await failure(await render(request({ midi: long })))).toEqual([422, 'too-long', { seconds: 636 }]);
});

test('order: a part’s running order unrolled, with markers; as audio of its length; not with the other tracks', async () => {
  const file = importPart(readSmf(song), { name: 'song', lanes: [{ track: 0, channel: 10 }] }).part;
  const part: Part = {
    ...file,
    sections: [{ id: 'a', name: 'Verse', from: 1, bars: file.bars }],
    order: [{ section: 'a', times: 3, rests: ['hat-closed'] }],
  };
  const text = writePartFile({ part });
  const plain = parseMidi(new Uint8Array(await (await perform(request({ part: text }))).arrayBuffer())).tracks[0]!;
  const unrolled = parseMidi(new Uint8Array(await (await perform(request({ part: text, order: 'true' }))).arrayBuffer())).tracks[0]!;
  const ons = (track: typeof plain, key: number): number => track.filter((e) => e.type === 'noteOn' && e.noteNumber === key).length;
  expect([ons(unrolled, 36), ons(unrolled, 42)]).toEqual([3 * ons(plain, 36), 0]);
  expect(unrolled.flatMap((e) => (e.type === 'marker' ? [e.text] : []))).toEqual(['Verse', 'Verse', 'Verse']);
  const once = await wavOf(await render(request({ part: text, rate: '44100', ending: 'fold' })));
  expect((await wavOf(await render(request({ part: text, rate: '44100', ending: 'fold', order: 'true' })))).frames).toBe(3 * once.frames);
  expect(
    (
      await wavOf(
        await render(
          request({
            part: text,
            rate: '44100',
            ending: 'fold',
            order: 'true',
            fromBar: String(file.bars + 1),
            toBar: String(2 * file.bars),
          }),
        ),
      )
    ).frames,
  ).toBe(once.frames);
  expect(
    await failure(
      await perform(request({ midi: song, feel: '{"format":"nod-sway/feel@2","moves":[]}', order: 'true', keepOtherTracks: 'true' })),
    ),
  ).toEqual([400, 'bad-field', expect.anything()]);
  expect(await failure(await perform(request({ part: text, order: 'yes' })))).toEqual([400, 'bad-field', expect.anything()]);
  const stray = JSON.stringify({ ...(JSON.parse(text) as object), order: [{ section: 'nowhere' }] });
  expect(await failure(await perform(request({ part: stray })))).toEqual([400, 'bad-part', expect.anything()]);
});

/** Clicks at these seconds, the first of each pair louder, as 16 bits. */
function clicks(seconds: readonly number[], length: number, rate = 44_100): Uint8Array {
  const samples = new Float32Array(Math.round(length * rate));
  seconds.forEach((at, i) => {
    for (let k = 0; k < 900; k++)
      samples[Math.round(at * rate) + k]! += (i % 2 === 0 ? 0.8 : 0.4) * Math.exp(-k / 120) * Math.sin(k * (0.4 + 0.2 * (i % 3)));
  });
  return writeWav(samples, samples, { rate, bits: '16' });
}

test('onsets: where a sound is struck, and how it may be counted', async () => {
  // Eighths at 120, the off-beats 20 ms late: a bar of 4/4 to the sample.
  const places = Array.from({ length: 8 }, (_, i) => i * 0.25 + (i % 2) * 0.02);
  const audio = clicks(places, 2);
  const answer = await onsets(request({ audio }));
  expect(answer.status).toBe(200);
  const heard = (await answer.json()) as HeardLoop;
  expect(heard.onsets.map((o) => Math.round(o.seconds * 1000))).toEqual(places.map((s) => Math.round(s * 1000)));
  expect(
    heard.onsets.every(
      (o) => o.strength > 0 && o.strength <= 1 && ['kick', 'snare', 'hat', 'other'].includes(o.voice) && o.sure > 0 && o.sure <= 1,
    ),
  ).toBe(true);
  expect([heard.rate, heard.seconds]).toEqual([44_100, 2]);
  expect(heard.readings.length).toBeLessThanOrEqual(3);
  expect(heard.readings.map((r) => [r.bars, Math.round(r.bpm)])).toContainEqual([1, 120]);
  expect(((await (await onsets(request({ audio, sensitivity: '0' }))).json()) as HeardLoop).onsets.length).toBeLessThanOrEqual(8);

  const learnt = (await (
    await groove(request({ audio, bars: '1', meter: '4/4', firstDownbeat: '0', stepsPerBeat: '2' }))
  ).json()) as Groove;
  expect(learnt).toMatchObject({ format: 'nod-sway/groove@1', meter: [4, 4], beats: 4 });
  // 20 ms of a step of 250, to within 4 ms: a click sounds like two drums that are struck together.
  learnt.steps.forEach((s, i) => expect(Math.abs(s.offset - (i % 2) * 0.08)).toBeLessThan(0.016));
});

test.each([
  ['nothing', {}, 400],
  ['a wrong sensitivity', { audio: clicks([0.1], 1), sensitivity: '2' }, 400],
  ['an unknown field', { audio: clicks([0.1], 1), bars: '2' }, 400],
  ['no sound file', { audio: Uint8Array.of(1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13) }, 422],
  ['silence', { audio: clicks([], 1) }, 422],
])('onsets of %s are refused with what is wrong', async (_name, fields, status) => {
  const answer = await onsets(request(fields));
  expect(answer.status).toBe(status);
  expect(((await answer.json()) as { error: { code: string; message: string } }).error.message.length).toBeGreaterThan(5);
});

test.each([
  ['bars without sound', { midi: song, bars: '2' }],
  ['a MIDI file beside it', { midi: song, audio: clicks([0.1], 1) }],
  ['no bars at all', { audio: clicks([0.1], 1), bars: '0' }],
  ['no meter', { audio: clicks([0.1], 1), meter: '4/5' }],
  ['a downbeat before it', { audio: clicks([0.1], 1), firstDownbeat: '-1' }],
])('a groove of sound with %s is refused', async (_name, fields) => {
  expect((await groove(request(fields))).status).toBe(400);
});
