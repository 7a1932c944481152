// npm run fit:strokes [-- --kits] [beats]: fits the net that tells what was struck, on beats of our own kits, and writes its weights.
import { createRequire } from 'node:module';
import { join, resolve } from 'node:path';

const here = resolve(import.meta.dirname, '..');
const { build } = await import('esbuild');
const outfile = join(here, 'server/generated/fit-strokes.cjs');
await build({
  entryPoints: [join(here, 'measure/strokes/command.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  alias: { '@': join(here, 'src'), '@tests': join(here, 'tests') },
  logLevel: 'warning',
});
createRequire(import.meta.url)(outfile).fitStrokes(join(here, 'src/core/onsets/stroke-weights.json'), process.argv.slice(2));
