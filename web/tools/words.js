/** Every word of the screens, by the file in which it stands; what is worked out there is an ellipsis.
 *
 *     node tools/words.js >> ../docs/sentences.md
 */
import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import ts from "typescript";

const SRC = join(import.meta.dirname, "..", "src");
/** Attributes that are no words for a reader. */
const NOT_READ =
  /^(class|className|id|key|d|viewBox|transform|to|href|src|type|role|name|htmlFor|rel|method|data-.*|points|fill|stroke.*|textAnchor|autoComplete|inputMode|preserveAspectRatio|aria-(current|live|busy|controls|describedby|labelledby|hidden|expanded|pressed|modal)|saidBy|spellCheck|enterKeyHint|popover.*|act|bench|slot|path|accept|target)$/;
/** Not a path, a selector, a key, an address or a stretch of a drawing. */
const PROGRAM = /^[#./[]|^[\w.-]+[:/]|[{}<>=_|;*]|::|^[MLHVCQz\d\s.,-]+$|^\w+-\w+$|^use [a-z]+$/;

const files = readdirSync(SRC, { recursive: true, withFileTypes: true })
  .filter((f) => f.isFile() && /\.tsx?$/.test(f.name) && !/\.test\.|test-setup/.test(f.name))
  .map((f) => join(f.parentPath, f.name))
  .filter((f) => !f.includes("generated"))
  .sort();

const tidy = (text) => text.replace(/\s+/g, " ").trim();
const isWords = (text) =>
  /[a-z]{2}/.test(text) &&
  !PROGRAM.test(text) &&
  (/[a-zA-Z] [a-zA-Z]/.test(text) || /^[A-Z][a-z]+/.test(text));

/** What stands in an element, in one line. */
function spoken(element) {
  return element.children
    .map((child) => {
      if (ts.isJsxText(child)) return child.text.replace(/\s*\n\s*/g, (gap) => (gap ? " " : ""));
      const inner = ts.isJsxExpression(child) ? child.expression : undefined;
      if (ts.isJsxExpression(child) && !inner) return "";
      return inner && ts.isStringLiteralLike(inner) ? inner.text : "…";
    })
    .join("");
}
const templated = (node) =>
  node.head.text + node.templateSpans.map((span) => `…${span.literal.text}`).join("");

function wordsOf(file) {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  const found = [];
  const take = (text) => {
    const line = tidy(text);
    if (/[A-Za-z]{2}/.test(line.replaceAll("…", ""))) found.push(line);
  };
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isExportDeclaration(node)) return;
    if (ts.isJsxAttribute(node) && NOT_READ.test(node.name.getText())) return;
    if (ts.isJsxElement(node) || ts.isJsxFragment(node)) {
      const text = node.children.some((c) => ts.isJsxText(c) && /[A-Za-z]{2}/.test(c.text));
      if (text) take(spoken(node));
    }
    if (ts.isJsxExpression(node) && node.expression && ts.isStringLiteralLike(node.expression)) return;
    if (ts.isStringLiteralLike(node)) {
      if (ts.isJsxAttribute(node.parent) ? /[a-z]{2}/.test(node.text) : isWords(node.text)) take(node.text);
    } else if (ts.isTemplateExpression(node) && isWords(templated(node).replaceAll("…", " "))) {
      take(templated(node));
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return [...new Set(found)];
}

console.log("\n## Words of the screens");
for (const file of files) {
  const words = wordsOf(file);
  if (words.length === 0) continue;
  console.log(`\n### ${relative(SRC, file).replace(/\.tsx?$/, "")}\n`);
  for (const line of words) console.log(`- ${line}`);
}
