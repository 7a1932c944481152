// npm run kills [-- count [name]]: kills the whole browser during edits in one tab and in two, and during recordings, and checks that
// everything that was shown as saved is still there. With NOD_SWAY_SMALL_DISK set to a folder on a small file system, it also fills that
// disk during edits. Needs `npm run build` first.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch, sleep } from './kills/browser.mjs';
import { edits } from './kills/edits.mjs';
import { fullDisk } from './kills/full-disk.mjs';
import { recording } from './kills/recording.mjs';
import { tabs } from './kills/tabs.mjs';

const COUNT = Number(process.argv[2] ?? 100);
const DISK = process.env.NOD_SWAY_SMALL_DISK;
const WAYS = [edits, tabs, recording, ...(DISK ? [fullDisk(DISK)] : [])].filter(
  (way) => process.argv[3] === undefined || way.name.includes(process.argv[3]),
);
const PORT = 3292;
const BENCH = `http://127.0.0.1:${PORT}/bench/demo-gangway-strut`;

const server = spawn('node', ['server/serve.mjs', String(PORT)], { stdio: 'ignore' });
while (!(await fetch(`http://127.0.0.1:${PORT}`).catch(() => null))) await sleep(100);

let lost = 0;
for (const way of WAYS) {
  const profile = mkdtempSync(join(way.disk ?? tmpdir(), 'nod-sway-kills-'));
  let problems = 0;
  let claims = 0;
  /** What was last called saved. */
  let claimed;
  for (let i = 0; i <= COUNT; i++) {
    way.prepare?.();
    const browser = await launch(profile);
    let opened = true;
    const problem = await way.look(browser, BENCH, claimed).catch((e) => {
      opened = false;
      return e.message;
    });
    if (problem) {
      problems++;
      console.log(`LOST by kill ${i} (${way.name}): ${problem}`);
    }
    if (claimed !== undefined) claims++;
    claimed = undefined;
    if (i < COUNT && opened) {
      await way.begin(browser, BENCH, (now) => (claimed = now));
      const work = way.work(browser, i).catch(() => {});
      await Promise.race([work, sleep(60 + ((i * 137) % 1100))]);
    }
    await browser.kill();
    // What the browser threw away is gone: nothing more can be tried with this profile.
    if (!opened) break;
  }
  lost += problems;
  rmSync(profile, { recursive: true, force: true });
  console.log(`${COUNT} kills, ${way.name}: before ${claims} of them something was called saved, ${problems} lost any of it.`);
}
server.kill();
process.exit(lost === 0 ? 0 : 1);
