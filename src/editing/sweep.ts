import type { Transaction, TransactionKind, Underway } from './document';

/** One control's edits: the first change opens a transaction, which goes on until the control lets go or something else is done. */
export interface Sweep<T> {
  show(label: string, command: (base: T) => T): void;
  /** Makes a step of it; nothing where it is over. */
  done(): void;
  cancel(): void;
  /** Whether what is under way is this control's. */
  owns(underway: Underway<T> | null): boolean;
}

export function sweepOf<T>(open: (label: string, kind: TransactionKind) => Transaction<T>, kind: TransactionKind): Sweep<T> {
  let edit: Transaction<T> | null = null;
  return {
    show(label, command) {
      if (!edit?.isOpen) edit = open(label, kind);
      edit.preview(command, label);
    },
    done: () => edit?.commit(),
    cancel: () => edit?.cancel(),
    owns: (underway) => underway !== null && underway.handle === edit,
  };
}
