import type * as Vanilla from 'zustand/vanilla';
import type { OwnSound } from '@/core/model/own-sound';
import { NamedError, reportError } from '@/core/errors';
import type { NewSounds } from '@/storage/sound-store';
import type { ReadRecording, ReadSounds } from '@/workers/sounds.worker';
import { draftOfKit } from './draft';
import { correctKept, incoming, keepCorrected, keepDraft, leaveIncoming, receiveSounds, type Kept } from './incoming';
import { ownSounds } from './own';

const kept: NewSounds[] = [];
const removed: string[] = [];
const errors: unknown[] = [];
let answer: (signal: AbortSignal) => Promise<ReadSounds>;
jest.mock('@/storage/sound-store', () => ({
  soundStore: {
    keep: async (what: NewSounds) => void kept.push(what),
    remove: async ({ sound }: { sound: OwnSound }) => void removed.push(sound.id),
  },
}));
jest.mock('@/workers/clients', () => ({
  readSounds: (_files: unknown, onProgress: (n: number) => void, signal: AbortSignal) => {
    onProgress(1);
    return answer(signal);
  },
}));
jest.mock('./own', () => ({
  ownSounds: jest.requireActual<typeof Vanilla>('zustand/vanilla').createStore(() => ({ kits: [], sounds: [] })),
}));
jest.mock('@/ui/notify', () => ({ showError: (e: unknown) => errors.push(e) }));
beforeEach(() => {
  for (const list of [kept, removed, errors]) list.length = 0;
  ownSounds.setState({ kits: [], sounds: [] });
  leaveIncoming();
});

const recording = (path: string, notes: readonly string[] = []): ReadRecording => ({
  path,
  level: -20,
  peak: -20,
  lead: 0,
  middle: 400,
  seconds: 0.5,
  sample: `of ${path}`,
  bytes: new Uint8Array([1]),
  notes,
});
const read = (recordings: readonly ReadRecording[], rest: Partial<ReadSounds> = {}): ReadSounds => ({
  recordings: [...recordings],
  undecoded: [],
  refused: [],
  leftOut: 0,
  kits: [],
  ...rest,
});
const row = { row: 'snare', label: 'Snare', voice: 'snare' };
const files = Promise.resolve([{ path: 'a.wav', file: new Blob() }]);
const receive = async (what: ReadSounds | Error, target: typeof row | null) => {
  answer = () => (what instanceof Error ? Promise.reject(what) : Promise.resolve(what));
  const taken: Kept[] = [];
  await receiveSounds(files, target, (k) => taken.push(k));
  return taken;
};

test('one plain recording for a row is kept and used at once, in the row’s voice and under the file’s name', async () => {
  const taken = await receive(read([recording('Tin kick.wav')]), row);
  expect(taken).toMatchObject([{ for: row, sound: { name: 'Tin kick', voice: 'snare' } }]);
  expect([...kept[0]!.samples.keys()]).toEqual(['of Tin kick.wav']);
  expect(incoming.getState().now).toBeNull();
});

test('several files, a note or a refusal are shown first, and nothing is kept', async () => {
  const refusal = { path: 'b.wav', error: reportError(new NamedError('bad-sound')) };
  for (const what of [
    read([recording('a.wav'), recording('b.wav')]),
    read([recording('a.wav', ['only its left side'])]),
    read([recording('a.wav')], { refused: [refusal] }),
  ]) {
    expect(await receive(what, row)).toEqual([]);
    expect(incoming.getState().now).toMatchObject({ phase: 'draft', target: row, isKept: false });
  }
  expect(kept).toEqual([]);
  expect(incoming.getState().now).toMatchObject({ report: { refused: [refusal] } });
});

test('a note says which file it is of', async () => {
  await receive(read([recording('a.wav', ['only its left side']), recording('b.wav')]), null);
  expect(incoming.getState().now).toMatchObject({ target: null, report: { notes: ['a.wav: only its left side'] } });
});

test('where nothing can be read the error names the file, or says how many', async () => {
  const refusal = (path: string) => ({ path, error: reportError(new NamedError('bad-sound')) });
  await receive(read([], { refused: [refusal('x.wav')] }), null);
  await receive(read([], { refused: [refusal('x.wav'), refusal('y.wav')] }), null);
  expect(errors).toMatchObject([
    { code: 'bad-sound', message: expect.stringMatching(/^x\.wav: /) },
    { code: 'no-sounds', details: { refused: 2 } },
  ]);
  expect(incoming.getState().now).toBeNull();
});

test('what is left while it is read is gone: no draft, no error', async () => {
  let reject = (_: Error) => {};
  answer = (signal) =>
    new Promise((_, failed) => {
      reject = failed;
      signal.addEventListener('abort', () => failed(new Error('aborted')));
    });
  const under = receiveSounds(files, null, () => {});
  await files;
  await Promise.resolve();
  expect(incoming.getState().now).toMatchObject({ phase: 'reading', done: 1, files: 1 });
  leaveIncoming();
  await under;
  reject(new Error('late'));
  expect([incoming.getState().now, errors]).toEqual([null, []]);
});

const sound = (id: string, name: string, voice: string, kit?: string): OwnSound => ({
  id,
  name,
  voice,
  ...(kit ? { kit } : {}),
  layers: [{ upTo: 127, takes: [{ sample: `of ${id}`, name, level: -20 }] }],
});

test('a kit that is here already under its number stays as it is; another one of that number is kept beside it', async () => {
  const draft = { ...draftOfKit(read([recording('kick.wav')])), kit: { id: 'shed', name: 'Tin shed' } };
  const first = await keepDraft(draft, null);
  expect(first).toMatchObject({ kit: { id: 'shed' } });
  ownSounds.setState({ kits: [{ id: 'shed', name: 'Tin shed' }], sounds: kept[0]!.sounds as OwnSound[] });
  expect(await keepDraft(draft, null)).toMatchObject({ kit: { id: 'shed' } });
  ownSounds.setState({ sounds: [sound('other', 'Other', 'kick', 'shed')] });
  const beside = (await keepDraft(draft, null)) as Extract<Kept, { for: null }>;
  expect(beside.kit.id).not.toBe('shed');
  const last = kept.at(-1)!;
  expect(last.sounds.map((s) => s.kit)).toEqual([beside.kit.id]);
  expect(last.sounds[0]!.id).not.toBe(draft.sounds[0]!.id);
});

test('a kit that is corrected: sounds that were left out are removed, the others keep their numbers', async () => {
  ownSounds.setState({ sounds: [sound('a', 'Tin', 'snare', 'shed'), sound('b', 'Lid', 'crash', 'shed'), sound('c', 'Alone', 'kick')] });
  correctKept({ kit: { id: 'shed', name: 'Tin shed' } });
  const { now } = incoming.getState();
  expect(now).toMatchObject({ phase: 'draft', isKept: true, draft: { name: 'Tin shed' } });
  const { draft } = now as Extract<NonNullable<typeof now>, { phase: 'draft' }>;
  expect(draft.sounds.map((s) => s.id)).toEqual(['a', 'b']);
  await keepCorrected({ ...draft, name: 'Shed', sounds: draft.sounds.map((s) => (s.id === 'b' ? { ...s, voice: null } : s)) });
  expect([kept[0]!.kit?.name, kept[0]!.sounds.map((s) => s.id), removed]).toEqual(['Shed', ['a'], ['b']]);
});
