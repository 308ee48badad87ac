/** Labels and messages are in plain English and the trade's terms: what was said otherwise before does not come back. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { expect, it } from "vitest";

/** What is not said, and what is said instead. */
const retired: readonly (readonly [RegExp, instead: string])[] = [
  [/\bwhoever\b/i, "anyone who, or the visitor"],
  [/\b(some|no|any|every)body\b/i, "no visitor, a visitor, everyone"],
  [/\b(put|puts|putting) (it |the draft )?live\b/i, "publish"],
  [/\blook(s|ing)? through\b/i, "view as this visitor"],
  [/\ball the same\b/i, "anyway"],
  [/\bparted by\b/i, "separate with"],
  [/\b(read|reads|taken?) in\b(?! (an?|the|this|what|any|it|both|its))/i, "import"],
  [/\bfor good\b/i, "permanent"],
  [/\bnot now\b|\bnot yet\b(?= …|$)/i, "cancel"],
  [/\blet (it )?go\b/i, "remove, resume"],
  [/\bat hand\b/i, "current"],
  [/\bkept away\b/i, "because"],
];

/** The texts that people read, of a file: what stands between tags, and texts with a space in them. */
function textsOf(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  const out: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isJsxText(node)) out.push(node.text.replace(/\s+/g, " ").trim());
    else if (ts.isStringLiteralLike(node) || ts.isTemplateExpression(node)) {
      const own = node.getText().slice(1, -1).replace(/\s+/g, " ");
      if (/^[A-Z“]/.test(own) && own.includes(" ")) out.push(own);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out.filter((text) => text !== "");
}

const files = readdirSync("src/workbench", { recursive: true, encoding: "utf8" })
  .filter((name) => name.endsWith(".tsx") && !name.endsWith(".test.tsx"))
  .map((name) => join("src/workbench", name));

it("no label or message says what is said otherwise now", () => {
  const texts = files.flatMap((file) => textsOf(file).map((text) => ({ file, text })));
  expect(texts.length).toBeGreaterThan(1000);
  const found = texts.flatMap(({ file, text }) =>
    retired.flatMap(([pattern, instead]) => (pattern.test(text) ? [`${file}: “${text}” (better: ${instead})`] : [])),
  );
  expect(found).toEqual([]);
});

it("finds them where they stand", () => {
  expect(
    retired.filter(([pattern]) => pattern.test("Whoever has the link looks through it all the same")),
  ).toHaveLength(3);
});
