import fc from 'fast-check';
import { guessOneSound, guessSounds, groupPaths, upperVelocities } from './guess';
import { variantOf, voiceOfPath } from './names';
import { isSoundPath } from './sound-path';

const file = (path: string, level = -20, more: { middle?: number; seconds?: number } = {}) => ({
  path,
  level,
  middle: 400,
  seconds: 0.5,
  ...more,
});
const shape = (sounds: ReturnType<typeof guessSounds<ReturnType<typeof file>>>) =>
  sounds.map(({ name, voice, layers }) => [name, voice, layers.map((l) => [l.upTo, l.takes.map((t) => t.path.split('/').pop())])]);

test.each([
  ['BD_01.wav', 'kick'],
  ['Kit/Kicks/deep.wav', 'kick'],
  ['SnareRimshot-2.wav', 'snare-rimshot'],
  ['Snare/side stick.wav', 'rim'],
  ['Hats/open_01.wav', 'hat-open'],
  ['Hats/tight.wav', 'hat-closed'],
  ['HH half 3.wav', 'hat-half'],
  ['hihat pedal.wav', 'hat-pedal'],
  ['CHH 2.wav', 'hat-closed'],
  ['Toms/Floor.wav', 'tom-floor'],
  ['tom hi.wav', 'tom-high'],
  ['ride_bell.wav', 'ride-bell'],
  ['Cymbals/splash.wav', 'splash'],
  ['cym 16.wav', 'crash'],
  ['conga_lo_open.wav', 'conga-low'],
  ['texture.wav', null],
])('%s is a sound of %s', (path, voice) => {
  expect(voiceOfPath(path)).toBe(voice);
});

test('what a name says of force and take', () => {
  expect(variantOf('S/Snare v2 rr1.wav')).toEqual({ stem: 's/snare', force: 2, take: 1, number: null });
  expect(variantOf('snare_ff_03.wav')).toEqual({ stem: 'snare', force: 7, take: null, number: 3 });
  expect(variantOf('Kick A.wav')).toEqual({ stem: 'kick', force: null, take: 1, number: null });
  expect(variantOf('01.wav')).toEqual({ stem: '', force: null, take: null, number: 1 });
  expect(variantOf('soft mallet.wav').force).toBeNull();
});

test('layers and takes by their names', () => {
  const files = ['v1 rr1', 'v1 rr2', 'v2 rr1', 'v2 rr2', 'v3 rr1'].map((n, i) => file(`Snare ${n}.wav`, -40 + 10 * Math.floor(i / 2)));
  expect(shape(guessSounds(files))).toEqual([
    [
      'Snare',
      'snare',
      [
        [40, ['Snare v1 rr1.wav', 'Snare v1 rr2.wav']],
        [87, ['Snare v2 rr1.wav', 'Snare v2 rr2.wav']],
        [127, ['Snare v3 rr1.wav']],
      ],
    ],
  ]);
  // Names that give the velocities; and some that count from the hardest.
  expect(guessSounds([32, 80, 127].map((v, i) => file(`kick vel${v}.wav`, -30 + i)))[0]!.layers.map((l) => l.upTo)).toEqual([32, 80, 127]);
  expect(guessSounds([1, 2].map((v) => file(`kick v${v}.wav`, -20 * v)))[0]!.layers.map((l) => l.takes[0]!.path)).toEqual([
    'kick v2.wav',
    'kick v1.wav',
  ]);
});

test('layers by levels where names only count; alike and equally loud, they are takes', () => {
  const rising = [1, 2, 3, 4].map((n) => file(`tom floor ${n}.wav`, -36 + 6 * n));
  expect(guessSounds(rising)).toHaveLength(1);
  expect(guessSounds(rising)[0]!.layers.map((l) => l.takes.length)).toEqual([1, 1, 1, 1]);
  const alike = [1, 2, 3].map((n) => file(`rim ${n}.wav`, -20 + n / 2));
  expect(shape(guessSounds(alike))).toEqual([['rim', 'rim', [[127, ['rim 1.wav', 'rim 2.wav', 'rim 3.wav']]]]]);
});

test('numbered files that do not sound alike are sounds by themselves; so are drums of other sizes', () => {
  const pack = [200, 420, 900].map((middle, i) => file(`Snare ${i + 1}.wav`, -20, { middle }));
  expect(guessSounds(pack).map((s) => s.name)).toEqual(['Snare 1', 'Snare 2', 'Snare 3']);
  expect(guessSounds([1, 2, 4].map((n) => file(`tom ${n}.wav`))).map((s) => s.voice)).toEqual(['tom-high', 'tom-mid', 'tom-floor']);
  // For one row they are one sound all the same.
  expect(guessOneSound(pack).layers).toHaveLength(1);
});

test('every velocity has a layer, and each layer a velocity', () => {
  expect(upperVelocities([-30, -15, 0])).toEqual([23, 71, 127]);
  expect(upperVelocities([-10, -10, -10, -10])).toEqual([32, 64, 95, 127]);
  fc.assert(
    fc.property(fc.array(fc.double({ min: -90, max: 6, noNaN: true }), { minLength: 1, maxLength: 32 }), (levels) => {
      const uppers = upperVelocities(levels);
      expect(uppers.at(-1)).toBe(127);
      uppers.forEach((u, i) => expect(u).toBeGreaterThan(uppers[i - 1] ?? 0));
    }),
  );
});

test('nothing is lost: each file is in just one layer', () => {
  const names = fc.array(
    fc.tuple(
      fc.constantFrom('kick', 'snare', 'hat open', 'x'),
      fc.constantFrom('', ' v1', ' v2', ' soft', ' rr1', ' rr2', ' 1', ' 2', ' b'),
    ),
    { minLength: 1, maxLength: 30 },
  );
  fc.assert(
    fc.property(names, fc.infiniteStream(fc.integer({ min: -60, max: 0 })), (list, levels) => {
      const files = [...new Set(list.map(([a, b]) => `${a}${b}.wav`))].map((path) => file(path, levels.next().value as number));
      const kept = guessSounds(files).flatMap((s) => s.layers.flatMap((l) => l.takes.map((t) => t.path)));
      expect([...kept].sort()).toEqual(files.map((f) => f.path).sort());
    }),
  );
});

test('files of one sound as their names say; what a system keeps is no sound', () => {
  expect(groupPaths(['a/snare v1.wav', 'a/snare v2.wav', 'a/snare 1.wav', 'b/snare v1.wav'])).toEqual([
    ['a/snare v1.wav', 'a/snare v2.wav'],
    ['a/snare 1.wav'],
    ['b/snare v1.wav'],
  ]);
  expect(['kick.wav', '.kick.wav', '__MACOSX/kick.wav', 'notes.txt', 'x.FLAC'].map(isSoundPath)).toEqual([true, false, false, false, true]);
});
