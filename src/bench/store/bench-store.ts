import { createStore, type StoreApi } from 'zustand/vanilla';
import type { HandsOfPart } from '@/core/analysis/hands-of-part';
import type { WholePart } from '@/core/analysis/whole';
import { fromZero } from '@/core/commands/excerpt';
import type { HitId, Part } from '@/core/model/part';
import { ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { withShapedHits } from '@/core/model/hit-shape';
import { applyDiff, diffParts, invertDiff, joinDiffs, type PartDiff } from '@/core/part/diff';
import { Document, type Diffing, type Transaction, type TransactionKind, type Underway } from '@/editing/document';
import { emptyHistory, type History } from '@/editing/history';
import { Follower } from '@/editing/follow';
import { Saver, type SaveState } from '@/editing/saver';
import { markUnsaved } from '@/editing/unsaved';
import type { Left } from '@/editing/left-behind';
import type { PartStore, StoredIdea, StoredPart } from '@/storage/part-store';
import { isLegendNew, rememberedOnto, rememberedSteps } from './remembered';
import { sightOf, type Transport, type View } from './view';
import { worstOf } from './save-states';
import { benchHistoryOf, leftOfEdits, touchedBy, type Surroundings } from './surroundings';
import { type Idea, type UiState, NEW_UI_STATE } from './ui-state';

export interface BenchState {
  id: string;
  /** What is worked on: the part, or the idea that is open. */
  part: Part;
  /** The part itself, whichever idea is open. */
  main: Part;
  /** By their letters. */
  ideas: readonly Idea[];
  /** Id of the idea that is open; null for the part itself. */
  idea: string | null;
  /** A take is being recorded into what is open: nothing else is opened meanwhile. */
  recording: boolean;
  hasSong: boolean;
  /** The edit under way; {@link part} shows it. */
  underway: Underway<Part> | null;
  history: History<PartDiff, Surroundings>;
  /** What was undone and left behind by another edit. */
  left: readonly Left<Part>[];
  selection: ReadonlySet<HitId>;
  /** The row that opens tall. */
  focus: VoiceName | null;
  view: View;
  transport: Transport;
  ui: UiState;
  /** What the whole part says of itself, as last measured: see follow-whole.ts. */
  whole: ({ part: Part } & WholePart) | null;
  /** Who plays what, as last found; shown where it is asked for. */
  hands: ({ part: Part } & HandsOfPart) | null;
  save: SaveState;
  /** Id of the part, or of the idea, that this tab and another both changed. */
  conflict: string | null;
  /** When the last edit was written, ms since 1970; null before the first. */
  savedAt: number | null;
  /** The origin offer was answered. */
  originAnswered: boolean;
  /** The part was kept in an older format until now: its lines may be read better. */
  wasOlder: boolean;

  /** Runs a command as one undoable step; `then` says what is selected after it. */
  run(label: string, command: (part: Part) => Part, then?: () => Iterable<HitId>): void;
  /** Runs a command that goes with the last step: {@link Document.amend}. */
  amend(label: string, command: (part: Part) => Part): void;
  /** Opens an edit whose handle shows it, makes one step of it or puts all back; see {@link Document.open}. */
  open(label: string, kind: TransactionKind, told?: (how: 'kept' | 'put back') => void): Transaction<Part>;
  /** Keeps, or puts back, whatever is under way. */
  settle(): void;
  putBack(): void;
  undo(): void;
  redo(): void;
  /** Selects, after an edit that is under way was kept. Selecting is no step. */
  select(ids: Iterable<HitId>): void;
  /** Selects in the course of a gesture or an edit. */
  showSelection(ids: Iterable<HitId>): void;
  setView(change: Partial<View>): void;
  setTransport(change: Partial<Transport>): void;
  setUi(change: Partial<UiState>): void;
  setFocus(voice: VoiceName | null): void;
  answerOrigin(): void;
  /** Adds an idea that is in the store; one that is here already stays as it is. */
  addIdea(idea: StoredIdea): void;
  /** Takes an idea away; where it was open, the part itself is. */
  dropIdea(id: string): void;
  /** Opens an idea, or the part itself: each with its own steps, selection and loop. */
  openIdea(id: string | null): void;
  /** Puts the steps of before a reload under those since: of the part, or of an idea. */
  adoptHistory(older: History<PartDiff, Surroundings>, left?: readonly Left<Part>[], idea?: string): void;
  retrySave(): void;
  /** Hears from the store that another tab changed the part (or an idea), or took it away (null). */
  hear(head: number | null, idea?: string): void;
  /**
   * Of the part, or an idea, that both changed: how it stands here, the steps that are not in the store, and the number of the last that
   * both have.
   */
  bothOf(own: string): { mine: Part; steps: readonly string[]; common: number } | null;
  /** Goes on from what the store holds, or puts what stands here on top of it as one step. @throws NamedError */
  takeOf(own: string, which: 'mine' | 'theirs'): Promise<void>;
  /** Forgets what is not saved: it went somewhere else. */
  letGo(): void;
}

export type BenchStore = StoreApi<BenchState>;

const PART_DIFFS: Diffing<Part, PartDiff> = {
  diff: diffParts,
  apply: applyDiff,
  invert: invertDiff,
  join: joinDiffs,
  settled: withShapedHits,
};

const NOTHING: ReadonlySet<HitId> = new Set();

/** What is edited by itself: the part, or an idea of it. */
interface EditSession {
  doc: Document<Part, PartDiff, Surroundings>;
  saver: Saver;
  follower: Follower;
  /** How it was left, where another was opened meanwhile. */
  place: (Pick<BenchState, 'selection' | 'transport'> & { scroll: View['scroll'] }) | null;
}

export function createBenchStore(id: string, stored: StoredPart, hasSong: boolean, store: PartStore): BenchStore {
  const bench = createStore<BenchState>((set, get) => {
    const sessions = new Map<string, EditSession>();
    const saves = new Map<string, SaveState>();

    /** Begins to edit a part that is in the store under an id of its own. */
    const openSession = (own: string, { part, head }: StoredPart): EditSession => {
      const isOpen = () => (get().idea ?? id) === own;
      const saver = new Saver(
        store,
        own,
        head,
        (state) => {
          saves.set(own, state);
          const save = worstOf(saves.values());
          set({ save, ...(save.kind === 'saved' ? { savedAt: Date.now() } : {}) });
          if (save.kind === 'failed') held.set(id, bench);
          else held.delete(id);
          if (state.kind === 'failed' && state.error.code === 'changed-elsewhere') set({ conflict: own });
          else if (get().conflict === own) set({ conflict: null });
          markUnsaved(
            own,
            state.kind === 'saved'
              ? null
              : {
                  part: () => (own === id ? doc.current.value : fromZero(doc.current.value)),
                  error: state.kind === 'failed' ? state.error : null,
                  letGo: () => saver.letGo(),
                },
          );
        },
        (ahead) => follower.hear(ahead),
      );
      const doc = new Document<Part, PartDiff, Surroundings>(PART_DIFFS, part, {
        surroundings: () => ({ selection: get().selection, sight: sightOf(get().view) }),
        finished: (edit) => saver.save(edit),
        show({ value, underway, history, left }, back) {
          // What waited for this to be done goes on behind its saving.
          if (!underway) queueMicrotask(() => void follower.goOn());
          if (own === id) set({ main: value });
          else if (!underway) set({ ideas: get().ideas.map((i) => (i.id === own ? { ...i, part: value } : i)) });
          if (!isOpen()) return;
          const { view, transport } = get();
          set({
            part: value,
            underway,
            history,
            left,
            // While something is tried out, the loop stays where it was.
            ...(underway ? {} : { transport: within(transport, value) }),
            ...(back ? { selection: back.to.selection } : {}),
            ...(back?.from === 'step' ? { view: { ...view, ...back.to.sight } } : {}),
          });
        },
      });
      const keepKnown = () => {
        const known = new Set(doc.current.value.hits.map((h) => h.id));
        if (isOpen()) set({ selection: new Set([...get().selection].filter((hit) => known.has(hit))) });
      };
      const follower = new Follower(store, own, () => saver, {
        isFree: () => doc.current.underway === null,
        take(steps) {
          doc.follow(steps, touchedBy);
          keepKnown();
        },
        reread: () => void rereadSession(session, own, null).catch((e: unknown) => console.error(e)),
      });
      const session: EditSession = { doc, saver, follower, place: null };
      sessions.set(own, session);
      return session;
    };
    /** Has what the store holds, and its steps, in the place of what is here; `mine` becomes a step after them. */
    const rereadSession = async ({ doc, saver }: EditSession, own: string, mine: Part | null) => {
      await saver.idle;
      const theirs = await store.load(own);
      const edits = await store.recentEdits(own, theirs.head);
      doc.adopt(theirs.part, benchHistoryOf(edits), leftOfEdits(edits, theirs.part));
      saver.goOnFrom(theirs.head);
      if (mine) doc.run('Use this tab’s version', () => mine);
    };
    const main = openSession(id, stored);
    const open = (): EditSession => sessions.get(get().idea ?? id) ?? main;

    return {
      id,
      part: stored.part,
      main: stored.part,
      ideas: [],
      idea: null,
      recording: false,
      hasSong,
      underway: null,
      history: emptyHistory(),
      left: [],
      selection: NOTHING,
      focus: null,
      view: { scroll: stored.part.origin, pixelsPerQuarter: 0, scrollRows: 0, reach: 20, grid: '1/16', hideEmpty: false, swungGrid: false },
      transport: { ...firstLoop(stored), order: false, cursor: ticks(stored.part.origin), version: 'performed' },
      ui: {
        ...NEW_UI_STATE,
        onto: rememberedOnto(),
        legend: isLegendNew(),
        firstSteps: stored.part.hits.length > 0 ? rememberedSteps(id, stored.part.feel.moves.length === 0) : null,
      },
      whole: null,
      hands: null,
      save: { kind: 'saved' },
      conflict: null,
      savedAt: null,
      originAnswered: false,
      wasOlder: stored.wasOlder === true,

      run: (label, command, then) => open().doc.run(label, command, then && (() => set({ selection: new Set(then()) }))),
      amend: (label, command) => open().doc.amend(label, command),
      open: (label, kind, told) => open().doc.open(label, kind, told),
      settle: () => open().doc.settle(),
      putBack: () => open().doc.putBack(),
      undo: () => open().doc.undo(),
      redo: () => open().doc.redo(),
      select(ids) {
        open().doc.settle();
        get().showSelection(ids);
      },
      showSelection: (ids) => set({ selection: new Set(ids) }),
      setView: (change) => set({ view: { ...get().view, ...change } }),
      setTransport: (change) => set({ transport: { ...get().transport, ...change } }),
      setUi: (change) => set({ ui: { ...get().ui, ...change } }),
      setFocus: (focus) => set({ focus }),
      answerOrigin: () => set({ originAnswered: true }),
      addIdea(idea) {
        if (sessions.has(idea.id)) return;
        openSession(idea.id, idea);
        const { id: own, letter, bars, part } = idea;
        set({ ideas: [...get().ideas, { id: own, letter, bars, part }].sort((a, b) => (a.letter < b.letter ? -1 : 1)) });
      },
      dropIdea(own) {
        if (get().idea === own) get().openIdea(null);
        sessions.get(own)?.saver.letGo();
        sessions.delete(own);
        saves.delete(own);
        set({ ideas: get().ideas.filter((i) => i.id !== own) });
      },
      openIdea(own) {
        const next = sessions.get(own ?? id);
        if (!next || get().idea === own || get().recording) return;
        const now = open();
        now.doc.settle();
        const { selection, transport, view, ui, focus } = get();
        now.place = { selection, transport, scroll: view.scroll };
        const { value: part, underway, history, left } = next.doc.current;
        // What is open for the first time is looped as a whole; its ticks are those of the bars that it came from.
        const place = next.place ?? {
          selection: NOTHING,
          transport: { ...transport, loop: true, order: false, fromBar: 0, toBar: part.bars, cursor: part.origin },
          scroll: part.origin,
        };
        set({
          idea: own,
          part,
          underway,
          history,
          left,
          selection: place.selection,
          transport: within({ ...place.transport, version: 'performed' }, part),
          view: { ...view, scroll: place.scroll },
          focus: part.rows.some((r) => r.voice === focus) ? focus : null,
          ui: { ...ui, step: null, proposal: null, pointing: null, openMove: null },
        });
      },
      adoptHistory: (older, left, own) => sessions.get(own ?? id)?.doc.adoptHistory(older, left),
      retrySave: () => sessions.forEach(({ saver }) => saver.retry()),
      hear: (head, own) => sessions.get(own ?? id)?.saver.hear(head),
      bothOf(own) {
        const session = sessions.get(own);
        return session
          ? { mine: session.doc.current.value, steps: session.saver.waiting.map((e) => e.label), common: session.saver.common }
          : null;
      },
      async takeOf(own, which) {
        const session = sessions.get(own);
        if (session) await rereadSession(session, own, which === 'mine' ? session.doc.current.value : null);
      },
      letGo: () => sessions.forEach(({ saver }) => saver.letGo()),
    };
  });
  return bench;
}

const held = new Map<string, BenchStore>();

/** The Bench of a part whose edits could not be saved: it lives on while other places are open. */
export const heldBench = (id: string): BenchStore | undefined => held.get(id);

/** The loop that was set last, where the part still has its bars; its first four bars otherwise. */
function firstLoop({ part: { bars }, loop }: StoredPart): Pick<Transport, 'loop' | 'fromBar' | 'toBar'> {
  const fits =
    loop &&
    Number.isInteger(loop.fromBar) &&
    Number.isInteger(loop.toBar) &&
    loop.fromBar >= 0 &&
    loop.fromBar < loop.toBar &&
    loop.toBar <= bars;
  return fits ? { loop: loop.loop, fromBar: loop.fromBar, toBar: loop.toBar } : { loop: true, fromBar: 0, toBar: Math.min(bars, 4) };
}

/** The loop lies within the part's bars, whatever was done to them. */
function within(transport: Transport, part: Part): Transport {
  if (transport.toBar <= part.bars) return transport;
  const fromBar = Math.min(transport.fromBar, part.bars - 1);
  return { ...transport, fromBar, toBar: part.bars };
}
