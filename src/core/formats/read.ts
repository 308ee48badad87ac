import type { z } from "zod";
import { problemsOf, type Problem } from "./problem";

/** What reading an input gives: the value, or what is wrong with it. Errors are values: a user must see them. */
export type Read<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

/** How deep an input may be nested. Deeper ones are refused before anything walks them. */
const deepest = 120;

/**
 * A copy without keys that are null: null means left out. Kept are nulls in lists (they are refused later) and a
 * value of null under a `kept` key, which has a meaning of its own. Memory is opaque, and left as it is.
 * @throws RangeError if the input is nested too deeply.
 */
function dropNulls(value: unknown, kept: readonly string[], level = 0): unknown {
  if (typeof value !== "object" || value === null) return value;
  if (level > deepest) throw new RangeError("nested too deeply");
  if (Array.isArray(value)) return value.map((item) => dropNulls(item, kept, level + 1));
  const copy: Record<string, unknown> = {};
  for (const key of Object.keys(value)) {
    const inner = (value as Record<string, unknown>)[key];
    if (inner === undefined || (inner === null && !kept.includes(key))) continue;
    const made = key === "memory" ? inner : dropNulls(inner, kept, level + 1);
    if (key === "__proto__") Object.defineProperty(copy, key, { value: made, enumerable: true });
    else copy[key] = made;
  }
  return copy;
}

/** Reads an input by its schema, with null as left out, but for keys under which null means something. */
export function readBy<S extends z.ZodType>(
  schema: S,
  input: unknown,
  kept: readonly string[] = ["content"],
): Read<z.output<S>> {
  try {
    const result = schema.safeParse(dropNulls(input, kept));
    return result.success ? { ok: true, value: result.data } : { ok: false, problems: problemsOf(result.error.issues) };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { ok: false, problems: [{ path: "", problem: "is nested too deeply" }] };
  }
}
