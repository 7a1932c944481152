// npm run perform -- --feel x.nodfeel.json in/*.mid --out dir: gives a feel, a groove or a key map to MIDI files.
import { createRequire } from 'node:module';
import { join, resolve } from 'node:path';
import { installPackages } from './steps.mjs';

const here = resolve(import.meta.dirname, '..');
if (!installPackages()) process.exit(2);
const { build } = await import('esbuild');
const outfile = join(here, 'server/generated/perform.cjs');
await build({
  entryPoints: [join(here, 'src/batch/command.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  alias: { '@': join(here, 'src') },
  logLevel: 'warning',
});
const { performCommand } = createRequire(import.meta.url)(outfile);
// npm runs scripts in the project's folder: files are named from where it was called.
process.chdir(process.env.INIT_CWD ?? process.cwd());
process.exitCode = performCommand(process.argv.slice(2), { out: console.log, error: console.error });
