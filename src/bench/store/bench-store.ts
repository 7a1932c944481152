import { createStore, type StoreApi } from 'zustand/vanilla';
import type { HitId, Part } from '@/core/part/part';
import { ticks } from '@/core/units';
import type { VoiceName } from '@/core/voices';
import type { PartStore, StoredPart } from '@/storage/part-store';
import type { Transport, View } from '../view';
import { EMPTY_HISTORY, record, stepBack, stepForward, type History, type Step } from './history';
import { Saver, type SaveState } from './saver';

/** A gesture under way: the part before it; the live part is a preview until it ends. */
interface Gesture {
  label: string;
  base: Part;
  selectedBefore: ReadonlySet<HitId>;
}

export interface BenchState {
  id: string;
  part: Part;
  hasSong: boolean;
  gesture: Gesture | null;
  history: History;
  selection: ReadonlySet<HitId>;
  /** The row that opens tall. */
  focus: VoiceName | null;
  view: View;
  transport: Transport;
  save: SaveState;
  /** The origin offer was answered. */
  originAnswered: boolean;

  /** Runs a command as one undoable step. */
  run(label: string, command: (part: Part) => Part): void;
  /** Starts a gesture; {@link preview} shows it, {@link commit} makes one step of it, {@link cancel} puts all back. */
  begin(label: string): void;
  preview(command: (base: Part) => Part): void;
  commit(): void;
  cancel(): void;
  undo(): void;
  redo(): void;
  select(ids: Iterable<HitId>): void;
  setView(change: Partial<View>): void;
  setTransport(change: Partial<Transport>): void;
  setFocus(voice: VoiceName | null): void;
  answerOrigin(): void;
  retrySave(): void;
}

export type BenchStore = StoreApi<BenchState>;

const NOTHING: ReadonlySet<HitId> = new Set();

export function createBenchStore(id: string, stored: StoredPart, hasSong: boolean, store: PartStore): BenchStore {
  return createStore<BenchState>((set, get) => {
    const saver = new Saver(store, id, stored.head, (save) => set({ save }));

    const take = (step: Step | null) => {
      if (!step) return;
      set({ part: step.part, history: step.history, selection: step.selection });
      saver.save(step.label, step.diff, step.part);
    };

    return {
      id,
      part: stored.part,
      hasSong,
      gesture: null,
      history: EMPTY_HISTORY,
      selection: NOTHING,
      focus: null,
      view: { scroll: stored.part.origin, pixelsPerQuarter: 0, scrollRows: 0, reach: 20, grid: '1/16' },
      transport: { loop: true, fromBar: 0, toBar: Math.min(stored.part.bars, 4), cursor: ticks(stored.part.origin), version: 'performed' },
      save: { kind: 'saved' },
      originAnswered: false,

      run(label, command) {
        get().begin(label);
        get().preview(command);
        get().commit();
      },
      begin(label) {
        get().commit();
        set({ gesture: { label, base: get().part, selectedBefore: get().selection } });
      },
      preview(command) {
        const { gesture } = get();
        if (gesture) set({ part: command(gesture.base) });
      },
      commit() {
        const { gesture, part, history, selection } = get();
        if (!gesture) return;
        const done = record(history, gesture.label, gesture.base, part, gesture.selectedBefore, selection);
        set({ gesture: null, ...(done ? { history: done.history } : { part: gesture.base }) });
        if (done) saver.save(gesture.label, done.entry.diff, part);
      },
      cancel() {
        const { gesture } = get();
        if (gesture) set({ gesture: null, part: gesture.base, selection: gesture.selectedBefore });
      },
      undo() {
        if (get().gesture) return get().cancel();
        take(stepBack(get().history, get().part));
      },
      redo() {
        if (!get().gesture) take(stepForward(get().history, get().part));
      },
      select: (ids) => set({ selection: new Set(ids) }),
      setView: (change) => set({ view: { ...get().view, ...change } }),
      setTransport: (change) => set({ transport: { ...get().transport, ...change } }),
      setFocus: (focus) => set({ focus }),
      answerOrigin: () => set({ originAnswered: true }),
      retrySave: () => saver.retry(),
    };
  });
}
