// npm run bench [-- file.mid ...]: the core against its bars, without a browser.
import { build } from 'esbuild';
import { mkdtempSync } from 'node:fs';
import { join, resolve } from 'node:path';

const out = join(mkdtempSync(join(resolve('node_modules'), '.bench-')), 'core.mjs');
await build({
  entryPoints: ['measure/core.ts'],
  outfile: out,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  logLevel: 'warning',
});
const { benchCore } = await import(out);
benchCore(process.argv.slice(2));
