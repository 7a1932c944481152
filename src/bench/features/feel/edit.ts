import type { Move } from '@/core/model/feel';

/** How a move is changed from its sentence. */
export interface Edit {
  /** Sweeps members: seen and heard at once, one step once it is done. */
  sweep: (change: Partial<Move>) => void;
  done: () => void;
  cancel: () => void;
  /** Sets members in one step. */
  set: (label: string, change: Partial<Move>) => void;
}
