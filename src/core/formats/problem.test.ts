/** Problems: their place by RFC 6901, a code that stays, and words to be read after the value's name. */
import * as z from "zod";
import { describe, expect, it } from "vitest";
import { pointer, problemsOf } from "./problem";

describe("a JSON Pointer", () => {
  it("is written by RFC 6901, section 5", () => {
    // The examples of that section, as far as they are no whole document.
    expect([["foo"], ["foo", 0], [""], ["a/b"], ["m~n"]].map(pointer)).toEqual([
      "/foo",
      "/foo/0",
      "/",
      "/a~1b",
      "/m~0n",
    ]);
    expect(pointer([])).toBe("");
  });
});

describe("a problem that a schema found", () => {
  const schema = z.strictObject({
    name: z.string().min(1).max(3).optional(),
    count: z.number().int().min(2).max(4).multipleOf(2).optional(),
    kind: z.enum(["page", "click"]).optional(),
    list: z.array(z.string()).min(1).max(2).optional(),
    path: z.string().regex(/^\//, "must begin with /").optional(),
    until: z
      .string()
      .refine((text) => text > "m", { message: "must be later", params: { code: "order" } })
      .optional(),
    odd: z
      .string()
      .refine(() => false, { message: "is odd", params: { code: "no code of ours" } })
      .optional(),
    or: z.union([z.strictObject({ a: z.number() }), z.strictObject({ b: z.string() })]).optional(),
  });
  it.each([
    [{ name: "" }, "/name", "empty", "must not be empty"],
    [{ name: "long" }, "/name", "size", "must be at most 3"],
    [{ name: 7 }, "/name", "kind", "must be text"],
    [{ count: "7" }, "/count", "kind", "must be a number"],
    [{ count: 0 }, "/count", "range", "must be at least 2"],
    [{ count: 6 }, "/count", "range", "must be at most 4"],
    [{ count: 3 }, "/count", "range", "must be in steps of 2"],
    [{ kind: "form" }, "/kind", "choice", 'must be "page" or "click"'],
    [{ list: [] }, "/list", "empty", "must not be empty"],
    [{ list: ["a", "b", "c"] }, "/list", "size", "must be at most 2"],
    [{ path: "x" }, "/path", "form", "must begin with /"],
    [{ until: "a" }, "/until", "order", "must be later"],
    [{ odd: "a" }, "/odd", "form", "is odd"],
    [{ colour: 1 }, "/colour", "unknown-key", 'unknown key "colour"'],
    [{ or: { a: "1" } }, "/or/a", "kind", "must be a number"],
    [{ or: {} }, "/or/a", "missing", "is missing"],
  ])("%j", (input, path, code, problem) => {
    const read = schema.safeParse(input);
    expect(read.success ? [] : problemsOf(read.error.issues)).toEqual([{ path, code, problem }]);
  });
});
