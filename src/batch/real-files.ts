import {
  closeSync,
  constants,
  fstatSync,
  linkSync,
  lstatSync,
  openSync,
  readFileSync,
  renameSync,
  statSync,
  unlinkSync,
  writeFileSync,
  type Stats,
} from 'node:fs';
import { randomUUID } from 'node:crypto';
import { dirname, join } from 'node:path';

/** Files by what they are, not by what they are called: links and other names of one file are the same file. */

/** Which file it is, on this machine. */
export type FileId = string;

const idOf = ({ dev, ino }: Stats): FileId => `${dev} ${ino}`;

/** The file behind a name, links followed; null where there is none. */
export function fileIdOf(path: string): FileId | null {
  const stats = statSync(path, { throwIfNoEntry: false });
  return stats ? idOf(stats) : null;
}

/**
 * Reads a plain file. A pipe would wait for ever, a device never end: they are refused without being read.
 * @throws Error that says why
 */
export function readPlainFile(path: string, most = Infinity): Buffer {
  const file = openSync(path, constants.O_RDONLY | constants.O_NONBLOCK);
  try {
    const stats = fstatSync(file);
    if (!stats.isFile()) throw new Error('this is not a plain file');
    if (stats.size > most) throw new Error(`larger than ${most / 2 ** 20} MiB`);
    return readFileSync(file);
  } finally {
    closeSync(file);
  }
}

/** Why nothing may be written under a name; null where it may. @param spared files that are read or were written already */
export function whyNotWritten(target: string, spared: ReadonlySet<FileId>, overwrite: boolean): string | null {
  const stats = lstatSync(target, { throwIfNoEntry: false });
  if (!stats) return null;
  if (stats.isSymbolicLink()) return `${target} is a link: links are not followed`;
  if (spared.has(idOf(stats))) return `${target} is one of the files that are read or were written already`;
  if (!stats.isFile()) return `${target} is there already and is not a plain file`;
  return overwrite ? null : `${target} is there already (--overwrite)`;
}

/**
 * Writes a file whole or not at all: under another name first, then by that of the target, whose old file is left as it is where others
 * have it too.
 */
export function writeWhole(target: string, bytes: Uint8Array, overwrite: boolean): FileId {
  const beside = join(dirname(target), `.${randomUUID()}.part`);
  try {
    writeFileSync(beside, bytes, { flag: 'wx' });
    const id = fileIdOf(beside) as FileId;
    if (overwrite) renameSync(beside, target);
    else nameNew(beside, target);
    return id;
  } catch (e) {
    unlinkIfThere(beside);
    throw e;
  }
}

/** Gives a file a name that nothing has: a plain rename would replace what came there meanwhile. */
function nameNew(beside: string, target: string) {
  try {
    linkSync(beside, target);
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code === 'EEXIST') throw new Error(`${target} is there already (--overwrite)`);
    // Some file systems know no second names.
    return renameSync(beside, target);
  }
  unlinkSync(beside);
}

function unlinkIfThere(path: string) {
  try {
    unlinkSync(path);
  } catch {
    // It was never made, or has its name already.
  }
}

/** A name as it can be shown: what would move the cursor, hide or turn letters around is written as its number. */
export const shownName = (text: string): string =>
  text.replace(/[\p{Cc}\p{Cf}\u2028\u2029]/gu, (c) => `\\u{${(c.codePointAt(0) as number).toString(16)}}`);
