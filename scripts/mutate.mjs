// Puts faults into the code and counts those that the unit tests find.
// npm run mutate -- <glob> ... [--sample n] [--seed s] [--beside n] [--own-tests]
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { keyOf, mutantsOf, sampleOf } from './mutate/sample.mjs';

/** Tables that are looked up in: a changed number in them is another table, not a fault in the code. */
const TABLES = ['src/core/groove/house-grooves.ts', 'src/core/voices.ts', 'src/core/synth/recipes', 'src/core/analysis/near-grooves.ts'];

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    sample: { type: 'string', default: '100' },
    seed: { type: 'string', default: '1' },
    beside: { type: 'string', default: '2' },
    'own-tests': { type: 'boolean', default: false },
  },
});
if (positionals.length === 0) {
  console.error('Say which files: npm run mutate -- "src/core/feel/*.ts" --sample 100 --seed 1');
  process.exit(2);
}

const listed = spawnSync('git', ['ls-files', '--', ...positionals.map((glob) => `:(glob)${glob}`)], { encoding: 'utf8' })
  .stdout.split('\n')
  .filter((file) => /\.tsx?$/.test(file) && !/\.(test|d)\.tsx?$/.test(file) && !TABLES.some((table) => file.startsWith(table)));
// Words on screen are read by people, not by tests.
const mutator = { plugins: null, excludedMutations: ['StringLiteral'] };
const all = await mutantsOf(listed, { ...mutator, ignorers: [], noHeader: true });
const chosen = sampleOf(all, Number(values.sample), Number(values.seed));
const files = [...new Set(chosen.map(({ file }) => file))].sort();
console.log(`${all.length} mutants of ${listed.length} files; ${chosen.length} chosen by seed ${values.seed}, in ${files.length} files.`);

const out = 'test-results/mutants';
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });

/** Tests that compute for long: they judge their own folder alone. */
const SLOW = ['core/synth/strokes', 'core/onsets/onsets', 'core/breaks/breaks', 'core/render/render', 'core/reading/reading', 'keep/keep'];

/** Runs some mutants against some tests. @returns each mutant's status, by its key */
function judge(some, name, jestConfig) {
  const sampleFile = resolve(out, `${name}-sample.json`);
  writeFileSync(sampleFile, JSON.stringify(some.map(({ key }) => key)));
  const configFile = `${out}/${name}.json`;
  const reportFile = `${out}/${name}-report.json`;
  writeFileSync(
    configFile,
    JSON.stringify({
      testRunner: 'jest',
      plugins: ['@stryker-mutator/jest-runner', resolve('scripts/mutate/sample-checker.mjs')],
      checkers: ['sample'],
      // Only what is chosen is put in: each possible fault is counted whenever its place is passed, which makes inner loops slow.
      mutate: [...new Set(some.map(({ range }) => range))],
      mutator,
      coverageAnalysis: 'perTest',
      ignoreStatic: true,
      concurrency: Number(values.beside),
      timeoutMS: 20_000,
      timeoutFactor: 3,
      dryRunTimeoutMinutes: 60,
      allowEmpty: true,
      reporters: ['json'],
      jsonReporter: { fileName: reportFile },
      tempDirName: '.stryker-tmp',
      ignorePatterns: ['.next', 'docs/screenshots', 'e2e', 'test-results', 'public/worklet'],
      jest: { configFile: 'jest.config.mjs', config: jestConfig },
      disableTypeChecks: false,
    }),
  );
  const env = { ...process.env, MUTATE_SAMPLE: sampleFile, MUTATE_ROOT: process.cwd() };
  const { status, stdout } = spawnSync('npx', ['stryker', 'run', configFile], { encoding: 'utf8', env });
  if (status !== 0 || !existsSync(reportFile)) {
    console.error(`${name}: could not be run.\n${stdout?.slice(-2000)}`);
    return new Map();
  }
  const wanted = new Set(some.map(({ key }) => key));
  const found = new Map();
  for (const [file, { mutants, source }] of Object.entries(JSON.parse(readFileSync(reportFile, 'utf8')).files)) {
    const lines = source.split('\n');
    for (const mutant of mutants) {
      const key = keyOf(file, { ...mutant, location: fromZero(mutant.location) });
      if (!wanted.has(key)) continue;
      const { line } = mutant.location.start;
      const words = `${file}:${line} ${mutant.mutatorName}\n  ${lines[line - 1].trim()}\n  -> ${mutant.replacement}`;
      found.set(key, { status: mutant.status, words });
    }
  }
  return found;
}

/** Reports count lines and columns from 1, mutants from 0. */
const fromZero = ({ start, end }) => ({
  start: { line: start.line - 1, column: start.column - 1 },
  end: { line: end.line - 1, column: end.column - 1 },
});
const folderOf = (file) => file.replace(/\/[^/]*$/, '');
const isMissed = ({ status }) => status === 'Survived' || status === 'NoCoverage';

// First each folder's faults by its own tests, which is quick; what these miss by all tests that reach it.
const results = new Map();
for (const folder of [...new Set(files.map(folderOf))].sort()) {
  const some = chosen.filter(({ file }) => folderOf(file) === folder);
  const tested = spawnSync('git', ['ls-files', `:(glob)${folder}/*.test.*`], { encoding: 'utf8' }).stdout.trim() !== '';
  const found = tested ? judge(some, folder.replaceAll('/', '-'), { testMatch: [`**/${folder}/*.test.{ts,tsx}`] }) : new Map();
  for (const { key, file } of some) results.set(key, found.get(key) ?? { status: 'NoCoverage', words: `${file} ${key}` });
  console.log(`${folder}: ${some.filter(({ key }) => !isMissed(results.get(key))).length} of ${some.length} by its own tests`);
}
if (!values['own-tests']) {
  const rest = chosen.filter(({ key }) => isMissed(results.get(key)));
  const found = judge(rest, 'all-tests', { testPathIgnorePatterns: ['/node_modules/', ...SLOW] });
  for (const [key, result] of found) results.set(key, result);
}

const tally = {};
for (const { status } of results.values()) tally[status] = (tally[status] ?? 0) + 1;
const missed = [...results.values()].filter(isMissed).map(({ status, words }) => `${status} ${words}`);
const found = (tally.Killed ?? 0) + (tally.Timeout ?? 0) + (tally.RuntimeError ?? 0);
const counted = found + (tally.Survived ?? 0) + (tally.NoCoverage ?? 0);
writeFileSync(`${out}/missed.txt`, `${missed.join('\n')}\n`);
console.log(`\n${missed.join('\n')}\n`);
console.log(JSON.stringify(tally));
console.log(`${found} of ${counted} found: ${((100 * found) / Math.max(1, counted)).toFixed(1)} %. Missed ones are in ${out}/missed.txt.`);
