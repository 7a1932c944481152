// Bundles what runs beside the page and the server: worklets and child processes are loaded by address and get no help from the page's
// bundler.
import { build } from 'esbuild';

await build({
  entryPoints: ['src/sound/player.worklet.ts'],
  outfile: 'public/worklet/player.js',
  bundle: true,
  minify: true,
  format: 'esm',
  target: 'es2022',
  logLevel: 'warning',
});

await build({
  entryPoints: ['src/api/children/child.ts'],
  outfile: 'server/generated/api-child.cjs',
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  logLevel: 'warning',
});
