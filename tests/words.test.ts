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
      /\bstems?\b|\b(duplicate|copy|insert|repeat|right|damaged) behind\b|\bbehind the (last|part|loop|bar)/i.test(text),
    ),
  ).toEqual([]);
});
