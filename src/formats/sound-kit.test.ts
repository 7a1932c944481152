import { zipSync, type Zippable } from 'fflate';
import { drum, wavFile } from '@tests/support/sound-files';
import { isNamedError } from '@/core/errors';
import { KIT_LIMITS } from '@/core/limits';
import type { OwnSound } from '@/core/model/own-sound';
import { MANIFEST, readManifest, writeSoundKit } from './sound-kit';
import { unzip } from './unzip';

async function* chunks(bytes: Uint8Array, size = 1000): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.slice(at, at + size);
}
const opened = (bytes: Uint8Array, limits = KIT_LIMITS as { entries: number; bytes: number }) => unzip(chunks(bytes), limits);
const codeOf = async (work: () => unknown): Promise<string> => {
  try {
    await work();
    return 'none';
  } catch (e) {
    return isNamedError(e) ? `${e.code}: ${e.message}` : String(e);
  }
};

const snare: OwnSound = {
  id: 's1',
  name: 'Tin',
  voice: 'snare',
  kit: 'k',
  cut: true,
  layers: [
    { upTo: 60, takes: [{ sample: 'aa', name: 'Tin/soft.wav', level: -30 }] },
    {
      upTo: 127,
      takes: [
        { sample: 'bb', name: 'Tin/hard.wav', level: -12 },
        { sample: 'aa', name: 'Tin/soft.wav', level: -30 },
      ],
    },
  ],
};
const samples = new Map([
  ['aa', wavFile(2000, drum(200))],
  ['bb', wavFile(3000, drum(230))],
]);
const zip = (files: Zippable): Uint8Array => zipSync(files);

test('a kit is a zip of its list and its recordings, each once; read again it is the same', async () => {
  const written = writeSoundKit({ id: 'k', name: 'Tin shed' }, [snare], samples);
  const files = await opened(written);
  expect(files.map((f) => f.path)).toEqual([MANIFEST, 'audio/aa.wav', 'audio/bb.wav']);
  expect(files[2]!.bytes).toEqual(samples.get('bb'));
  const manifest = readManifest(JSON.parse(new TextDecoder().decode(files[0]!.bytes)), new Set(files.map((f) => f.path)));
  expect(manifest).toMatchObject({
    format: 'nod-sway/kit@2',
    id: 'k',
    name: 'Tin shed',
    sounds: [
      {
        id: 's1',
        voice: 'snare',
        cut: true,
        layers: [{ upTo: 60 }, { upTo: 127, takes: [{ file: 'audio/bb.wav' }, { file: 'audio/aa.wav' }] }],
      },
    ],
  });
});

test('a list that names what is not there, or has no right layers, is refused', async () => {
  const list = {
    format: 'nod-sway/kit@2',
    id: 'k',
    name: 'K',
    sounds: [{ id: 's', name: 'S', voice: 'snare', layers: [{ upTo: 127, takes: [{ file: 'a.wav', name: 'a', level: -10 }] }] }],
  };
  expect(readManifest(list, new Set(['a.wav'])).name).toBe('K');
  expect(await codeOf(() => readManifest(list, new Set(['b.wav'])))).toMatch(/bad-sound-kit: .*a\.wav/);
  const sound = list.sounds[0]!;
  const take = sound.layers[0]!.takes[0]!;
  for (const layers of [
    [],
    [{ upTo: 90, takes: [take] }],
    [{ upTo: 127, takes: [] }],
    [
      { upTo: 127, takes: [take] },
      { upTo: 127, takes: [take] },
    ],
  ]) {
    expect(await codeOf(() => readManifest({ ...list, sounds: [{ ...sound, layers }] }, new Set(['a.wav'])))).toMatch(/^bad-sound-kit/);
  }
  expect(await codeOf(() => readManifest({ ...list, extra: 1 }, new Set(['a.wav'])))).toMatch(/^bad-sound-kit/);
});

test('paths that climb out, are absolute or come twice are refused', async () => {
  const one = new Uint8Array(4);
  expect(await codeOf(() => opened(zip({ '../up.wav': one })))).toMatch(/^bad-zip: .*points outside/);
  expect(await codeOf(() => opened(zip({ 'a/../../up.wav': one })))).toMatch(/points outside/);
  expect(await codeOf(() => opened(zip({ '/etc/x.wav': one })))).toMatch(/absolute/);
  expect(await codeOf(() => opened(zip({ 'C:\\x.wav': one })))).toMatch(/absolute/);
  expect(await codeOf(() => opened(zip({ 'a.wav': one, 'A.wav': one })))).toMatch(/twice/);
});

test('what it unpacks to is counted, whatever it says; too many entries are too many', async () => {
  const bomb = zipSync({ 'a.wav': new Uint8Array(400_000) });
  expect(bomb.length).toBeLessThan(2000);
  expect(await codeOf(() => opened(bomb, { entries: 10, bytes: 100_000 }))).toMatch(/^too-many-sounds/);
  const many = zip(Object.fromEntries(Array.from({ length: 12 }, (_, i) => [`${i}.wav`, new Uint8Array(1)])));
  expect(await codeOf(() => opened(many, { entries: 10, bytes: 100_000 }))).toMatch(/^too-many-sounds/);
});

test('a zip that is damaged, cut off or empty is refused', async () => {
  const whole = zip({ 'a.wav': wavFile(4000, drum(300)) });
  expect(await codeOf(() => opened(whole.slice(0, 3000)))).toMatch(/^bad-zip/);
  expect(await codeOf(() => opened(new Uint8Array(100)))).toMatch(/^bad-zip/);
  const damaged = whole.slice();
  damaged.fill(0xff, 60, 400);
  expect(await codeOf(() => opened(damaged))).toMatch(/^bad-zip/);
});
