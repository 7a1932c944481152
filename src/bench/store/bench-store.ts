import { createStore, type StoreApi } from 'zustand/vanilla';
import type { WholePart } from '@/core/analysis/whole';
import type { Onto } from '@/core/commands/copy';
import type { HitId, Part } from '@/core/model/part';
import type { Feel } from '@/core/model/feel';
import { ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import { Document, type Diffing, type Transaction, type TransactionKind, type Underway } from '@/editing/document';
import { emptyHistory, type History } from '@/editing/history';
import { Saver, type SaveState } from '@/editing/saver';
import { markUnsaved } from '@/editing/unsaved';
import type { PartStore, StoredPart } from '@/storage/part-store';
import { DEFAULT_PAINT, PLAIN_VELOCITY, type Paint, type NudgeUnit, type Proposal, type StepCursor, type Tool } from './tools';
import { isLegendNew, rememberedOnto } from './remembered';
import { sightOf, type Transport, type View } from './view';
import type { Surroundings } from './surroundings';


/** What lies over the Bench. */
export type Dialog = 'keys' | 'find' | 'kit' | 'own-row' | 'sounds' | 'patterns' | 'export' | 'feels' | 'versions' | 'learn';

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
  paint: Paint;
  /** The step cursor, where keys work. */
  step: StepCursor | null;
  proposal: Proposal | null;
  nudgeUnit: NudgeUnit;
  /** Velocity of hits placed one by one: by a click, or at the step cursor. */
  velocity: number;
  /** What copies do on steps that have a hit already. */
  onto: Onto;
  /** Id of the page of the side panel that is open. */
  page: string;
  /** The sections that are open, by page; a page that was not touched has its own. */
  sections: Readonly<Record<string, readonly string[]>>;
  /** Where the keyboard is led: a page, or a section of one; another number is another time. */
  goTo: { page: string; section: string | null; n: number } | null;
  /** P was pressed: the next letter opens a page. */
  leading: boolean;
  dialog: Dialog | null;
  /** The move whose scope is pointed out. */
  pointing: number | null;
  /** The move that is open on the Feel page. */
  openMove: number | null;
  /** What is compared with, heard while its key is held. */
  other: Other | null;
  /** What is heard so where nothing was chosen: the part as it was imported. */
  imported: Other | null;
  /** Versions are compared at equal loudness. */
  equalLoudness: boolean;
  /** What the pictures mean stands under the stems. */
  legend: boolean;
  /** What a fresh part is like was read. */
  stepsRead: boolean;
  /** The table of hits stands under the stems. */
  table: boolean;
  /** The last pointer was a finger. */
  touch: boolean;
}

const TIDY: Desk = { tool: 'select', paint: DEFAULT_PAINT, step: null, proposal: null, nudgeUnit: '1 ms', velocity: PLAIN_VELOCITY, onto: 'replace', page: 'feel', sections: {}, goTo: null, leading: false, dialog: null, pointing: null, openMove: null, other: null, imported: null, equalLoudness: false, legend: false, stepsRead: false, table: false, touch: false };

export interface BenchState {
  id: string;
  part: Part;
  hasSong: boolean;
  /** The edit under way; {@link part} shows it. */
  underway: Underway<Part> | null;
  history: History<PartDiff, Surroundings>;
  selection: ReadonlySet<HitId>;
  /** The row that opens tall. */
  focus: VoiceName | null;
  view: View;
  transport: Transport;
  desk: Desk;
  /** What the whole part says of itself, as last measured: see follow-whole.ts. */
  whole: ({ part: Part } & WholePart) | null;
  save: SaveState;
  /** When the last edit was written, ms since 1970; null before the first. */
  savedAt: number | null;
  /** The origin offer was answered. */
  originAnswered: boolean;

  /** Runs a command as one undoable step; `then` says what is selected after it. */
  run(label: string, command: (part: Part) => Part, then?: () => Iterable<HitId>): void;
  /** Opens an edit whose handle shows it, makes one step of it or puts all back; see {@link Document.open}. */
  open(label: string, kind: TransactionKind, told?: (how: 'kept' | 'put back') => void): Transaction<Part>;
  /** Keeps, or puts back, whatever is under way. */
  settle(): void;
  putBack(): void;
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
  adoptHistory(older: History<PartDiff, Surroundings>): void;
  retrySave(): void;
  /** Hears from the store that another tab changed the part, or took it away (null). */
  hear(head: number | null): void;
  /** Forgets what is not saved: it went somewhere else. */
  letGo(): void;
}

export type BenchStore = StoreApi<BenchState>;

const PART_DIFFS: Diffing<Part, PartDiff> = { diff: diffParts, apply: applyDiff, invert: invertDiff };

const NOTHING: ReadonlySet<HitId> = new Set();

/** A selection of several hits is work: losing one of them can be undone. */
const loses = (before: ReadonlySet<HitId>, after: ReadonlySet<HitId>): boolean => before.size > 1 && [...before].some((id) => !after.has(id));

export function createBenchStore(id: string, stored: StoredPart, hasSong: boolean, store: PartStore): BenchStore {
  const bench = createStore<BenchState>((set, get) => {
    const saver = new Saver(store, id, stored.head, (save) => {
      set({ save, ...(save.kind === 'saved' ? { savedAt: Date.now() } : {}) });
      if (save.kind === 'failed') held.set(id, bench);
      else held.delete(id);
      markUnsaved(id, save.kind === 'saved' ? null : { part: () => get().part, error: save.kind === 'failed' ? save.error : null, letGo: () => saver.letGo() });
    });
    const doc = new Document<Part, PartDiff, Surroundings>(PART_DIFFS, stored.part, {
      surroundings: () => ({ selection: get().selection, sight: sightOf(get().view) }),
      finished: (edit) => saver.save(edit),
      show({ value: part, underway, history }, back) {
        const { view, transport } = get();
        set({
          part,
          underway,
          history,
          // While something is tried out, the loop stays where it was.
          ...(underway ? {} : { transport: within(transport, part) }),
          ...(back ? { selection: back.to.selection } : {}),
          ...(back?.from === 'step' ? { view: { ...view, ...back.to.sight } } : {}),
        });
      },
    });

    return {
      id,
      part: stored.part,
      hasSong,
      underway: null,
      history: emptyHistory(),
      selection: NOTHING,
      focus: null,
      view: { scroll: stored.part.origin, pixelsPerQuarter: 0, scrollRows: 0, reach: 20, grid: '1/16', hideEmpty: false },
      transport: { loop: true, fromBar: 0, toBar: Math.min(stored.part.bars, 4), order: false, cursor: ticks(stored.part.origin), version: 'performed' },
      desk: { ...TIDY, onto: rememberedOnto(), legend: isLegendNew() },
      whole: null,
      save: { kind: 'saved' },
      savedAt: null,
      originAnswered: false,

      run: (label, command, then) => doc.run(label, command, then && (() => set({ selection: new Set(then()) }))),
      open: (label, kind, told) => doc.open(label, kind, told),
      settle: () => doc.settle(),
      putBack: () => doc.putBack(),
      undo: () => doc.undo(),
      redo: () => doc.redo(),
      select(ids) {
        doc.settle();
        const before = get().selection;
        get().showSelection(ids);
        get().settleSelection(before);
      },
      showSelection: (ids) => set({ selection: new Set(ids) }),
      settleSelection(selection) {
        if (loses(selection, get().selection)) doc.recordSurroundings('Change the selection', { selection, sight: sightOf(get().view) });
      },
      setView: (change) => set({ view: { ...get().view, ...change } }),
      setTransport: (change) => set({ transport: { ...get().transport, ...change } }),
      setDesk: (change) => set({ desk: { ...get().desk, ...change } }),
      setFocus: (focus) => set({ focus }),
      answerOrigin: () => set({ originAnswered: true }),
      adoptHistory: (older) => doc.adoptHistory(older),
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
