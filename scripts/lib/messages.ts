import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";

/** Names by which a message is said or marked (src/core/messages, src/workbench/parts/rich). */
const sayers = new Set(["t", "text", "message", "rich"]);

function* sources(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else if (/\.tsx?$/.test(entry.name) && !/\.(test|d)\.tsx?$|testing\.tsx?$/.test(entry.name)) yield path;
  }
}

/** The texts that an expression may come out as, where all of them are written out; undefined where not. */
function written(node: ts.Expression): string[] | undefined {
  if (ts.isStringLiteralLike(node)) return [node.text];
  if (ts.isParenthesizedExpression(node)) return written(node.expression);
  if (!ts.isConditionalExpression(node)) return undefined;
  const [yes, no] = [written(node.whenTrue), written(node.whenFalse)];
  return yes && no && [...yes, ...no];
}

/**
 * Every message of the code under a folder, with the files that say it.
 * @param unwritten is told of each call whose message is neither written out nor a value of a table
 */
export function messagesIn(
  folder: string,
  unwritten: (where: string) => void = () => undefined,
): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const path of sources(folder)) {
    const code = readFileSync(path, "utf8");
    if (!/from "[^"]*\/(t|rich)"/.test(code)) continue;
    const file = ts.createSourceFile(path, code, ts.ScriptTarget.Latest, true);
    const visit = (node: ts.Node): void => {
      if (ts.isCallExpression(node) && ts.isIdentifier(node.expression) && sayers.has(node.expression.text)) {
        const [said] = node.arguments;
        const texts = said && written(said);
        if (texts) for (const text of texts) found.set(text, [...(found.get(text) ?? []), path]);
        else if (said && (ts.isTemplateExpression(said) || ts.isBinaryExpression(said)))
          unwritten(`${path}: ${node.getText().slice(0, 80)}`);
      }
      ts.forEachChild(node, visit);
    };
    visit(file);
  }
  return found;
}
