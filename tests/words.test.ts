import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

/** What stands on the screen, as far as the source tells: texts of more than one word. */
function textsOf(file: string): string[] {
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    const isText =
      (ts.isStringLiteral(node) && !ts.isImportDeclaration(node.parent)) ||
      ts.isJsxText(node) ||
      ts.isNoSubstitutionTemplateLiteral(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddle(node) ||
      ts.isTemplateTail(node);
    if (isText && /\S\s+\S/.test((node as ts.LiteralLikeNode).text))
      found.push((node as ts.LiteralLikeNode).text.replace(/\s+/g, ' ').trim());
    ts.forEachChild(node, visit);
  };
  visit(
    ts.createSourceFile(
      file,
      readFileSync(file, 'utf8'),
      ts.ScriptTarget.Latest,
      true,
      file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
    ),
  );
  return found;
}

const sources = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter((f) => /(?<!\.test)\.tsx?$/.test(f));

test('no text says by a replaced word what has another: a hit is no stem, which is an audio file; what comes later comes after', () => {
  const texts = sources.flatMap((f) => textsOf(join('src', f)).map((text) => ({ f, text })));
  expect(texts.length).toBeGreaterThan(2000);
  expect(
    texts.filter(({ text }) =>
      /\bstems?\b(?! \(one file per row\))|\b(duplicate|copy|insert|repeat|right|damaged) behind\b|\bbehind the (last|part|loop|bar)/i.test(
        text,
      ),
    ),
  ).toEqual([]);
});

/** Phrases that read as translated, or say by other words what the trade has a term for. */
const GONE: readonly RegExp[] = [
  /come round over a length|comes round|in its midst|it always is by itself|the recording beside|it goes by the|let go to bring/i,
  /is laid over the start|what lies within|leaving the last|on every \d+ (st|nd|rd|th)|% mixed|even over|sparing strong beats/i,
  /leave for (another|other) instruments?|leave under it|the feel’s'|lean on the line on average|\bdraw (again|others)\b|drawn anew/i,
  /\b(one|none) of ours\b(?! and finished)|\bmends?\b|\bdoubtful\b|\bwhole feels?\b|two hands'|put over\b|bring in \b/i,
  /\bkey maps?\b(?!$)|give many midi files|keep it as a part|make a copy of (it|mine)|another name\b|ended by rows|tuned by/i,
];

test('phrases that the word list rules out are gone from every text', () => {
  const kept = sources
    .filter((f) => !/^(core\/smf|api|formats|storage|demo)\//.test(f))
    .flatMap((f) => textsOf(join('src', f)).map((text) => ({ f, text })));
  expect(kept.filter(({ text }) => GONE.some((phrase) => phrase.test(text)))).toEqual([]);
});

test('a preview is accepted by “Apply” and discarded by “Cancel”, at every place that offers one', () => {
  for (const file of ['bench/shared/TrialButtons.tsx', 'bench/chrome/Toolbar.tsx']) {
    const texts = readFileSync(join('src', file), 'utf8');
    expect(texts).toMatch(/>\s*Apply\s*</);
    expect(texts).toMatch(/>\s*Cancel\s*</);
    expect(texts).not.toMatch(/>\s*(Keep( it)?|Put (it )?back)\s*</);
  }
});
