// Run behind the build: the list of all that a version consists of, and the service worker that keeps it for working offline.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import { build } from 'esbuild';

const PAGES = '.next/server/app';
const WORKER = 'service-worker.js';
/** Pages, each with an address that shows it. */
const ADDRESSES = { index: '/', grooves: '/grooves', library: '/library', guide: '/guide', bench: '/bench/any' };
const DATA = { RSC: '1' };

const filesIn = (folder) =>
  existsSync(folder)
    ? readdirSync(folder, { recursive: true, withFileTypes: true })
        .filter((f) => f.isFile())
        .map((f) => join(f.parentPath, f.name))
    : [];
const pathIn = (folder, file) => `/${relative(folder, file).split(sep).join('/')}`;

const hash = createHash('sha256');
const files = [];
const add = (file, entry) => {
  hash.update(entry.key).update(readFileSync(file));
  files.push(entry);
};
for (const file of filesIn('.next/static').sort()) {
  const path = `/_next/static${pathIn('.next/static', file)}`;
  if (!path.endsWith('.map')) add(file, { key: path, url: path });
}
for (const file of filesIn('public').sort()) {
  const path = pathIn('public', file);
  if (path !== `/${WORKER}`) add(file, { key: path, url: path });
}
add(join(PAGES, 'icon.svg.body'), { key: '/icon.svg', url: '/icon.svg' });
for (const [page, url] of Object.entries(ADDRESSES)) {
  add(join(PAGES, `${page}.html`), { key: `/@page/${page}`, url });
  add(join(PAGES, `${page}.rsc`), { key: `/@data/${page}`, url, headers: DATA });
  const pieces = join(PAGES, `${page}.segments`);
  for (const file of filesIn(pieces).sort()) {
    const piece = pathIn(pieces, file).replace(/\.segment\.rsc$/, '');
    add(file, {
      key: `/@piece/${page}${piece}`,
      url,
      headers: { ...DATA, 'next-router-prefetch': '1', 'next-router-segment-prefetch': piece },
    });
  }
}
const version = hash.digest('hex').slice(0, 12);
await build({
  entryPoints: ['src/offline/service-worker.ts'],
  outfile: `public/${WORKER}`,
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  define: { SHIPPED: JSON.stringify({ version, files }) },
  logLevel: 'warning',
});
console.log(`Version ${version}: ${files.length} files for working offline.`);
