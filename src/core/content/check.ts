import { t, text, type Words } from "../messages/t";
import { problemList, type Problem, type ProblemCode } from "../formats/problem";
import type { Content, FieldKind, Ruleset } from "../formats/ruleset";
import { signalInfo } from "../visit/signals";
import { parseIcu } from "./icu";
import { checkPagesOwn, isPagesOwn } from "./own";

const image = (value: unknown): boolean => {
  if (typeof value === "string") return true;
  if (typeof value !== "object" || value === null || Array.isArray(value)) return false;
  const parts = value as Record<string, unknown>;
  return (
    typeof parts.src === "string" &&
    Object.keys(parts).every((key) => (key === "src" || key === "alt") && typeof parts[key] === "string")
  );
};

const expected: Record<FieldKind, [fits: (value: unknown) => boolean, says: Words]> = {
  line: [(value) => typeof value === "string" && !/[\r\n]/.test(value), text("must be text of one line")],
  text: [(value) => typeof value === "string", text("must be text")],
  html: [(value) => typeof value === "string", text("must be text")],
  link: [(value) => typeof value === "string", text("must be an address as text")],
  image: [image, text("must be an address as text, or an object with src and alt")],
  number: [(value) => typeof value === "number" && Number.isFinite(value), text("must be a number")],
  flag: [(value) => typeof value === "boolean", text("must be true or false")],
};

/** Whether fields of a kind are texts with tokens in them. */
export const hasTokens = (kind: FieldKind): boolean =>
  kind === "line" || kind === "text" || kind === "html" || kind === "link";

/**
 * What is wrong with a block of content: its type, fields, messages and tokens.
 * @param own whether what the page itself has may be meant: not in pop-ups, and not in lists of several
 */
export function checkContent(
  content: Content,
  ruleset: Ruleset,
  base: readonly PropertyKey[],
  own: boolean,
): Problem[] {
  const { problems, report: at } = problemList();
  const report = (path: readonly PropertyKey[], code: ProblemCode, problem: string) =>
    at([...base, ...path], code, problem);
  for (const [name, token] of Object.entries(content.tokens))
    if (!signalInfo(token.signal, ruleset))
      report(["tokens", name, "signal"], "unknown-name", t('there is no signal "{signal}"', { signal: token.signal }));
  if (isPagesOwn(content)) {
    if (!own)
      report(
        ["type"],
        "not-here",
        t('"{type}" stands for what a page has in one place: it cannot be used here', { type: content.type }),
      );
    return [...problems, ...checkPagesOwn(content, base, messageProblem)];
  }
  const type = ruleset.blockTypes.find((item) => item.id === content.type);
  if (!type) {
    report(["type"], "unknown-name", t('there is no block type "{type}"', { type: content.type }));
    return problems;
  }
  for (const [id, value] of Object.entries(content.fields)) {
    const field = type.fields.find((item) => item.id === id);
    if (!field) report(["fields", id], "unknown-key", t('"{type}" has no field "{id}"', { type: type.name, id }));
    else {
      const [fits, words] = expected[field.kind];
      if (!fits(value)) report(["fields", id], "kind", t(words));
      else if (hasTokens(field.kind)) {
        const wrong = messageProblem(value as string);
        if (wrong) report(["fields", id], "form", wrong);
      }
    }
  }
  return problems;
}

/** What is wrong with an ICU message, if anything. */
export function messageProblem(message: string): string | undefined {
  if (!/[{}']/.test(message)) return undefined;
  try {
    parseIcu(message);
    return undefined;
  } catch (error) {
    const code = error instanceof Error ? error.message.toLowerCase().replaceAll("_", " ") : "";
    return t("has a { or } that is not understood as a token: {code}", { code });
  }
}
