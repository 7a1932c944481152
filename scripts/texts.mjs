// Lists every text of the source that somebody reads, with the places where it stands: `node scripts/texts.mjs` writes docs/texts.md.
// Class names, ids, paths and formats are left out by their shape.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import * as prettier from 'prettier';

const HIDDEN = /^(className|class|d|viewBox|id|role|type|key|fill|stroke|href|src|rel|htmlFor|name|value|style|transform)$/;
/** Words that stand on screen begin with a capital, or hold a blank; a class name is neither a sentence nor a label. */
const isShown = (text) =>
  /[A-Za-zÀ-ÿ]{2}/.test(text) &&
  !/[\u0000-\u001f]/.test(text) &&
  !/^use (client|strict)$/.test(text) &&
  !/^[a-z0-9_@./:#-]+$/.test(text) &&
  !/(^|\s)(flex|grid|rounded|absolute|relative|border|text-(sm|xs|base|lg|faint|ink|right|left|accent)|bg-|px-|py-|mt-|mb-|ml-|gap-|min-w|w-|h-|size-|items-|shrink|truncate|sr-only|hidden|inline|block|tabular)/.test(
    text,
  ) &&
  !/^[\w-]+(\s*[,>:~+[\]=*."'#()-]+\s*[\w-]+)*$|^\[|^use (client|strict)$|=>|\bvar\(--|^[MLAQ]\s?[\d.-]+|^nod-sway\//.test(
    text.includes(' ') ? '' : /^[A-Z][a-z]+$/.test(text) ? '' : text,
  );

/** Templates as they read, with a sign where values are put in. */
function written(node) {
  if (ts.isTemplateExpression(node)) return node.head.text + node.templateSpans.map((s) => `{}${s.literal.text}`).join('');
  return node.text;
}

export function textsOf(file) {
  const source = ts.createSourceFile(
    file,
    readFileSync(file, 'utf8'),
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found = [];
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (ts.isJsxAttribute(node) && HIDDEN.test(node.name.getText())) return;
    if (ts.isPropertyAssignment(node) && ts.isStringLiteral(node.name)) return visit(node.initializer);
    if (
      ts.isCallExpression(node) &&
      /^(import|require|querySelector|matches|closest|getContext)$/.test(node.expression.getText().split('.').pop())
    )
      return;
    const isText =
      ts.isStringLiteral(node) || ts.isJsxText(node) || ts.isNoSubstitutionTemplateLiteral(node) || ts.isTemplateExpression(node);
    if (isText) {
      const text = written(node).replace(/\s+/g, ' ').trim();
      if (isShown(text)) found.push({ text, line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1 });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

export const sources = () =>
  readdirSync('src', { recursive: true, encoding: 'utf8' })
    .filter((f) => /(?<!\.test)\.tsx?$/.test(f) && !/^(demo|api\/children|core\/synth)\//.test(f))
    .sort();

if (process.argv[1]?.endsWith('texts.mjs')) {
  const lines = [
    '# All texts',
    '',
    'Made by `node scripts/texts.mjs`: every text that somebody reads, by the file where it stands; `{}` stands for what is put in.',
    '',
  ];
  for (const file of sources()) {
    const own = [...new Set(textsOf(join('src', file)).map((t) => t.text))];
    if (own.length > 0) lines.push(`## ${file}`, '', ...own.map((text) => `- ${text.replace(/[<>|*_]/g, (c) => `\\${c}`)}`), '');
  }
  writeFileSync('docs/texts.md', await prettier.format(lines.join('\n'), { parser: 'markdown', proseWrap: 'preserve' }));
}
