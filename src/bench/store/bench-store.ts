import { createStore, type StoreApi } from 'zustand/vanilla';
import type { WholePart } from '@/core/analysis/whole';
import type { Onto } from '@/core/part/commands/copy';
import type { HitId, Part } from '@/core/part/part';
import type { Feel } from '@/core/feel/feel';
import { ticks } from '@/core/units';
import type { VoiceName } from '@/core/voices';
import type { PartStore, StoredPart } from '@/storage/part-store';
import { Saver, type SaveState } from '@/storage/saver';
import { markUnsaved } from '@/storage/unsaved';
import { DEFAULT_BRUSH, PLAIN_VELOCITY, type Brush, type NudgeUnit, type Proposal, type StepCursor, type Tool } from '../tools';
import { rememberedOnto } from '../remembered';
import { sightOf, type Transport, type View } from '../view';
import { EMPTY_HISTORY, record, recordSelection, stepBack, stepForward, withOlder, type History, type Step, type Surroundings } from './history';


/** A gesture under way: the part before it; the live part is a preview until it ends. */
interface Gesture {
  /** Tells one gesture from the next. */
  number: number;
  label: string;
  /** Tried out in the side panel: it stays until it is kept or put back. */
  trial: boolean;
  /** Whose sweep it is, where one control goes on with it: see {@link BenchState.sweep}. */
  owner?: string | undefined;
  base: Part;
  before: Surroundings;
}

export const PAGES = ['hits', 'bars', 'feel', 'takes'] as const;
export type Page = (typeof PAGES)[number];

/** What lies over the Bench. */
export type Dialog = 'keys' | 'kit' | 'export' | 'feels' | 'versions' | 'learn';

/** What is compared with: another feel over these hits, or a whole version of the part. */
export interface Other {
  name: string;
  feel: Feel;
  /** The version's number in the store. */
  id?: string;
  part?: Part;
}

/** What is chosen for working, apart from the part: it is not undone and not kept. */
export interface Desk {
  tool: Tool;
  brush: Brush;
  /** The step cursor, where keys work. */
  step: StepCursor | null;
  /** The line under the pointer: where a paste goes without a step cursor. */
  under: StepCursor | null;
  proposal: Proposal | null;
  nudgeUnit: NudgeUnit;
  /** Velocity of hits placed one by one: by a click, or at the step cursor. */
  velocity: number;
  /** What copies do on steps that have a hit already. */
  onto: Onto;
  page: Page;
  dialog: Dialog | null;
  /** The move whose scope is pointed out. */
  pointing: number | null;
  /** The move that is open on the Feel page. */
  openMove: number | null;
  /** What is compared with, heard while its key is held. */
  other: Other | null;
  /** Versions are compared at equal loudness. */
  equalLoudness: boolean;
  /** The table of hits stands under the stems. */
  table: boolean;
  /** The last pointer was a finger. */
  touch: boolean;
}

const TIDY: Desk = { tool: 'hold', brush: DEFAULT_BRUSH, step: null, under: null, proposal: null, nudgeUnit: '1 ms', velocity: PLAIN_VELOCITY, onto: 'replace', page: 'feel', dialog: null, pointing: null, openMove: null, other: null, equalLoudness: false, table: false, touch: false };

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
  desk: Desk;
  /** What the whole part says of itself, as last measured: see follow-whole.ts. */
  whole: ({ part: Part } & WholePart) | null;
  save: SaveState;
  /** The origin offer was answered. */
  originAnswered: boolean;

  /** Runs a command as one undoable step; `then` says what is selected after it. */
  run(label: string, command: (part: Part) => Part, then?: () => Iterable<HitId>): void;
  /** Starts a gesture; {@link preview} shows it, {@link commit} makes one step of it, {@link cancel} puts all back. */
  begin(label: string, trial?: boolean, owner?: string): void;
  preview(command: (base: Part) => Part, label?: string): void;
  commit(): void;
  cancel(): void;
  /**
   * Changes the part while one control is swept. What is under way and not the owner's (a trial, another control's sweep) is kept first,
   * as a step of its own; {@link finish} makes a step of the sweep, {@link abandon} puts it back, both of it alone.
   */
  sweep(owner: string, label: string, command: (base: Part) => Part): void;
  finish(owner: string): void;
  abandon(owner: string): void;
  undo(): void;
  redo(): void;
  /** Selects; where that loses a selection of several hits, it is a step of its own that can be undone. */
  select(ids: Iterable<HitId>): void;
  /** Selects while a marquee is drawn; {@link settleSelection} ends it. */
  showSelection(ids: Iterable<HitId>): void;
  settleSelection(before: ReadonlySet<HitId>): void;
  setView(change: Partial<View>): void;
  setTransport(change: Partial<Transport>): void;
  setDesk(change: Partial<Desk>): void;
  setFocus(voice: VoiceName | null): void;
  answerOrigin(): void;
  /** Puts the steps of before a reload under those since. */
  adoptHistory(older: History): void;
  retrySave(): void;
  /** Hears from the store that another tab changed the part, or took it away (null). */
  hear(head: number | null): void;
  /** Forgets what is not saved: it went somewhere else. */
  letGo(): void;
}

export type BenchStore = StoreApi<BenchState>;

const NOTHING: ReadonlySet<HitId> = new Set();

/** A selection of several hits is work: losing one of them can be undone. */
const loses = (before: ReadonlySet<HitId>, after: ReadonlySet<HitId>): boolean => before.size > 1 && [...before].some((id) => !after.has(id));

export function createBenchStore(id: string, stored: StoredPart, hasSong: boolean, store: PartStore): BenchStore {
  const bench = createStore<BenchState>((set, get) => {
    const saver = new Saver(store, id, stored.head, (save) => {
      set({ save });
      if (save.kind === 'failed') held.set(id, bench);
      else held.delete(id);
      markUnsaved(id, save.kind === 'saved' ? null : { part: () => get().part, error: save.kind === 'failed' ? save.error : null, letGo: () => saver.letGo() });
    });
    let gestures = 0;
    const surroundings = (): Surroundings => ({ selection: get().selection, sight: sightOf(get().view) });

    const take = (step: Step | null, kind: 'undo' | 'redo') => {
      if (!step) return;
      const { view, transport } = get();
      set({ part: step.part, history: step.history, selection: step.surroundings.selection, view: { ...view, ...step.surroundings.sight }, transport: within(transport, step.part) });
      if (step.diff) saver.save({ label: step.label, diff: step.diff, after: step.part, step: kind });
    };

    return {
      id,
      part: stored.part,
      hasSong,
      gesture: null,
      history: EMPTY_HISTORY,
      selection: NOTHING,
      focus: null,
      view: { scroll: stored.part.origin, pixelsPerQuarter: 0, scrollRows: 0, reach: 20, grid: '1/16', hideEmpty: false },
      transport: { loop: true, fromBar: 0, toBar: Math.min(stored.part.bars, 4), cursor: ticks(stored.part.origin), version: 'performed' },
      desk: { ...TIDY, onto: rememberedOnto() },
      whole: null,
      save: { kind: 'saved' },
      originAnswered: false,

      run(label, command, then) {
        get().begin(label);
        get().preview(command);
        if (then) set({ selection: new Set(then()) });
        get().commit();
      },
      begin(label, trial = false, owner) {
        get().commit();
        set({ gesture: { number: ++gestures, label, trial, owner, base: get().part, before: surroundings() } });
      },
      sweep(owner, label, command) {
        if (get().gesture?.owner !== owner) get().begin(label, false, owner);
        get().preview(command, label);
      },
      finish(owner) {
        if (get().gesture?.owner === owner) get().commit();
      },
      abandon(owner) {
        if (get().gesture?.owner === owner) get().cancel();
      },
      preview(command, label) {
        const { gesture } = get();
        if (!gesture) return;
        const part = command(gesture.base);
        set(label === undefined || label === gesture.label ? { part } : { part, gesture: { ...gesture, label } });
      },
      commit() {
        const { gesture, part, history, transport } = get();
        if (!gesture) return;
        const done = record(history, gesture.label, gesture.base, part, gesture.before, surroundings());
        set({ gesture: null, ...(done ? { history: done.history, transport: within(transport, part) } : { part: gesture.base }) });
        if (done) saver.save({ label: gesture.label, diff: done.diff, after: part, step: 'do' });
      },
      cancel() {
        const { gesture } = get();
        if (gesture) set({ gesture: null, part: gesture.base, selection: gesture.before.selection, transport: within(get().transport, gesture.base) });
      },
      undo() {
        if (get().gesture) return get().cancel();
        take(stepBack(get().history, get().part), 'undo');
      },
      redo() {
        if (!get().gesture) take(stepForward(get().history, get().part), 'redo');
      },
      select(ids) {
        get().commit();
        const before = get().selection;
        get().showSelection(ids);
        get().settleSelection(before);
      },
      showSelection: (ids) => set({ selection: new Set(ids) }),
      settleSelection(selection) {
        if (loses(selection, get().selection)) set({ history: recordSelection(get().history, { selection, sight: sightOf(get().view) }, surroundings()) });
      },
      setView: (change) => set({ view: { ...get().view, ...change } }),
      setTransport: (change) => set({ transport: { ...get().transport, ...change } }),
      setDesk: (change) => set({ desk: { ...get().desk, ...change } }),
      setFocus: (focus) => set({ focus }),
      answerOrigin: () => set({ originAnswered: true }),
      adoptHistory: (older) => set({ history: withOlder(get().history, older) }),
      retrySave: () => saver.retry(),
      hear: (head) => saver.hear(head),
      letGo: () => saver.letGo(),
    };
  });
  return bench;
}

const held = new Map<string, BenchStore>();

/** The Bench of a part whose edits could not be saved: it lives on while other places are open. */
export const heldBench = (id: string): BenchStore | undefined => held.get(id);

/** The loop lies within the part's bars, whatever was done to them. */
function within(transport: Transport, part: Part): Transport {
  if (transport.toBar <= part.bars) return transport;
  const fromBar = Math.min(transport.fromBar, part.bars - 1);
  return { ...transport, fromBar, toBar: part.bars };
}
