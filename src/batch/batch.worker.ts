import * as Comlink from 'comlink';
import { zipSync } from 'fflate';
import { readSmf } from '@/core/smf/read';
import { baseName } from '@/workers/midi-file';
import { outcome, type Outcome } from '@/workers/outcome';
import { sayReady } from '@/workers/ready';
import { accountOf, partOfFile, withGiven, writePart, type Account, type Given } from './perform-file';

/** A file that was written, and what was done in it. */
export interface Written {
  bytes: Uint8Array;
  account: Account;
}

/** Files of a batch, one after another, away from the interface. */
const api = {
  perform: (bytes: Uint8Array, fileName: string, given: Given, song: boolean): Outcome<Written> =>
    outcome(() => {
      const file = readSmf(bytes);
      const before = partOfFile(file, baseName(fileName));
      const after = withGiven(before, given);
      return { bytes: writePart(after, file, { song }), account: accountOf(before, after) };
    }),
  zip: (files: Readonly<Record<string, Uint8Array>>): Uint8Array => zipSync({ ...files }, { mtime: new Date(1980, 0, 1) }),
};

export type BatchApi = typeof api;

Comlink.expose(api);
sayReady();
