// Edits in one tab while a small disk runs full. Space is freed before the browser restarts.
import { closeSync, openSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { edits } from './edits.mjs';
import { sleep } from './browser.mjs';

const CHUNK = Buffer.alloc(64 * 1024);

/** Uses up the remaining space. */
function fill(path) {
  const file = openSync(path, 'w');
  try {
    for (;;) writeSync(file, CHUNK);
  } catch (e) {
    if (e.code !== 'ENOSPC') throw e;
  } finally {
    closeSync(file);
  }
}

/** @param disk a folder on a small file system of its own, for instance a tmpfs of 200 MB */
export const fullDisk = (disk) => {
  const filler = join(disk, 'filler');
  return {
    ...edits,
    name: 'edits on a full disk',
    disk,
    /** Before the browser starts. */
    prepare: () => rmSync(filler, { force: true }),
    async work(browser, i) {
      const work = edits.work(browser, i).catch(() => {});
      await sleep(50 + ((i * 61) % 400));
      fill(filler);
      // Every other time, space is freed while editing continues.
      if (i % 2 === 1) {
        await sleep(300);
        rmSync(filler, { force: true });
      }
      await work;
    },
  };
};
