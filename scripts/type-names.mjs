// Part of npm run lint: each exported type name of the source exists once, so that a name means one thing everywhere.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const EXPORTED = /^export (?:declare )?(?:interface|type|class|enum|abstract class) (\w+)\b(?! *[,}])/gm;

const files = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file))
  .sort();
const places = new Map();
for (const file of files) {
  for (const [, name] of readFileSync(join('src', file), 'utf8').matchAll(EXPORTED)) places.set(name, [...(places.get(name) ?? []), file]);
}
const twice = [...places].filter(([, at]) => at.length > 1);
for (const [name, at] of twice) console.error(`${name} is declared in ${at.join(' and ')}`);
if (twice.length > 0) process.exit(1);
