import {
  emptyHistory,
  historyOf,
  steppedBack,
  steppedForward,
  withEntry,
  withOlder,
  type Diffing,
  type Entry,
  type History,
  type KeptStep,
  type StepKind,
} from './history';
export type { Diffing } from './history';
import { leftBy, withLeft, type Left } from './left-behind';

/**
 * Why a transaction is open: a pointer or a control that is swept (`drag`), something tried out until it is kept or put back (`trial`),
 * a pass that is played in (`record`), or an action that ends in the same breath (`step`).
 */
export type TransactionKind = 'drag' | 'trial' | 'record' | 'step';

/** The handle of an edit under way. Once it is over, however it ended, it does nothing. */
export interface Transaction<T> {
  readonly isOpen: boolean;
  /** Shows a change, always of the value as it was when this was opened. */
  preview(command: (base: T) => T, label?: string): void;
  /** Makes one step of what is shown; none where nothing differs. */
  commit(): void;
  /** Puts all back. */
  cancel(): void;
}

/** The edit under way, as it is seen. */
export interface Underway<T> {
  readonly label: string;
  readonly kind: TransactionKind;
  /** The value before it. */
  readonly base: T;
  readonly handle: Transaction<T>;
}

export interface DocumentState<T, D, S> {
  value: T;
  underway: Underway<T> | null;
  history: History<D, S>;
  /** What was undone and left behind by something new, the oldest first. */
  left: readonly Left<T>[];
}

/** A finished edit, for whoever keeps it. */
export interface Finished<T, D> {
  label: string;
  diff: D;
  after: T;
  step: StepKind;
}

/** What a document needs of its place. `S` is what a step leads back to beside the value; the document looks at none of it. */
export interface Ports<T, D, S> {
  surroundings(): S;
  /** Shows a state; with it the surroundings that an undo, a redo or a cancelled transaction lead back to. */
  show(state: DocumentState<T, D, S>, back?: { to: S; from: 'step' | 'cancel' }): void;
  finished(edit: Finished<T, D>): void;
}

/**
 * A value that is edited: at most one transaction is under way, and each that changes something becomes one step of the history.
 * @example
 * const drag = doc.open('Nudge the snare', 'drag');
 * drag.preview((part) => addNudge(part, ids, ms));
 * drag.commit();
 */
export class Document<T, D, S> {
  private state: DocumentState<T, D, S>;
  /** What surrounded the value when what is under way was opened, and who hears how it ends. */
  private before: S | undefined;
  private onSettled: ((how: 'kept' | 'put back') => void) | undefined;

  constructor(
    private readonly kind: Diffing<T, D>,
    value: T,
    private readonly ports: Ports<T, D, S>,
  ) {
    this.state = { value, underway: null, history: emptyHistory(), left: [] };
  }

  get history(): History<D, S> {
    return this.state.history;
  }

  /** As it stands. */
  get current(): DocumentState<T, D, S> {
    return this.state;
  }

  /**
   * Opens a transaction; one that is under way is kept first, as a step under its own name.
   * @param onSettled hears where something else ended this one
   */
  open(label: string, kind: TransactionKind, onSettled?: (how: 'kept' | 'put back') => void): Transaction<T> {
    this.settle();
    const isOpen = () => this.state.underway?.handle === handle;
    const handle: Transaction<T> = {
      get isOpen() {
        return isOpen();
      },
      preview: (command, renamed) => {
        const { underway } = this.state;
        if (underway?.handle !== handle) return;
        const value = command(underway.base);
        this.show({ value, underway: renamed === undefined || renamed === underway.label ? underway : { ...underway, label: renamed } });
      },
      commit: () => {
        if (isOpen()) this.keep();
      },
      cancel: () => {
        if (isOpen()) this.drop();
      },
    };
    this.before = this.ports.surroundings();
    this.onSettled = onSettled;
    this.show({ underway: { label, kind, base: this.state.value, handle } });
    return handle;
  }

  /** Runs a command as one step. @param then runs before the step ends: what it does to the surroundings belongs to the step */
  run(label: string, command: (value: T) => T, then?: () => void) {
    const step = this.open(label, 'step');
    try {
      step.preview(command);
      then?.();
      step.commit();
    } finally {
      // A command that threw leaves nothing under way.
      step.cancel();
    }
  }

  /**
   * Runs a command that goes with the step that was done last: undoing takes back both. Where there is none, or something was undone since,
   * or
   * is under way, it is a step of its own.
   * @param label of that step
   */
  amend(label: string, command: (value: T) => T) {
    const { underway, history, value } = this.state;
    const last = history.undo.at(-1);
    const { join } = this.kind;
    if (underway || !last || !join || history.redo.length > 0) return this.run(label, command);
    const changed = command(value);
    const after = this.kind.settled?.(value, changed) ?? changed;
    const diff = this.kind.diff(value, after);
    if (!diff) return;
    this.show({ value: after, history: { undo: [...history.undo.slice(0, -1), { ...last, diff: join(last.diff, diff) }], redo: [] } });
    this.ports.finished({ label: last.label, diff, after, step: 'amend' });
  }

  /** Keeps what is under way. */
  settle() {
    if (!this.state.underway) return;
    const { onSettled } = this;
    this.keep();
    onSettled?.('kept');
  }

  /** Puts back what is under way. */
  putBack() {
    if (!this.state.underway) return;
    const { onSettled } = this;
    this.drop();
    onSettled?.('put back');
  }

  /** Puts back what is under way, or else undoes the last step. */
  undo() {
    if (this.state.underway) return this.putBack();
    const back = steppedBack(this.state.history);
    if (back) this.step(back.entry, back.history, 'undo');
  }

  redo() {
    const forward = this.state.underway ? null : steppedForward(this.state.history);
    if (forward) this.step(forward.entry, forward.history, 'redo');
  }

  /** Takes in what changed elsewhere: no step, and what is under way goes on from it. */
  receive(change: (value: T) => T) {
    const { value, underway } = this.state;
    this.show({ value: change(value), underway: underway && { ...underway, base: change(underway.base) } });
  }

  /**
   * Takes in steps that were done elsewhere, as if they had been done here: they can be undone. Nothing may be under way.
   * @param surround what surrounded a step of which only the diff is known
   */
  follow(steps: readonly KeptStep<D>[], surround: (diff: D) => { before: S; after: S }) {
    const { value, history } = this.state;
    this.show({
      value: steps.reduce((v, { diff }) => this.kind.apply(v, diff), value),
      history: historyOf(steps, this.kind, surround, history),
    });
  }

  /** Has another value in its place, with the history that led to it. */
  adopt(value: T, history: History<D, S>, left: readonly Left<T>[] = []) {
    this.putBack();
    this.show({ value, history, left });
  }

  /** Puts the steps of before a reload under those since. @param left what was left behind before it */
  adoptHistory(older: History<D, S>, left: readonly Left<T>[] = []) {
    this.show({ history: withOlder(this.state.history, older), left: [...left, ...this.state.left] });
  }

  private keep() {
    const { underway } = this.state;
    if (!underway) return;
    const { label, base } = underway;
    const value = this.kind.settled?.(base, this.state.value) ?? this.state.value;
    const diff = this.kind.diff(base, value);
    if (!diff) return this.show({ underway: null, value: base });
    this.show({
      underway: null,
      value,
      ...this.withStep({ label, diff, before: this.before as S, after: this.ports.surroundings() }, base),
    });
    this.ports.finished({ label, diff, after: value, step: 'do' });
  }

  /** The history with a new step, and what it leaves behind. @param base what it began with */
  private withStep(entry: Entry<D, S>, base = this.state.value): Pick<DocumentState<T, D, S>, 'history' | 'left'> {
    const { history, left } = this.state;
    const gone = leftBy(base, history.redo, (v, d) => this.kind.apply(v, d));
    return { history: withEntry(history, entry), left: gone ? withLeft(left, gone) : left };
  }

  private drop() {
    const { underway } = this.state;
    if (underway) this.show({ underway: null, value: underway.base }, { to: this.before as S, from: 'cancel' });
  }

  private step({ label, diff, before, after }: Entry<D, S>, history: History<D, S>, step: 'undo' | 'redo') {
    const back = step === 'undo';
    const applied = back ? this.kind.invert(diff) : diff;
    const value = this.kind.apply(this.state.value, applied);
    this.show({ value, history }, { to: back ? before : after, from: 'step' });
    this.ports.finished({ label: back ? `Undo ${label}` : label, diff: applied, after: value, step });
  }

  private show(change: Partial<DocumentState<T, D, S>>, back?: { to: S; from: 'step' | 'cancel' }) {
    this.state = { ...this.state, ...change };
    this.ports.show(this.state, back);
  }
}
