import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Curve } from '@/core/groove/edit';
import type { Groove } from '@/core/model/groove';
import { houseId, HOUSE_GROOVES } from '@/core/groove/house-grooves';
import type { Part } from '@/core/model/part';
import { bpm, type Bpm } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { Document, type Transaction } from '@/editing/document';
import { emptyHistory, type History } from '@/editing/history';
import type { SaveState } from '@/editing/saver';
import { keptNow, type GrooveStore, type KeptGroove } from '@/storage/groove-store';
import type { PartStore } from '@/storage/part-store';
import { lifted, onStand, sorted, withGroove, WORK_DIFFS, type GroovesChange, type Stand, type GroovesWork } from './work';
import { Writers } from './writers';

export type { Stand } from './work';

/** What a step leads back to: the groove in hand, and which of its curves. */
export interface Hand {
  chosen: string;
  curve: Curve;
}

export interface Blend {
  with: string;
  /** 0 = the chosen groove, 1 = the other. */
  share: number;
}

export type GrooveTab = 'shape' | 'blend' | 'compare' | 'keep';

export interface GroovesState {
  /** Null until the store has answered. */
  own: readonly KeptGroove[] | null;
  chosen: string;
  /** Which of its curves is edited: all voices or one. */
  curve: Curve;
  /** The chosen groove while an edit changes it. */
  live: Groove | null;
  blend: Blend | null;
  /** What is done with the groove in hand. */
  tab: GrooveTab;
  /** Id of a groove, or the part on the stand. */
  against: string | 'part' | null;
  /** Null: the neutral pattern. */
  stand: Stand | null;
  /** Rows that a groove is tried and used on; none means all. */
  ticked: ReadonlySet<VoiceName>;
  lean: number;
  level: number;
  /** The chosen groove is heard although it is not used. */
  trying: boolean;
  /** Of the neutral pattern. */
  tempo: Bpm;
  /** Bars of the part that are heard, from 0, without `to`. */
  bars: { from: number; to: number };
  history: History<GroovesChange, Hand>;
  /** Whether everything done here is in the store. */
  save: SaveState;

  set(
    change: Partial<Pick<GroovesState, 'curve' | 'against' | 'ticked' | 'lean' | 'level' | 'trying' | 'tempo' | 'bars' | 'blend' | 'tab'>>,
  ): void;
  choose(id: string): void;
  setOwn(own: readonly KeptGroove[]): void;
  setStand(stand: Stand | null): void;
  /** Opens an edit of the chosen groove; a built-in one is copied first, and the copy changed. */
  openGroove(label: string): Transaction<Groove>;
  /** The same in one step. */
  edit(label: string, change: (groove: Groove) => Groove): void;
  /** Changes name or tags of one of the user's own. */
  describe(id: string, label: string, change: { name?: string; tags?: readonly string[] }): void;
  /** Keeps a new groove and chooses it. */
  keep(label: string, groove: Groove, tags?: readonly string[]): string;
  remove(id: string): void;
  /** Changes the part on the stand in one step. */
  run(label: string, change: (part: Part) => Part): void;
  /** Opens an edit of the part on the stand. */
  openPart(label: string): Transaction<Part>;
  /** Puts back what is under way, or keeps it. */
  putBack(): void;
  settle(): void;
  undo(): void;
  redo(): void;
  /** Tries again to write what could not be written. */
  retrySave(): void;
  /** Hears from the store that another tab changed the part on the stand, or took it away (null). */
  hear(head: number | null): void;
  /** Of the part on the stand: how it stands here, the steps that are not in the store, and the number of the last edit that is. */
  bothOf(): { mine: Part; steps: readonly string[]; common: number } | null;
  /** Goes on from what the store holds of it, or puts what stands here on top of that as one step. @throws NamedError */
  takeOf(which: 'mine' | 'theirs'): Promise<void>;
}

export type GroovesStoreApi = StoreApi<GroovesState>;

const NO_ROWS: ReadonlySet<VoiceName> = new Set();
const LONGEST_TRY_BARS = 4;
const FIRST = houseId((HOUSE_GROOVES[0] as Groove).name);

export function createGroovesStore(parts: PartStore, grooves: GrooveStore): GroovesStoreApi {
  return createStore<GroovesState>((set, get) => {
    const writers = new Writers(
      parts,
      grooves,
      (save) => set({ save }),
      (partId) => ({
        isFree: () => doc.current.underway === null,
        take: (steps) => {
          const here = (): { before: Hand; after: Hand } => ({
            before: { chosen: get().chosen, curve: get().curve },
            after: { chosen: get().chosen, curve: get().curve },
          });
          doc.follow(
            steps.map((s) => ({ ...s, diff: { kind: 'part', partId, diff: s.diff } })),
            here,
          );
        },
        reread: () =>
          void get()
            .takeOf('theirs')
            .catch((e: unknown) => console.error(e)),
      }),
    );
    /** The copy of a built-in groove that is being made: it is in hand once its edit is kept. */
    let copying: string | null = null;

    const doc = new Document<GroovesWork, GroovesChange, Hand>(
      WORK_DIFFS,
      { own: null, stand: null },
      {
        surroundings: () => ({ chosen: copying ?? get().chosen, curve: get().curve }),
        finished(edit) {
          writers.save(edit);
          // What a step leads to is heard as it is.
          if (edit.step !== 'do') set({ trying: false });
        },
        show({ value, underway, history }, back) {
          const own = underway ? underway.base.own : value.own;
          const hand = back?.to ?? { chosen: (underway ? null : copying) ?? get().chosen, curve: get().curve };
          const known = keptOf({ own }, hand.chosen) ?? grooveOf({ own: null }, hand.chosen);
          if (!underway) copying = null;
          if (!underway) queueMicrotask(() => writers.goOn());
          set({
            own,
            stand: value.stand,
            history,
            live: underway && value.own !== own ? (keptOf(value, copying ?? get().chosen)?.groove ?? null) : null,
            ...(known || own === null ? hand : { chosen: FIRST, curve: null }),
          });
        },
      },
    );

    /** What changing the groove in hand does to the work; nothing where it stays as it is. */
    const inHand =
      (change: (groove: Groove) => Groove) =>
      (work: GroovesWork): GroovesWork => {
        const id = copying ?? get().chosen;
        const kept = keptOf(work, id);
        if (kept) {
          const groove = change(kept.groove);
          return JSON.stringify(groove) === JSON.stringify(kept.groove)
            ? work
            : { ...work, own: withGroove(work.own, id, { ...kept, groove, updatedAt: Date.now() }) };
        }
        const ours = chosenGroove(get());
        const groove = change(ours);
        if (JSON.stringify(groove) === JSON.stringify(ours)) return work;
        const copy = keptNow({ ...groove, name: freeName(work, ours.name) });
        copying ??= copy.id;
        return { ...work, own: withGroove(work.own, copying, { ...copy, id: copying }) };
      };

    return {
      own: null,
      chosen: FIRST,
      curve: null,
      live: null,
      blend: null,
      tab: 'shape',
      against: null,
      stand: null,
      ticked: NO_ROWS,
      lean: 1,
      level: 1,
      trying: true,
      tempo: bpm(96),
      bars: { from: 0, to: LONGEST_TRY_BARS },
      history: emptyHistory(),
      save: { kind: 'saved' },

      set: (change) => set(change),
      choose(id) {
        doc.settle();
        set({ chosen: id, curve: null, trying: true, blend: null });
      },
      setOwn(own) {
        // While something is still to be written, the screen knows more than the store.
        if (writers.groovesKept || get().own === null) doc.receive((work) => ({ ...work, own: sorted(own) }));
      },
      setStand(next) {
        doc.settle();
        const stand = next && writers.take(next);
        doc.receive((work) => ({ ...work, stand }));
        set({ ticked: NO_ROWS, bars: { from: 0, to: Math.min(stand?.part.bars ?? LONGEST_TRY_BARS, LONGEST_TRY_BARS) } });
      },

      openGroove(label) {
        set({ trying: true });
        return lifted(doc.open(label, 'drag'), inHand);
      },
      edit: (label, change) => doc.run(label, inHand(change), () => set({ trying: true })),
      describe(id, label, { name, tags }) {
        doc.run(label, (work) => {
          const kept = keptOf(work, id);
          return kept
            ? {
                ...work,
                own: withGroove(work.own, id, {
                  ...kept,
                  groove: name ? { ...kept.groove, name: name.slice(0, 120) } : kept.groove,
                  tags: tags ?? kept.tags,
                  updatedAt: Date.now(),
                }),
              }
            : work;
        });
      },
      keep(label, groove, tags = []) {
        const kept = keptNow(groove, tags);
        doc.run(
          label,
          (work) => ({ ...work, own: withGroove(work.own, kept.id, kept) }),
          () => set({ chosen: kept.id, curve: null }),
        );
        set({ blend: null, trying: true });
        return kept.id;
      },
      remove(id) {
        const kept = keptOf(get(), id);
        if (kept) doc.run(`Delete ${kept.groove.name}`, (work) => ({ ...work, own: withGroove(work.own, id, null) }));
      },
      openPart: (label) => lifted(doc.open(label, 'drag'), onStand),
      run: (label, change) => doc.run(label, onStand(change)),
      putBack: () => doc.putBack(),
      settle: () => doc.settle(),
      undo: () => doc.undo(),
      redo: () => doc.redo(),
      retrySave: () => writers.retry(),
      hear(head) {
        const { stand } = get();
        if (stand) writers.hear(stand, head);
      },
      bothOf() {
        const { stand } = get();
        return stand && { mine: stand.part, ...writers.knownOf(stand) };
      },
      async takeOf(which) {
        const { stand: mine } = get();
        if (!mine) return;
        const stand = await writers.reread(mine);
        const isOther = ({ diff }: { diff: GroovesChange | null }) => diff?.kind !== 'part' || diff.partId !== stand.id;
        const { value, history } = doc.current;
        doc.adopt({ ...value, stand }, { undo: history.undo.filter(isOther), redo: history.redo.filter(isOther) });
        if (which === 'mine')
          doc.run(
            'Use this tab’s version',
            onStand(() => mine.part),
          );
      },
    };
  });
}

export const keptOf = (state: Pick<GroovesState, 'own'>, id: string): KeptGroove | undefined => state.own?.find((k) => k.id === id);

/** A groove by its id, our own or the user's. */
export const grooveOf = (state: Pick<GroovesState, 'own'>, id: string): Groove | undefined =>
  keptOf(state, id)?.groove ?? HOUSE_GROOVES.find((g) => houseId(g.name) === id);

const chosenGroove = (state: Pick<GroovesState, 'own' | 'chosen'>): Groove => grooveOf(state, state.chosen) ?? (HOUSE_GROOVES[0] as Groove);

/** The chosen groove as it is seen: while it is changed, as it changes. */
export const shownGroove = (state: Pick<GroovesState, 'own' | 'chosen' | 'live'>): Groove => state.live ?? chosenGroove(state);

/** @example freeName(state, 'Ballast') // 'Ballast 2', 'Ballast 3' where that is taken */
export function freeName(state: Pick<GroovesState, 'own'>, name: string): string {
  const base = name.replace(/ \d+$/, '');
  const taken = new Set([...HOUSE_GROOVES.map((g) => g.name), ...(state.own ?? []).map((k) => k.groove.name)]);
  if (!taken.has(name)) return name;
  let n = 2;
  while (taken.has(`${base} ${n}`)) n++;
  return `${base} ${n}`;
}
