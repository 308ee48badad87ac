/**
 * Edits of a draft are values: they can be applied, inverted and kept. Undo, redo, the audit trail and stale-save checks
 * come from them. A path goes by keys and, in lists of things that have one, by id: ["slots", "home-hero", "name"].
 */

export type Json = string | number | boolean | null | Json[] | { [key: string]: Json | undefined };
export type EditPath = readonly string[];
type Item = { id: string } & Record<string, unknown>;

export type Edit =
  /** Replaces what stands at a path; `before` is what must stand there now. Undefined is left out. */
  | { do: "set"; at: EditPath; before?: unknown; after?: unknown }
  | { do: "insert"; list: EditPath; index: number; item: Item }
  | { do: "remove"; list: EditPath; index: number; item: Item }
  | { do: "move"; list: EditPath; id: string; from: number; to: number };

export type Applied<T> = { ok: true; value: T } | { ok: false; problem: string; now?: unknown };

/** The edit that takes another back. */
export function invert(edit: Edit): Edit {
  switch (edit.do) {
    case "set":
      return { do: "set", at: edit.at, before: edit.after, after: edit.before };
    case "insert":
      return { ...edit, do: "remove" };
    case "remove":
      return { ...edit, do: "insert" };
    case "move":
      return { ...edit, from: edit.to, to: edit.from };
  }
}

/** The edits that take several back, last first. */
export const invertAll = (edits: readonly Edit[]): Edit[] => [...edits].reverse().map(invert);

/** Whether two JSON values are the same, whatever the order of their keys; null and left out are the same. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b || (a == null && b == null)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((item, index) => same(item, b[index]))
    );
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  return [...new Set([...Object.keys(left), ...Object.keys(right)])].every((key) => same(left[key], right[key]));
}

const isItems = (value: unknown): value is Item[] => Array.isArray(value);

/** Rebuilds a document with `change` applied at a path; nothing that the path does not touch is copied. */
function at(value: unknown, path: EditPath, change: (value: unknown) => unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return change(value);
  if (isItems(value)) {
    const index = value.findIndex((item) => item.id === key);
    if (index < 0) throw new Gone(key);
    return value.map((item, i) => (i === index ? at(item, rest, change) : item));
  }
  if (typeof value !== "object" || value === null) throw new Gone(key);
  const inner = at((value as Record<string, unknown>)[key], rest, change);
  const copy = { ...(value as Record<string, unknown>) };
  if (inner === undefined) delete copy[key];
  else copy[key] = inner;
  return copy;
}

class Gone extends Error {}

/** Applies edits to a document, all or none. A stale one is refused with what stands there now. */
export function applyEdits<T>(document: T, edits: readonly Edit[]): Applied<T> {
  let value: unknown = document;
  let refusal: { problem: string; now?: unknown } | undefined;
  const stale = (problem: string, now?: unknown): void => {
    refusal ??= { problem, now };
  };
  try {
    for (const edit of edits) {
      if (edit.do === "set")
        value = at(value, edit.at, (found) => {
          if (!same(found, edit.before)) stale("this was changed by someone else meanwhile", found);
          return edit.after;
        });
      else
        value = at(value, edit.list, (found) => {
          const list = isItems(found) ? [...found] : [];
          if (edit.do === "insert") {
            if (list.some((item) => item.id === edit.item.id)) stale(`there is another "${edit.item.id}" already`);
            list.splice(Math.min(edit.index, list.length), 0, edit.item);
          } else {
            const id = edit.do === "remove" ? edit.item.id : edit.id;
            const index = list.findIndex((item) => item.id === id);
            if (index < 0) stale("this was deleted by someone else meanwhile");
            else if (edit.do === "remove" && !same(list[index], edit.item))
              stale("this was changed by someone else meanwhile", list[index]);
            const [item] = list.splice(index, 1);
            if (edit.do === "move" && item) list.splice(Math.min(edit.to, list.length), 0, item);
          }
          return list;
        });
      if (refusal) return { ok: false, ...refusal };
    }
    return { ok: true, value: value as T };
  } catch (error) {
    if (error instanceof Gone) return { ok: false, problem: "this was deleted by someone else meanwhile" };
    throw error;
  }
}
