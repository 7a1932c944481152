import { NamedError } from '@/core/errors';
import { addVelocity } from '@/core/part/commands/hits';
import type { Part } from '@/core/part/part';
import { smallPart } from '@tests/support/arbitraries';
import { silenceReason } from '../playback/silence';
import { tapTempo } from '../tap-tempo';
import { createBenchStore } from './bench-store';
import { Saver, type SaveState } from './saver';

const part = smallPart([['kick', 0, 100], ['snare', 1, 90]]);
const all = new Set(part.hits.map((h) => h.id));
const quiet = (p: Part) => addVelocity(p, all, -1);
const settle = () => new Promise((done) => setImmediate(done));

function bench(): { saves: [number, string][]; store: ReturnType<typeof createBenchStore> } {
  const saves: [number, string][] = [];
  const store = createBenchStore('x', { part, head: 7 }, false, { saveEdit: async (_id: string, seq: number, label: string) => void saves.push([seq, label]) } as never);
  return { saves, store };
}

test('a gesture is one entry and one record in the store, however many previews it had', async () => {
  const { store, saves } = bench();
  const s = store.getState;
  s().begin('softer');
  for (let i = 1; i <= 30; i++) s().preview((p) => addVelocity(p, all, -i));
  expect(s().part.hits.map((h) => h.velocity)).toEqual([70, 60]);
  s().commit();
  expect(s().history.undo).toHaveLength(1);
  s().undo();
  expect(s().part).toEqual(part);
  s().redo();
  expect(s().part.hits.map((h) => h.velocity)).toEqual([70, 60]);
  await settle();
  expect(saves).toEqual([[8, 'softer'], [9, 'Undo softer'], [10, 'softer']]);
});

test('a gesture that changed nothing leaves no entry; undo during a gesture cancels it', async () => {
  const { store, saves } = bench();
  const s = store.getState;
  s().run('nothing', (p) => ({ ...p }));
  s().begin('softer');
  s().preview(quiet);
  s().undo();
  expect(s().part).toBe(part);
  expect(s().history).toEqual({ undo: [], redo: [] });
  await settle();
  expect(saves).toEqual([]);
});

test('undo brings the selection back, a new edit drops what could be redone', () => {
  const { store } = bench();
  const s = store.getState;
  s().select(['h0']);
  s().run('softer', quiet);
  s().select(['h1']);
  s().undo();
  expect([...s().selection]).toEqual(['h0']);
  s().run('softer still', quiet);
  expect(s().history.redo).toEqual([]);
});

test('edits wait in order after a refusal and are written when tried again', async () => {
  const written: number[] = [];
  const states: string[] = [];
  let refuse = true;
  const saver = new Saver(
    {
      saveEdit: async (_id, seq) => {
        if (refuse) throw new NamedError('store-full');
        written.push(seq);
      },
    },
    'x',
    0,
    (s: SaveState) => states.push(s.kind),
  );
  const diff = { removed: [], added: [], fields: {} };
  saver.save('a', diff, part);
  await settle();
  saver.save('b', diff, part);
  await settle();
  expect(written).toEqual([]);
  refuse = false;
  saver.retry();
  await settle();
  expect(written).toEqual([1, 2]);
  expect(states).toEqual(['saving', 'failed', 'saving', 'saved']);
});

test('every silence has its reason', () => {
  const transport = { loop: true, fromBar: 0, toBar: 1, cursor: 0 as never, version: 'performed' as const };
  const reason = (p: Part, t = transport, status: Parameters<typeof silenceReason>[2] = 'ready') => silenceReason(p, t, status);
  expect(reason(part)).toBeNull();
  expect(reason(part, transport, 'blocked')).toContain('browser');
  expect(reason({ ...part, hits: [] })).toContain('no hits yet');
  expect(reason({ ...part, bars: 2 }, { ...transport, fromBar: 1, toBar: 2 })).toContain('other bars');
  expect(reason({ ...part, rows: part.rows.map((r) => ({ ...r, muted: true })) })).toContain('muted');
  expect(reason({ ...part, rows: [...part.rows, { voice: 'crash', soloed: true }] })).toContain('alone');
  expect(reason(addVelocity(part, all, -126))).toContain('too soft');
});

test('taps: three give a tempo, a pause starts anew', () => {
  const run = (times: number[]) => times.reduce((r, t) => tapTempo(r.taps, t), { taps: [] as number[], bpm: null as number | null });
  expect(run([0, 500]).bpm).toBeNull();
  expect(run([0, 510, 990, 1500]).bpm).toBe(120);
  expect(run([0, 500, 1000, 9000]).bpm).toBeNull();
});
