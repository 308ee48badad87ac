import type { z } from "zod";

/** Something wrong with an input, said in words, at the place where it is: `path` is an RFC 6901 JSON Pointer. */
export interface Problem {
  path: string;
  problem: string;
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
      return issue.keys.map((key) => ({ path: pointer([...path, key]), problem: `unknown key "${key}"` }));
    if (issue.code === "invalid_union") {
      const branch = meant(issue.errors);
      if (branch) return problemsOf(branch, path);
    }
    return [{ path: pointer(path), problem: words(issue) }];
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

function words(issue: Issue): string {
  switch (issue.code) {
    case "invalid_type":
      return issue.message.endsWith("received undefined") ? "is missing" : `must be ${named(issue.expected)}`;
    case "invalid_value":
      return `must be ${issue.values.map((value) => JSON.stringify(value)).join(" or ")}`;
    case "too_small":
      return issue.origin === "array"
        ? "must not be empty"
        : issue.origin === "string"
          ? "must not be empty"
          : `must be ${issue.inclusive ? "at least" : "above"} ${issue.minimum}`;
    case "too_big":
      return `must be at most ${issue.maximum}`;
    case "not_multiple_of":
      return `must be in steps of ${issue.divisor}`;
    default:
      return issue.message;
  }
}

const names: Record<string, string> = {
  string: "text",
  array: "a list",
  object: "an object",
  record: "an object",
  boolean: "true or false",
  int: "a whole number",
  number: "a number",
};
const named = (expected: string): string => names[expected] ?? expected;
