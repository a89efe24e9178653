// Places of the page's code that can be changed by one step, for mutants.py: `node page_mutants.mjs FILE …` writes a
// line of JSON for each, with where the change goes and what stands there then.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { resolve } from "node:path";

const ts = createRequire(resolve("web/package.json"))("typescript");

const SWAPS = {
  "<": "<=", "<=": "<", ">": ">=", ">=": ">", "===": "!==", "!==": "===",
  "&&": "||", "||": "&&", "??": "&&", "+": "-", "-": "+", "*": "/", "/": "*", "%": "*",
};

function* changes(node, source) {
  const text = (one) => one.getText(source);
  const place = (one, put) => ({ start: one.getStart(source), end: one.getEnd(), put });
  if (ts.isBinaryExpression(node) && SWAPS[text(node.operatorToken)])
    yield [node, place(node.operatorToken, SWAPS[text(node.operatorToken)])];
  if (ts.isIfStatement(node)) yield [node.expression, place(node.expression, `!(${text(node.expression)})`)];
  if (ts.isConditionalExpression(node)) yield [node.condition, place(node.condition, `!(${text(node.condition)})`)];
  if (ts.isNumericLiteral(node) && Number.isInteger(Number(node.text)) && !ts.isLiteralTypeNode(node.parent))
    yield [node.parent, place(node, `${Number(node.text) + 1}`)];
  if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
    yield [node, place(node, text(node.operand))];
}

for (const path of process.argv.slice(2)) {
  const content = readFileSync(path, "utf8");
  const source = ts.createSourceFile(path, content, ts.ScriptTarget.Latest, true);
  const walk = (node) => {
    if (ts.isTypeNode(node)) return;
    // how large an icon is shows in no test
    if (ts.isJsxAttribute(node) && node.initializer?.expression && ts.isNumericLiteral(node.initializer.expression)) return;
    for (const [about, { start, end, put }] of changes(node, source)) {
      const from = about.getStart(source);
      const before = content.slice(from, about.getEnd());
      const after = content.slice(from, start) + put + content.slice(end, about.getEnd());
      const line = source.getLineAndCharacterOfPosition(start).line + 1;
      console.log(JSON.stringify({ path, line, start, end, put, what: `${before}  →  ${after}` }));
    }
    ts.forEachChild(node, walk);
  };
  walk(source);
}
