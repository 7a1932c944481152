// Bundles the audio thread's code: worklets are loaded by address and get no help from the page's bundler.
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
