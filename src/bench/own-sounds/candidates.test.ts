import type * as Vanilla from 'zustand/vanilla';
import type { OwnSound } from '@/core/model/own-sound';
import { KIT_NAMES } from '@/core/model/sound';
import type { Part } from '@/core/model/part';
import { kitOf } from '@/core/playback/sources';
import { smallPart } from '@tests/support/arbitraries';
import type { Playback } from '../playback/use-playback';
import { createBenchStore } from '../store/bench-store';
import { ownSounds } from '@/sounds/own';
import { candidatesFor, keyOfPlays } from './candidates';
import { stepSound } from './step-sound';

const said: string[] = [];
const errors: unknown[] = [];
const keptSounds: string[] = [];
let loads: string[] = [];
let waiting: (() => void) | null = null;
jest.mock('@/ui/notify', () => ({ say: (text: string) => said.push(text), showError: (e: unknown) => errors.push(e) }));
jest.mock('@/sounds/own', () => ({
  ownSounds: jest.requireActual<typeof Vanilla>('zustand/vanilla').createStore(() => ({ kits: [], sounds: [], folders: [] })),
  trySound: () => {},
}));
jest.mock('@/sounds/folders', () => ({
  isReadable: ({ id }: { id: string }) => id !== 'gone',
  soundsOfKind: (folder: { paths: string[] }) => folder.paths.map((p) => [p]),
  filesOf: async (_: unknown, paths: string[]) => {
    loads.push(...paths);
    await new Promise<void>((done) => (waiting ? (waiting = done) : done()));
    return paths.map((path) => ({ path }));
  },
}));
jest.mock('@/workers/clients', () => ({
  readSounds: async (files: { path: string }[]) => ({
    recordings: files
      .filter((f) => !f.path.includes('broken'))
      .map((f) => ({
        path: f.path,
        level: -20,
        peak: 0,
        lead: 0,
        middle: 400,
        seconds: 0.5,
        sample: f.path,
        bytes: new Uint8Array(1),
        notes: [],
      })),
    kits: [],
    refused: [],
    undecoded: [],
    leftOut: 0,
  }),
}));
jest.mock('@/storage/sound-store', () => ({
  soundStore: { keep: async ({ sounds }: { sounds: OwnSound[] }) => void keptSounds.push(...sounds.map((s) => s.name)) },
}));

const sound = (id: string, voice: string, kit?: string): OwnSound => ({
  id,
  name: id,
  voice,
  ...(kit ? { kit } : {}),
  layers: [{ upTo: 127, takes: [{ sample: id, name: id, level: -20 }] }],
});
const part: Part = smallPart([
  ['snare', 0, 100],
  ['kick', 1, 100],
]);
const names = (of: Part, row = 'snare') => candidatesFor(of, row).map((c) => c.name);
const OTHERS = KIT_NAMES.filter((k) => k !== kitOf(part));

beforeEach(() => {
  for (const list of [said, errors, keptSounds]) list.length = 0;
  loads = [];
  waiting = null;
  ownSounds.setState({ kits: [], sounds: [], folders: [] });
});

test('first as the kit has it, then the other kits, the user’s own of the voice, what lies in folders', () => {
  ownSounds.setState({
    sounds: [sound('tin', 'snare'), sound('thud', 'kick'), sound('rattle', 'snare', 'shed')],
    folders: [
      { id: 'f', name: 'f', paths: ['a/snare one.wav'] },
      { id: 'gone', name: 'g', paths: ['b/snare two.wav'] },
    ],
  });
  expect(names(part)).toEqual([`as ${kitOf(part)} has it`, ...OTHERS, 'tin', 'rattle', 'snare one']);
});

test('where no own sound is of the voice, its family is offered', () => {
  ownSounds.setState({ sounds: [sound('edge', 'hat-open'), sound('thud', 'kick')] });
  const hats = smallPart([['hat-closed', 0, 100]]);
  expect(names(hats, 'hat-closed')).toContain('edge');
  expect(names(hats, 'hat-closed')).not.toContain('thud');
});

test('a part on an own kit is offered all kits, and its own kit’s sound once', () => {
  ownSounds.setState({ sounds: [sound('rattle', 'snare', 'shed'), sound('tin', 'snare')] });
  const own: Part = { ...part, ownKit: { id: 'shed', name: 'Tin shed' } };
  expect(names(own)).toEqual(['as Tin shed has it', ...KIT_NAMES, 'tin']);
});

test('what plays a row is found again by its key', () => {
  const keys = candidatesFor(part, 'snare').map((c) => c.key);
  expect(keys[0]).toBe(keyOfPlays(undefined));
  expect(keys[1]).toBe(keyOfPlays({ kit: OTHERS[0]! }));
  expect(new Set(keys).size).toBe(keys.length);
});

function bench() {
  const store = createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
  const heard: string[] = [];
  const playback = {
    audition: (row: string) => heard.push(row),
    engine: { isPlaying: false, prepare: () => {} },
  } as unknown as Playback;
  const plays = () => store.getState().part.rows.find((r) => r.voice === 'snare')?.plays;
  return { store, playback, heard, plays };
}

test('stepping goes round the sounds of the open row, heard at once, one step when it is kept', async () => {
  const { store, playback, heard, plays } = bench();
  await stepSound(store, playback, 1);
  expect(said).toEqual(['Open a row first: click its name.']);
  store.getState().setFocus('snare');
  await stepSound(store, playback, 1);
  expect([plays(), heard]).toEqual([{ kit: OTHERS[0] }, ['snare']]);
  await stepSound(store, playback, 1);
  expect(plays()).toEqual({ kit: OTHERS[1] });
  await stepSound(store, playback, -1);
  await stepSound(store, playback, -1);
  expect(plays()).toBeUndefined();
  await stepSound(store, playback, -1);
  expect(plays()).toEqual({ kit: OTHERS.at(-1) });
  store.getState().settle();
  expect(store.getState().history.undo).toHaveLength(1);
  store.getState().undo();
  expect(plays()).toBeUndefined();
});

test('a sound of a folder is kept when it is chosen, and not before', async () => {
  ownSounds.setState({ folders: [{ id: 'f', name: 'f', paths: ['a/snare one.wav'] }] });
  const { store, playback, plays } = bench();
  store.getState().setFocus('snare');
  await stepSound(store, playback, -1);
  expect([plays(), keptSounds]).toEqual([{ own: expect.any(String), name: 'snare one' }, []]);
  store.getState().settle();
  await new Promise((done) => setImmediate(done));
  expect(keptSounds).toEqual(['snare one']);
});

test('what loads too late is not heard: the last press counts', async () => {
  ownSounds.setState({ folders: [{ id: 'f', name: 'f', paths: ['a/snare slow.wav'] }] });
  const { store, playback, plays } = bench();
  store.getState().setFocus('snare');
  waiting = () => {};
  const slow = stepSound(store, playback, -1);
  await Promise.resolve();
  await stepSound(store, playback, 1);
  expect(plays()).toBeUndefined();
  const release = waiting;
  waiting = null;
  release();
  await slow;
  expect(plays()).toBeUndefined();
});

test('a file that cannot be read is said, and what plays stays', async () => {
  ownSounds.setState({ folders: [{ id: 'f', name: 'f', paths: ['a/broken.wav'] }] });
  const { store, playback, plays } = bench();
  store.getState().setFocus('snare');
  await stepSound(store, playback, -1);
  expect([errors.length, plays()]).toEqual([1, undefined]);
});
