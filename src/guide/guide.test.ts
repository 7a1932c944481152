import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { guidePages } from './guide-pages';

const FOLDER = join('docs', 'guide');
const files = readdirSync(FOLDER).filter((f) => f.endsWith('.md'));
const textOf = (file: string): string => readFileSync(join(FOLDER, file), 'utf8');
/** Keys and things of the sample world, which are no texts of the app. */
const NO_LABELS = /^(W|Q|Y|B|Z|Enter|Delete|Shift( I)?|Ctrl E|Gangway Strut|Low Tide|2 × 4\/4 at 92\.0|3:2)$/;

test('thirteen pages, each with a title, steps and its own anchor', () => {
  const pages = guidePages('.');
  expect(pages).toHaveLength(13);
  expect(new Set(pages.map((p) => p.id)).size).toBe(13);
  for (const { title, html } of pages) {
    expect(title.length).toBeGreaterThan(3);
    expect(html).toContain('<li>');
    expect(html).not.toMatch(/<img|href="\.\./);
  }
});

test('what the guide tells one to press is on screen under that name', () => {
  // Texts with what is put in, as {}.
  const texts = readFileSync(join('docs', 'texts.md'), 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('- '))
    .map((line) => line.slice(2).toLowerCase());
  const known = (label: string): boolean => {
    const wanted = label.replace(/ …$/, '').toLowerCase();
    return texts.some((text) => text === wanted || text.replace(/ …$|:$/, '') === wanted || text.startsWith(wanted));
  };
  const unknown = files.flatMap((file) =>
    [...textOf(file).matchAll(/\*\*([^*]+)\*\*/g)].flatMap(([, label]) =>
      NO_LABELS.test(label as string) || known(label as string) ? [] : [`${file}: ${label}`],
    ),
  );
  expect(unknown).toEqual([]);
});

test('its links and pictures are there', () => {
  for (const file of files)
    for (const [, href] of textOf(file).matchAll(/\]\(([^)]+)\)/g))
      expect([file, href, existsSync(join(FOLDER, dirname(file), href as string))]).toEqual([file, href, true]);
});
