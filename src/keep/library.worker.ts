import * as Comlink from 'comlink';
import { database } from '@/storage/database';
import { outcomeOf, type Outcome } from '@/workers/outcome';
import { sayReady } from '@/workers/ready';
import { makeBackup, type Backup } from './backup';
import type { Here, How } from './kinds/kind';
import { lookAtLibrary, restoreLibrary, type Preview, type Restored } from './restore';

type Remembered = Readonly<Record<string, string>>;
type Tell = (done: number) => void;

/** Settings that a worker cannot reach: they come along, and what is to be remembered goes back. */
function hereWith(remembered: Remembered): Here & { toRemember: Record<string, string> } {
  const toRemember: Record<string, string> = {};
  return { db: database, remembered, remember: (values) => Object.assign(toRemember, values), toRemember };
}

/** Library files away from the interface: gigabytes never freeze it. */
const api = {
  backUp: (remembered: Remembered, parts: readonly string[] | null, tell: Tell): Promise<Outcome<Backup>> =>
    outcomeOf(makeBackup(hereWith(remembered), parts, tell)),
  look: (remembered: Remembered, file: Blob, tell: Tell): Promise<Outcome<Preview>> =>
    outcomeOf(lookAtLibrary(hereWith(remembered), file, tell)),
  restore: (
    remembered: Remembered,
    file: Blob,
    wishes: ReadonlyMap<number, How>,
    tell: Tell,
  ): Promise<Outcome<Restored & { toRemember: Remembered }>> => {
    const here = hereWith(remembered);
    return outcomeOf(restoreLibrary(here, file, wishes, tell).then((restored) => ({ ...restored, toRemember: here.toRemember })));
  },
};

export type LibraryApi = typeof api;

Comlink.expose(api);
sayReady();
