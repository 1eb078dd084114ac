// Texts of the page that people read, one a line: `node tools/words.mjs` (see tools/words.py).
import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

const ts = createRequire(join(process.cwd(), "web/package.json"))("typescript");
const ROOT = "web/src";
// Attributes and fields whose strings are for machines.
const SILENT = /^(className|class|type|role|data-|d|viewBox|id|name|key|href|src|rel|accept|style|fill|stroke|points|transform|preserveAspectRatio|xmlns|autoComplete|kind|state|headClass|listClass|buttonClass)/;
const MACHINE = /^[\s\W\d]*$|^[a-z0-9_.:/[\]-]+$|^(M|#|var\(|--|\/)|^(Ctrl|Shift|Alt)\+|^Arrow|rounded|text-\[|border|flex |grid |bg-|absolute|cursor-|opacity-|px-\d|-translate|^\(.*\)$/;

const found = new Set();

function see(text) {
  const plain = text.replace(/\s+/g, " ").trim();
  if (plain.length > 1 && /[a-z]/i.test(plain) && !MACHINE.test(plain)) found.add(plain);
}

function silent(node) {
  for (let at = node.parent; at; at = at.parent) {
    if (ts.isJsxAttribute(at)) return SILENT.test(at.name.getText());
    if (ts.isPropertyAssignment(at) && ts.isStringLiteralLike(node) && at.initializer === node && SILENT.test(at.name.getText())) return true;
    if (ts.isImportDeclaration(at) || ts.isExportDeclaration(at) || ts.isLiteralTypeNode(at)) return true;
    if (ts.isCallExpression(at) && /console|getItem|setItem|querySelector|closest|test$/.test(at.expression.getText())) return true;
    if (ts.isJsxElement(at) || ts.isBlock(at)) return false;
  }
  return false;
}

function walk(node) {
  if (ts.isJsxText(node)) see(node.text);
  else if (ts.isStringLiteralLike(node) && !silent(node)) see(node.text);
  else if (ts.isTemplateExpression(node) && !silent(node))
    see(node.head.text + node.templateSpans.map((span) => `{}${span.literal.text}`).join(""));
  ts.forEachChild(node, walk);
}

function files(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((each) =>
    each.isDirectory() ? files(join(folder, each.name)) : /\.tsx?$/.test(each.name) ? [join(folder, each.name)] : [],
  );
}

for (const path of files(ROOT)) {
  if (path.endsWith("schema.ts")) continue;
  walk(ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.Latest, true, path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS));
}
process.stdout.write([...found].sort().join("\n"));
