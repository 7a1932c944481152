// Bundles a TypeScript command of measure/ and loads it in Node.
import { createRequire } from 'node:module';
import { basename, join, resolve } from 'node:path';
import { build } from 'esbuild';

export const ROOT = resolve(import.meta.dirname, '..');

/** @param name of the bundle in server/generated @param entry path from the project's root @returns what the entry exports */
export async function bundled(name, entry) {
  const outfile = join(ROOT, 'server/generated', `${basename(name)}.cjs`);
  await build({
    entryPoints: [join(ROOT, entry)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'cjs',
    target: 'node20',
    alias: { '@': join(ROOT, 'src'), '@tests': join(ROOT, 'tests') },
    logLevel: 'warning',
  });
  return createRequire(import.meta.url)(outfile);
}
