// Everything that must hold before a change lands. Ends with the line "N passed, N failed".
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { Behind, installChromium, installPackages, run, runBeside } from './steps.mjs';

const JEST = 'test-results/jest.json';
const FLOWS = 'test-results/flows.json';
let passed = 0;
let failed = 0;

const count = (ok) => (ok ? passed++ : failed++);
const read = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
};

rmSync('test-results', { recursive: true, force: true });
mkdirSync('test-results', { recursive: true });

if (!installPackages() || !installChromium()) {
  console.log('Installing failed.\n0 passed, 1 failed');
  process.exit(1);
}

/** What took how long, printed at the end. */
const times = [];
const timed = async (name, work) => {
  const start = performance.now();
  const result = await work();
  times.push([name, (performance.now() - start) / 1000]);
  return result;
};
const behind = new Behind();

count(run('npm', ['run', '--silent', 'build:worklet']));
count(run('npx', ['next', 'typegen']));

// The build does not check types again: that is done beside it, with the rest that needs no browser; the flows begin once it is built.
const checks = async () => {
  for (const script of ['typecheck', 'lint', 'boundaries'])
    count(await timed(script, () => behind.run('npm', ['run', '--silent', script])));
  const ok = await timed('unit tests', () => behind.run('npx', ['jest', '--maxWorkers=2', '--json', `--outputFile=${JEST}`]));
  const jest = read(JEST);
  passed += jest?.numPassedTests ?? 0;
  failed += (jest?.numFailedTests ?? 0) + (jest?.numRuntimeErrorTestSuites ?? 0);
  if (!ok && !jest) failed++;
};
const flows = async () => {
  const built = await timed('build', () => runBeside('npm', ['run', '--silent', 'build'], { TYPES_ARE_CHECKED: '1' }));
  count(built);
  if (!built) return;
  const ok = await timed('flows', () => runBeside('npx', ['playwright', 'test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: FLOWS }));
  const stats = read(FLOWS)?.stats;
  passed += (stats?.expected ?? 0) + (stats?.flaky ?? 0);
  failed += stats?.unexpected ?? 0;
  if (!ok && !(stats?.unexpected > 0)) failed++;
  if (stats?.flaky > 0) console.log(`${stats.flaky} tests passed only when tried again: fix them.`);
};
await timed('all', () => Promise.all([checks(), flows().finally(() => behind.comeForward())]));

console.log(`\n${times.map(([name, seconds]) => `${seconds.toFixed(0).padStart(4)} s  ${name}`).join('\n')}`);
const summary = `${passed} passed, ${failed} failed`;
mkdirSync('test-results', { recursive: true });
writeFileSync('test-results/summary.txt', summary);
console.log(`\n${summary}`);
process.exit(failed === 0 ? 0 : 1);
