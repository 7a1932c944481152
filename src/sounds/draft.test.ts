import fc from 'fast-check';
import { LONGEST_NAME } from '@/core/limits';
import { MOST_TAKES, type OwnLayer } from '@/core/model/own-sound';
import type { SoundKitManifest } from '@/formats/sound-kit';
import type { ReadRecording, ReadSounds } from '@/workers/sounds.worker';
import { draftOfKit, draftOfRow, keptSounds, layersWords, moveTake, removeTake, samplesFor, setUpTo } from './draft';

const recording = (path: string, level = -20): ReadRecording => ({
  path,
  level,
  peak: level,
  lead: 0,
  middle: 400,
  seconds: 0.5,
  sample: `of ${path}`,
  bytes: new Uint8Array([1]),
  notes: [],
});
const read = (paths: readonly string[], rest: Partial<ReadSounds> = {}): ReadSounds => ({
  recordings: paths.map((p) => recording(p)),
  undecoded: [],
  refused: [],
  leftOut: 0,
  kits: [],
  ...rest,
});
const take = (name: string, level = -20) => ({ sample: name, name, level });
const layer = (upTo: number, ...names: string[]): OwnLayer => ({ upTo, takes: names.map((n) => take(n)) });
const names = (layers: readonly OwnLayer[]) => layers.map((l) => [l.upTo, l.takes.map((t) => t.name).join(' ')]);

test('dropped files keep their names: sounds are called after their files, the kit after its folder', () => {
  const draft = draftOfKit(read(['Tin shed/kick.wav', 'Tin shed/Snare tight.wav', 'Tin shed/rattle.wav']));
  expect([draft.name, draft.sounds.map((s) => [s.name, s.voice])]).toEqual([
    'Tin shed',
    [
      ['Snare tight', 'snare'],
      ['kick', 'kick'],
      ['rattle', null],
    ],
  ]);
  expect(draft.sounds[1]!.layers[0]!.takes[0]).toMatchObject({ name: 'Tin shed/kick.wav', sample: 'of Tin shed/kick.wav', level: -20 });
  expect(draftOfKit(read(['kick.wav'])).name).toBe('My kit');
});

test('files go by their names as people read them: 2 before 10', () => {
  const draft = draftOfKit(read(['crash 10.wav', 'crash 2.wav', 'kick.wav']));
  expect(draft.sounds.map((s) => s.name)).toEqual(['crash', 'kick']);
  expect(draft.sounds[0]!.layers[0]!.takes.map((t) => t.name)).toEqual(['crash 2.wav', 'crash 10.wav']);
});

test('one sound a voice: the first has it, others of the voice are left out until they are given another', () => {
  const deep = recording('kick deep.wav');
  const thin = { ...recording('kick thin.wav'), middle: 4000 };
  const draft = draftOfKit(read([], { recordings: [deep, thin] }));
  expect(draft.sounds.map((s) => [s.name, s.voice])).toEqual([
    ['kick deep', 'kick'],
    ['kick thin', null],
  ]);
  expect(keptSounds(draft).map((s) => s.name)).toEqual(['kick deep']);
  expect([...samplesFor(draft, keptSounds(draft)).keys()]).toEqual(['of kick deep.wav']);
});

test('a name longer than may be kept is cut', () => {
  const draft = draftOfKit(read([`${'x'.repeat(400)}/${'y'.repeat(400)}.wav`]));
  expect([draft.name.length, draft.sounds[0]!.name.length, draft.sounds[0]!.layers[0]!.takes[0]!.name.length]).toEqual([
    LONGEST_NAME,
    LONGEST_NAME,
    LONGEST_NAME,
  ]);
});

test('for a row all files are one sound of its voice, whatever they are called', () => {
  const draft = draftOfRow(read(['snare v1.wav', 'snare v2.wav']), 'kick');
  expect([draft.name, draft.sounds.length, draft.sounds[0]!.voice]).toEqual(['snare', 1, 'kick']);
});

test('an exported kit is what it was, without sounds whose files are missing', () => {
  const manifest = {
    id: 'shed',
    name: 'Tin shed',
    sounds: [
      { id: 'a', name: 'Tin', voice: 'snare', layers: [{ upTo: 127, takes: [{ file: 'tin.wav', name: 'Tin 1', level: -12 }] }] },
      { id: 'b', name: 'Gone', voice: 'kick', layers: [{ upTo: 127, takes: [{ file: 'gone.wav', name: 'Gone 1', level: -12 }] }] },
    ],
  } as unknown as SoundKitManifest;
  const draft = draftOfKit(read(['kits/shed/tin.wav', 'other/tin.wav'], { kits: [{ under: 'kits/shed/', manifest }] }));
  expect([draft.name, draft.kit, draft.sounds.map((s) => [s.id, s.name, s.voice])]).toEqual([
    'Tin shed',
    { id: 'shed', name: 'Tin shed' },
    [['a', 'Tin', 'snare']],
  ]);
  expect(draft.sounds[0]!.layers[0]!.takes).toEqual([{ sample: 'of kits/shed/tin.wav', name: 'Tin 1', level: -12 }]);
  expect(keptSounds(draft, draft.kit).map((s) => s.kit)).toEqual(['shed']);
});

describe('correcting layers', () => {
  const layers = [layer(40, 'soft'), layer(90, 'mid 1', 'mid 2'), layer(127, 'hard')];

  test('a take goes to the layer beside it; a layer that is left empty goes, the last reaches 127', () => {
    expect(names(moveTake(layers, { layer: 1, take: 0 }, 1))).toEqual([
      [40, 'soft'],
      [90, 'mid 2'],
      [127, 'hard mid 1'],
    ]);
    expect(names(moveTake(layers, { layer: 2, take: 0 }, -1))).toEqual([
      [40, 'soft'],
      [127, 'mid 1 mid 2 hard'],
    ]);
  });

  test('a take moved past the softest or hardest layer gets a new layer', () => {
    expect(moveTake(layers, { layer: 1, take: 0 }, -1)).toHaveLength(3);
    const softest = moveTake([layer(127, 'a', 'b')], { layer: 0, take: 1 }, -1);
    expect(softest.map((l) => l.takes.map((t) => t.name))).toEqual([['b'], ['a']]);
    const hardest = moveTake([layer(127, 'a', 'b')], { layer: 0, take: 1 }, 1);
    expect(hardest.map((l) => l.takes.map((t) => t.name))).toEqual([['a'], ['b']]);
    expect([hardest[0]!.upTo < 127, hardest[1]!.upTo]).toEqual([true, 127]);
  });

  test('a full layer takes no more; a take that is not there changes nothing', () => {
    const full = [layer(60, 'x'), layer(127, ...Array.from({ length: MOST_TAKES }, (_, i) => `t${i}`))];
    expect(moveTake(full, { layer: 0, take: 0 }, 1)).toEqual(full);
    expect(moveTake(layers, { layer: 0, take: 3 }, 1)).toEqual(layers);
  });

  test('a take that is removed leaves the rest; the very last stays', () => {
    expect(names(removeTake(layers, { layer: 2, take: 0 }))).toEqual([
      [40, 'soft'],
      [127, 'mid 1 mid 2'],
    ]);
    expect(removeTake([layer(127, 'only')], { layer: 0, take: 0 })).toEqual([layer(127, 'only')]);
  });

  test('a layer’s highest velocity stays between those beside it', () => {
    expect(setUpTo(layers, 0, 95).map((l) => l.upTo)).toEqual([89, 90, 127]);
    expect(setUpTo(layers, 1, 3).map((l) => l.upTo)).toEqual([40, 41, 127]);
    expect(setUpTo(layers, 1, 60.4).map((l) => l.upTo)).toEqual([40, 60, 127]);
    expect(setUpTo(layers, 0, -5).map((l) => l.upTo)).toEqual([1, 90, 127]);
  });

  test('whatever is moved: no take is lost, and layers rise to 127', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ layer: fc.nat(3), take: fc.nat(2), by: fc.constantFrom(-1 as const, 1 as const) }), { maxLength: 12 }),
        (steps) => {
          let now: OwnLayer[] = [...layers];
          for (const { by, ...at } of steps) now = moveTake(now, at, by);
          expect(now.flatMap((l) => l.takes.map((t) => t.name)).sort()).toEqual(['hard', 'mid 1', 'mid 2', 'soft']);
          expect(now.at(-1)!.upTo).toBe(127);
          expect(now.every((l) => l.takes.length > 0)).toBe(true);
        },
      ),
    );
  });

  test('said in words', () => {
    expect([
      layersWords([layer(127, 'a')]),
      layersWords([layer(127, 'a', 'b')]),
      layersWords(layers),
      layersWords([layer(50, 'a'), layer(127, 'b')]),
    ]).toEqual(['one recording', '2 takes', '3 layers, 4 takes', '2 layers, 2 takes']);
  });
});
