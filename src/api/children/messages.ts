import type { CallName } from '../fields';

/** What crosses between the server and the child processes that compute for it. */

/** A request, as it came. */
export interface Asked {
  call: CallName;
  contentType: string;
  body: Uint8Array;
  /** Where a long answer is written, instead of being sent. */
  file: string;
}

export interface Answered {
  status: number;
  headers: [string, string][];
  /** The answer, or how many bytes of it were written into the file. */
  body: Uint8Array | { bytes: number };
}

/** Longer answers are written into a file: so neither side holds them twice, nor the server while a slow reader takes them. */
export const LONGEST_SENT = 2 ** 20;
