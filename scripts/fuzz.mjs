// npm run fuzz [-- count [seed [file.mid ...]]]: damaged files against core and API. Prints counts, the slowest and what failed.
import { build } from 'esbuild';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';

const [count = '20000', seed = '1', ...files] = process.argv.slice(2);
const folder = mkdtempSync(join(resolve('node_modules'), '.fuzz-'));
const out = join(folder, 'fuzz.mjs');
await build({
  entryPoints: ['tests/fuzz/fuzz.ts'],
  outfile: out,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  logLevel: 'warning',
});
const { fuzz } = await import(out);
rmSync(folder, { recursive: true });

console.error = () => {};
const {
  files: done,
  answered,
  refused,
  failures,
  slowest,
} = await fuzz(
  Number(count),
  Number(seed),
  files.map((f) => new Uint8Array(readFileSync(f))),
);
console.log(`${done} damaged files from seed ${seed}: ${answered} answers, ${refused} refusals by name, ${failures.length} failures.`);
for (const { what, ms } of slowest.sort((a, b) => b.ms - a.ms).slice(0, 8)) console.log(`${Math.round(ms)} ms  ${what}`);
for (const failure of failures.slice(0, 20)) console.log(`FAILED ${failure}`);
process.exit(failures.length === 0 ? 0 : 1);
