import { t } from "../messages/t";
import type { z } from "zod";
import { problemsOf, type Problem } from "./problem";

/** What reading an input gives: the value, or what is wrong with it. Errors are values: a user must see them. */
export type Read<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

/** How deep an input may be nested. Deeper ones are refused before anything walks them. */
const deepest = 120;

/** Sets a key as an own one, whatever its name. */
export function put<T>(copy: Record<string, T>, key: string, value: T): void {
  if (key === "__proto__")
    Object.defineProperty(copy, key, { value, enumerable: true, configurable: true, writable: true });
  else copy[key] = value;
}

/**
 * The input without keys that are null: null means left out. What has none stays itself, the rest is copied. Kept are nulls in lists (they are refused later) and a
 * value of null under a `kept` key, which has a meaning of its own. Memory is opaque, and left as it is.
 * @throws RangeError if the input is nested too deeply.
 */
function dropNulls(value: unknown, kept: readonly string[], level = 0): unknown {
  if (typeof value !== "object" || value === null) return value;
  if (level > deepest) throw new RangeError("nested too deeply");
  if (Array.isArray(value)) {
    let list: unknown[] | undefined;
    for (const [index, item] of (value as unknown[]).entries()) {
      const made = dropNulls(item, kept, level + 1);
      if (made !== item) (list ??= [...(value as unknown[])])[index] = made;
    }
    return list ?? value;
  }
  const from = value as Record<string, unknown>;
  const keys = Object.keys(from);
  let copy: Record<string, unknown> | undefined;
  for (const [index, key] of keys.entries()) {
    const inner = from[key];
    const leave = inner === undefined || (inner === null && !kept.includes(key));
    const made = leave || key === "memory" ? inner : dropNulls(inner, kept, level + 1);
    if (!copy && (leave || made !== inner)) {
      copy = {};
      for (const before of keys.slice(0, index)) put(copy, before, from[before]);
    }
    if (copy && !leave) put(copy, key, made);
  }
  return copy ?? value;
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
    return { ok: false, problems: [{ path: "", code: "size", problem: t("is nested too deeply") }] };
  }
}
