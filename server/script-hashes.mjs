// Run after the build: the hashes of all inline scripts of the static pages, for the content security policy.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const PAGES = '.next/server/app';
export const HASHES = '.next/script-hashes.json';

/** @returns hashes of the scripts without `src` of an HTML page, as the policy writes them */
export function hashesOf(html) {
  const scripts = [...html.matchAll(/<script\b([^>]*)>([\s\S]*?)<\/script>/g)].filter(([, attributes]) => !/\bsrc=/.test(attributes));
  return scripts.filter(([, , code]) => code !== '').map(([, , code]) => `sha256-${createHash('sha256').update(code).digest('base64')}`);
}

if (import.meta.url === `file://${process.argv[1]}`) {
  const pages = [PAGES, '.next/server/pages'].flatMap((folder) =>
    readdirSync(folder, { recursive: true })
      .map(String)
      .filter((f) => f.endsWith('.html'))
      .map((f) => join(folder, f)),
  );
  const hashes = [...new Set(pages.flatMap((page) => hashesOf(readFileSync(page, 'utf8'))))].sort();
  writeFileSync(HASHES, JSON.stringify(hashes));
  console.log(`${hashes.length} inline scripts of ${pages.length} pages may run.`);
}
