// npm run fit:beats [-- takes]: fits the weights that tell readings of a free take apart, on takes that are made up.
import { createRequire } from 'node:module';
import { join, resolve } from 'node:path';
import { build } from 'esbuild';

const here = resolve(import.meta.dirname, '..');
const outfile = join(here, 'server/generated/fit-beats.cjs');
await build({
  entryPoints: [join(here, 'measure/beats/fit.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  alias: { '@': join(here, 'src'), '@tests': join(here, 'tests') },
  logLevel: 'warning',
});
createRequire(import.meta.url)(outfile).fitBeats(join(here, 'src/core/beats/weights.ts'), Number(process.argv[2] ?? 600));
