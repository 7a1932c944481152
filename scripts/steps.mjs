// Small helpers for the scripts: running commands, and installing what is missing.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';

export const CHROMIUM = '/usr/bin/chromium';

/** Runs a command with its output shown; true where it succeeded. */
export function run(command, args, env = {}) {
  console.log(`\n> ${command} ${args.join(' ')}`);
  return spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env } }).status === 0;
}

/** Runs a command beside others: its output is shown when it is done, so that nothing is mixed. Gives true where it succeeded. */
export const runBeside = (command, args, env = {}) => finished(start(command, args, env, false), command, args);

function start(command, args, env, inGroup) {
  return spawn(command, args, {
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: inGroup,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
}

function finished(child, command, args) {
  return new Promise((done) => {
    let text = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (d) => (text += d));
    child.on('close', (code) => {
      console.log(`\n> ${command} ${args.join(' ')}\n${text.trimEnd()}`);
      done(code === 0);
    });
  });
}

/** Commands that take what time others leave, one after the other. */
export class Behind {
  #child = null;
  #forward = false;

  /** The same as runBeside, in what time others leave. */
  async run(command, args, env = {}) {
    if (this.#forward) return runBeside(command, args, env);
    const child = (this.#child = start('nice', ['-n', '15', command, ...args], env, true));
    // A group of its own is not ended with ours.
    const end = () => process.kill(-child.pid, 'SIGTERM');
    const interrupted = () => process.exit(130);
    process.once('exit', end).once('SIGINT', interrupted).once('SIGTERM', interrupted);
    const ok = await finished(child, command, args);
    process.off('exit', end).off('SIGINT', interrupted).off('SIGTERM', interrupted);
    this.#child = null;
    return ok;
  }

  /**
   * Nothing is left to stand behind: beside other work of the machine what is left would starve. Who may not renice waits for what runs.
   */
  comeForward() {
    this.#forward = true;
    if (this.#child) spawnSync('renice', ['-n', '0', '-g', String(this.#child.pid)], { stdio: 'ignore' });
  }
}

/** Installs the packages where they are missing or older than the lock file. */
export function installPackages() {
  const stamp = 'node_modules/.package-lock.json';
  if (existsSync(stamp) && statSync(stamp).mtimeMs >= statSync('package-lock.json').mtimeMs) return true;
  // Not `npm ci`: it refuses a lock file that leaves out builds for other systems, which optional packages list.
  return run('npm', ['install', '--no-audit', '--no-fund']);
}

/** Installs Debian's Chromium where it is missing. */
export function installChromium() {
  if (existsSync(CHROMIUM)) return true;
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => run([...sudo, 'apt-get'][0], [...sudo, 'apt-get', ...args].slice(1));
  return apt('update', '-qq') && apt('install', '-y', '-qq', 'chromium');
}
