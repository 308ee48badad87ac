import { said, t, text } from "../messages/t";
import type { z } from "zod";

/**
 * What kind of thing is wrong. Codes stay what they are, so that programs and tests lean on them; the words beside them may
 * become better.
 */
export const problemCodes = [
  /** Something that is needed is not there. */
  "missing",
  /** A text, list or group has nothing in it. */
  "empty",
  /** A value of another kind: a text for a number. */
  "kind",
  /** None of the values that may stand there. */
  "choice",
  /** A number, amount or degree beyond its bounds, or between its steps. */
  "range",
  /** Longer, deeper, larger or more than is taken. */
  "size",
  /** A key, field or column that is not known. */
  "unknown-key",
  /** A name that stands for nothing: there is no such audience. */
  "unknown-name",
  /** A second one of what there is one of. */
  "twice",
  /** A text that is not of the form that is asked for: no date, no selector, no message. */
  "form",
  /** Two values of which the one must come before the other. */
  "order",
  /** Parts that do not add up. */
  "sum",
  /** Something that leads back to itself. */
  "circle",
  /** What is right elsewhere and has no place here. */
  "not-here",
  /** A file that is not what it says, is damaged, or is written in other letters than UTF-8. */
  "file",
  /** What is read and left out, because there is nothing here that it could become. */
  "left-out",
] as const;
export type ProblemCode = (typeof problemCodes)[number];

/** Something wrong with a value: its code, and what it is in words, to be read after the name of the value. */
export interface Fault {
  code: ProblemCode;
  problem: string;
}

/** Something wrong with an input, at the place where it is: `path` is an RFC 6901 JSON Pointer, in tables the line and column. */
export interface Problem extends Fault {
  path: string;
}

/** Says what is wrong at a path. */
export type Report = (path: readonly PropertyKey[], code: ProblemCode, problem: string) => void;

/** A list of problems, and what puts one into it. */
export function problemList(): { problems: Problem[]; report: Report } {
  const problems: Problem[] = [];
  return { problems, report: (path, code, problem) => void problems.push({ path: pointer(path), code, problem }) };
}

/** The JSON Pointer (RFC 6901) of a path; the whole document is "". */
export const pointer = (path: readonly PropertyKey[]): string =>
  path.map((part) => `/${String(part).replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");

type Issue = z.core.$ZodIssue;

/** The problems that Zod found, each at its own path; of a union, only those of the branch that was meant. */
export function problemsOf(issues: readonly Issue[], base: readonly PropertyKey[] = []): Problem[] {
  return issues.flatMap((issue) => {
    const path = [...base, ...issue.path];
    if (issue.code === "unrecognized_keys")
      return issue.keys.map((key) => ({
        path: pointer([...path, key]),
        code: "unknown-key",
        problem: t('unknown key "{key}"', { key }),
      }));
    if (issue.code === "invalid_union") {
      const branch = meant(issue.errors);
      if (branch) return problemsOf(branch, path);
    }
    return [{ path: pointer(path), ...faultOf(issue) }];
  });
}

const depth = (issues: readonly Issue[]): number =>
  Math.max(0, ...issues.map((issue) => issue.path.length + (issue.code === "unrecognized_keys" ? 0 : 0.5)));

function meant(branches: readonly (readonly Issue[])[]): readonly Issue[] | undefined {
  const rated = branches.map((issues) => ({
    issues,
    foreign: issues.some((issue) => issue.code === "unrecognized_keys" && issue.path.length === 0) ? 1 : 0,
    wrongType: issues.some((issue) => issue.code === "invalid_type" && issue.path.length === 0) ? 1 : 0,
  }));
  rated.sort(
    (a, b) =>
      a.wrongType - b.wrongType ||
      a.foreign - b.foreign ||
      a.issues.length - b.issues.length ||
      depth(b.issues) - depth(a.issues),
  );
  return rated[0]?.issues;
}

function faultOf(issue: Issue): Fault {
  switch (issue.code) {
    case "invalid_type":
      return issue.message.endsWith("received undefined")
        ? { code: "missing", problem: t("is missing") }
        : { code: "kind", problem: t("must be {expected}", { expected: named(issue.expected) }) };
    case "invalid_value":
      return {
        code: "choice",
        problem: t("must be {values}", {
          values: issue.values.map((value) => JSON.stringify(value)).join(` ${t("or")} `),
        }),
      };
    case "too_small":
      return issue.origin === "array" || issue.origin === "string"
        ? { code: "empty", problem: t("must not be empty") }
        : {
            code: "range",
            problem: t("must be {inclusive} {minimum}", {
              inclusive: issue.inclusive ? t("at least") : t("above"),
              minimum: String(issue.minimum),
            }),
          };
    case "too_big":
      return {
        code: issue.origin === "array" || issue.origin === "string" ? "size" : "range",
        problem: t("must be at most {maximum}", { maximum: String(issue.maximum) }),
      };
    case "not_multiple_of":
      return { code: "range", problem: t("must be in steps of {divisor}", { divisor: issue.divisor }) };
    case "custom":
      return { code: codeIn(issue.params) ?? "form", problem: issue.message };
    default:
      return { code: "form", problem: issue.message };
  }
}

/** The code that a check of our own gave with its words (`params: { code }`). */
const codeIn = (params: Record<string, unknown> | undefined): ProblemCode | undefined =>
  problemCodes.find((code) => code === params?.code);

const names: Record<string, string> = said({
  string: text("text"),
  array: text("a list"),
  object: text("an object"),
  record: text("an object"),
  boolean: text("true or false"),
  int: text("a whole number"),
  number: text("a number"),
});
const named = (expected: string): string => names[expected] ?? expected;
