// npm run boundaries: the checker with its rules, no folder without one, none that rests on a later one, and the same table in the docs.
// `npm run boundaries -- --write` writes the table.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import boundaries from '../boundaries.cjs';
import { run } from './steps.mjs';

const { FOLDERS } = boundaries;
const DOCS = 'docs/architecture.md';
const [START, END] = ['<!-- folders: from boundaries.cjs -->', '<!-- end of folders -->'];
const problems = [];

const names = FOLDERS.map((f) => f.folder);
const hasRule = (folder) => names.some((name) => folder === name || folder.startsWith(`${name}/`));
const visit = (folder) => {
  const entries = readdirSync(join('src', folder), { withFileTypes: true });
  if (entries.some((e) => e.isFile()) && !hasRule(folder)) problems.push(`src/${folder} has no rule in boundaries.cjs`);
  for (const e of entries) if (e.isDirectory()) visit(join(folder, e.name));
};
visit('');

FOLDERS.forEach(({ folder, on }, i) => {
  try {
    readdirSync(join('src', folder));
  } catch {
    problems.push(`boundaries.cjs names src/${folder}, which is not there`);
  }
  for (const name of on) {
    const last = name.endsWith('/*')
      ? names.findLastIndex((n) => n === name.slice(0, -2) || n.startsWith(name.slice(0, -1)))
      : names.indexOf(name);
    if (last < 0 || last >= i) problems.push(`src/${folder} rests on ${name}, which does not stand above it`);
  }
});

const table = [
  START,
  '',
  '| folder | what | may import |',
  '| --- | --- | --- |',
  ...FOLDERS.map(({ folder, about, on }) => `| \`${folder}/\` | ${about} | ${on.map((n) => `\`${n}\``).join(', ') || 'nothing else'} |`),
  '',
  END,
].join('\n');
const docs = readFileSync(DOCS, 'utf8');
const [from, to] = [docs.indexOf(START), docs.indexOf(END) + END.length];
if (from < 0) problems.push(`${DOCS} has no place for the table of folders`);
else if (process.argv.includes('--write')) writeFileSync(DOCS, docs.slice(0, from) + table + docs.slice(to));
else if (docs.slice(from, to) !== table) problems.push(`the table in ${DOCS} is not that of boundaries.cjs: npm run boundaries -- --write`);

for (const problem of problems) console.error(problem);
if (!run('npx', ['depcruise', 'src', '--config', '.dependency-cruiser.cjs']) || problems.length > 0) process.exit(1);
