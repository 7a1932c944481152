import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Curve } from '@/core/groove/edit';
import type { Groove } from '@/core/groove/groove';
import { houseId, HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { applyDiff, diffParts, invertDiff } from '@/core/part/diff';
import type { Part } from '@/core/part/part';
import { bpm, type Bpm } from '@/core/units';
import type { VoiceName } from '@/core/voices';
import { byName, keptNow, type GrooveStore, type KeptGroove } from '@/storage/groove-store';
import type { PartStore } from '@/storage/part-store';
import { Saver, type SaveState } from '@/storage/saver';
import { markUnsaved } from '@/storage/unsaved';
import { WriteQueue } from '@/storage/write-queue';
import { EMPTY_HISTORY, stepped, withEntry, type Change, type History } from './history';

/** The part that grooves are tried and used on. */
export interface Stand {
  id: string;
  part: Part;
  /** Number of its last edit in the store when it was read. */
  head: number;
}

export interface Blend {
  with: string;
  /** 0 = the chosen groove, 1 = the other. */
  share: number;
}

export interface GroovesState {
  /** Null until the store has answered. */
  own: readonly KeptGroove[] | null;
  chosen: string;
  /** Which of its curves is edited: all voices or one. */
  curve: Curve;
  /** The chosen groove while a gesture changes it. */
  live: { label: string; groove: Groove } | null;
  blend: Blend | null;
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
  history: History;
  /** Whether everything done here is in the store. */
  save: SaveState;

  set(change: Partial<Pick<GroovesState, 'curve' | 'against' | 'ticked' | 'lean' | 'level' | 'trying' | 'tempo' | 'bars' | 'blend'>>): void;
  choose(id: string): void;
  setOwn(own: readonly KeptGroove[]): void;
  setStand(stand: Stand | null): void;
  /** Shows a change of the chosen groove; {@link commit} keeps it, {@link cancel} puts it back. */
  preview(label: string, change: (groove: Groove) => Groove): void;
  commit(): void;
  cancel(): void;
  /** Changes the chosen groove in one step; one of ours is copied first, and the copy changed. */
  edit(label: string, change: (groove: Groove) => Groove): void;
  /** Changes name or tags of one of the user's own. */
  describe(id: string, label: string, change: { name?: string; tags?: readonly string[] }): void;
  /** Keeps a new groove and chooses it. */
  keep(label: string, groove: Groove, tags?: readonly string[]): string;
  remove(id: string): void;
  /** Changes the part on the stand in one step. */
  run(label: string, change: (part: Part) => Part): void;
  /** Changes it while an amount is swept; {@link settle} makes one step of it. */
  sweep(label: string, change: (part: Part) => Part): void;
  settle(): void;
  undo(): void;
  redo(): void;
  /** Tries again to write what could not be written. */
  retrySave(): void;
  /** Hears from the store that another tab changed the part on the stand, or took it away (null). */
  hear(head: number | null): void;
}

export type GroovesStoreApi = StoreApi<GroovesState>;

const NO_ROWS: ReadonlySet<VoiceName> = new Set();
const LONGEST_TRY_BARS = 4;

export function createGroovesStore(parts: PartStore, grooves: GrooveStore): GroovesStoreApi {
  return createStore<GroovesState>((set, get) => {
    const writes = new WriteQueue((state) => {
      tell('grooves', state);
      markUnsaved('grooves', state.kind === 'saved' ? null : { error: state.kind === 'failed' ? state.error : null, letGo: () => undefined });
    });
    const savers = new Map<string, Saver>();
    const states = new Map<string, SaveState>();
    /** The gravest of what the writers say is what the place says. */
    const tell = (writer: string, state: SaveState) => {
      states.set(writer, state);
      const all = [...states.values()];
      set({ save: all.find((s) => s.kind === 'failed') ?? all.find((s) => s.kind === 'saving') ?? { kind: 'saved' } });
    };

    /** The one that writes a part's edits: it outlives the part's time on the stand, until all is written. */
    const saverOf = ({ id, head }: Stand): Saver => {
      const known = savers.get(id);
      if (known) return known;
      const saver: Saver = new Saver(parts, id, head, (state) => {
        tell(id, state);
        markUnsaved(id, state.kind === 'saved' ? null : { part: () => lastOn.get(id) as Part, error: state.kind === 'failed' ? state.error : null, letGo: () => saver.letGo() });
      });
      savers.set(id, saver);
      return saver;
    };
    const lastOn = new Map<string, Part>();

    /** Brings a change onto the screen and into the store. */
    const apply = (change: Change, label: string, back: boolean | null) => {
      if (change.kind === 'groove') {
        const kept = back ? change.before : change.after;
        const rest = (get().own ?? []).filter((k) => k.id !== change.id);
        set({ own: kept ? sorted([...rest, kept]) : rest });
        writes.add(() => (kept ? grooves.put(kept) : grooves.remove(change.id)));
        if (kept) set({ chosen: kept.id, curve: null });
        else if (get().chosen === change.id) set({ chosen: houseId((HOUSE_GROOVES[0] as Groove).name), curve: null });
        return true;
      }
      const { stand } = get();
      if (stand?.id !== change.partId) return false;
      const diff = back ? invertDiff(change.diff) : change.diff;
      const after = applyDiff(stand.part, diff);
      set({ stand: { ...stand, part: after } });
      lastOn.set(stand.id, after);
      saverOf(stand).save({ label: back ? `Undo ${label}` : label, diff, after, step: back === null ? 'do' : back ? 'undo' : 'redo' });
      return true;
    };

    const perform = (label: string, change: Change) => {
      if (apply(change, label, null)) set({ history: withEntry(get().history, { label, change }) });
    };

    /** The part before the sweep under way. */
    let swept: { label: string; base: Stand } | null = null;

    const step = (back: boolean) => {
      if (get().live) return get().cancel();
      const list = back ? get().history.undo : get().history.redo;
      const entry = list[list.length - 1];
      if (!entry) return;
      apply(entry.change, entry.label, back);
      // A step of a part that is no longer on the stand is passed over: its Bench has it too.
      set({ history: stepped(get().history, back), trying: false });
    };

    return {
      own: null,
      chosen: houseId((HOUSE_GROOVES[0] as Groove).name),
      curve: null,
      live: null,
      blend: null,
      against: null,
      stand: null,
      ticked: NO_ROWS,
      lean: 1,
      level: 1,
      trying: true,
      tempo: bpm(96),
      bars: { from: 0, to: LONGEST_TRY_BARS },
      history: EMPTY_HISTORY,
      save: { kind: 'saved' },

      set: (change) => set(change),
      choose(id) {
        get().commit();
        set({ chosen: id, curve: null, trying: true, blend: null });
      },
      setOwn(own) {
        // While something is still to be written, the screen knows more than the store.
        if (writes.idle || get().own === null) set({ own: sorted(own) });
      },
      setStand: (stand) => {
        const kept = stand && states.get(stand.id);
        // What was just read is newer than what an idle writer knows, and older than what one still has to write.
        if (stand && (!kept || kept.kind === 'saved')) savers.delete(stand.id);
        else if (stand) stand = { ...stand, part: lastOn.get(stand.id) ?? stand.part };
        set({ stand, ticked: NO_ROWS, bars: { from: 0, to: Math.min(stand?.part.bars ?? LONGEST_TRY_BARS, LONGEST_TRY_BARS) } });
      },

      preview(label, change) {
        const base = chosenGroove(get());
        set({ live: { label, groove: change(base) } });
      },
      commit() {
        const { live } = get();
        if (!live) return;
        set({ live: null });
        get().edit(live.label, () => live.groove);
      },
      cancel: () => set({ live: null }),
      edit(label, change) {
        const before = keptOf(get(), get().chosen);
        const groove = chosenGroove(get());
        const next = change(groove);
        if (JSON.stringify(next) === JSON.stringify(groove)) return;
        const { curve } = get();
        if (before) perform(label, { kind: 'groove', id: before.id, before, after: { ...before, groove: next, updatedAt: Date.now() } });
        else get().keep(label, { ...next, name: freeName(get(), groove.name) });
        set({ curve, trying: true });
      },
      describe(id, label, { name, tags }) {
        const before = keptOf(get(), id);
        if (!before) return;
        const after = { ...before, groove: name ? { ...before.groove, name: name.slice(0, 120) } : before.groove, tags: tags ?? before.tags, updatedAt: Date.now() };
        perform(label, { kind: 'groove', id, before, after });
      },
      keep(label, groove, tags = []) {
        const after = keptNow(groove, tags);
        perform(label, { kind: 'groove', id: after.id, before: null, after });
        set({ blend: null, trying: true });
        return after.id;
      },
      remove(id) {
        const before = keptOf(get(), id);
        if (before) perform(`Delete ${before.groove.name}`, { kind: 'groove', id, before, after: null });
      },
      run(label, change) {
        get().settle();
        const { stand } = get();
        if (!stand) return;
        const diff = diffParts(stand.part, change(stand.part));
        if (diff) perform(label, { kind: 'part', partId: stand.id, diff });
      },
      sweep(label, change) {
        const { stand } = get();
        if (!stand) return;
        swept ??= { label, base: stand };
        set({ stand: { ...swept.base, part: change(swept.base.part) } });
      },
      settle() {
        const { stand } = get();
        const was = swept;
        swept = null;
        if (!was || stand?.id !== was.base.id) return;
        set({ stand: was.base });
        get().run(was.label, () => stand.part);
      },
      undo: () => step(true),
      redo: () => step(false),
      retrySave() {
        writes.retry();
        for (const saver of savers.values()) saver.retry();
      },
      hear(head) {
        const { stand } = get();
        if (stand) saverOf(stand).hear(head);
      },
    };
  });
}

const sorted = (own: readonly KeptGroove[]): KeptGroove[] => [...own].sort(byName);

export const keptOf = (state: Pick<GroovesState, 'own'>, id: string): KeptGroove | undefined => state.own?.find((k) => k.id === id);

/** A groove by its id, our own or the user's. */
export const grooveOf = (state: Pick<GroovesState, 'own'>, id: string): Groove | undefined => keptOf(state, id)?.groove ?? HOUSE_GROOVES.find((g) => houseId(g.name) === id);

const chosenGroove = (state: Pick<GroovesState, 'own' | 'chosen'>): Groove => grooveOf(state, state.chosen) ?? (HOUSE_GROOVES[0] as Groove);

/** The chosen groove as it is seen: while it is changed, as it changes. */
export const shownGroove = (state: Pick<GroovesState, 'own' | 'chosen' | 'live'>): Groove => state.live?.groove ?? chosenGroove(state);

/** @example freeName(state, 'Hold') // 'Hold 2', 'Hold 3' where that is taken */
export function freeName(state: Pick<GroovesState, 'own'>, name: string): string {
  const base = name.replace(/ \d+$/, '');
  const taken = new Set([...HOUSE_GROOVES.map((g) => g.name), ...(state.own ?? []).map((k) => k.groove.name)]);
  if (!taken.has(name)) return name;
  let n = 2;
  while (taken.has(`${base} ${n}`)) n++;
  return `${base} ${n}`;
}
