/**
 * Edits of a draft are values: they can be applied, inverted and kept. Undo, redo, the audit trail and stale-save checks
 * come from them. A path goes by keys and, in lists of things that have one, by id: ["slots", "home-hero", "name"].
 */
import { t } from "../messages/t";

export type Json = string | number | boolean | null | Json[] | { [key: string]: Json | undefined };
export type EditPath = readonly string[];
type Item = { id: string } & Record<string, unknown>;

export type Edit =
  /** Replaces what stands at a path; `before` is what must stand there now. Undefined is left out. */
  | { do: "set"; at: EditPath; before?: unknown; after?: unknown }
  | { do: "insert"; list: EditPath; index: number; item: Item }
  | { do: "remove"; list: EditPath; index: number; item: Item }
  | { do: "move"; list: EditPath; id: string; from: number; to: number };

/** A refusal says which edit could not be made, by its number, and what stands at its place now. */
export type Applied<T> = { ok: true; value: T } | { ok: false; problem: string; edit?: number; now?: unknown };

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

/** `now` with every part that is the same in `before` replaced by the very one of `before`: who watches parts sees only changes. */
export function keepSame<T>(before: T, now: T): T {
  if (Object.is(before, now)) return before;
  if (typeof before !== "object" || typeof now !== "object" || before === null || now === null) return now;
  if (same(before, now)) return before;
  if (Array.isArray(before) && Array.isArray(now)) {
    const byId = new Map(before.map((item: unknown, index) => [idOf(item) ?? index, item]));
    return now.map((item: unknown, index) => {
      const old = byId.get(idOf(item) ?? index);
      return old === undefined ? item : keepSame(old, item);
    }) as T;
  }
  if (Array.isArray(before) || Array.isArray(now)) return now;
  const old = before as Record<string, unknown>;
  return Object.fromEntries(Object.entries(now).map(([key, value]) => [key, keepSame(old[key], value)])) as T;
}
const idOf = (item: unknown): unknown =>
  typeof item === "object" && item !== null ? (item as { id?: unknown }).id : undefined;

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

/** What stands at a path of a document; undefined: nothing does. */
export function valueAt(document: unknown, path: EditPath): unknown {
  let here = document;
  for (const key of path)
    here = isItems(here)
      ? here.find((item) => item.id === key)
      : typeof here === "object" && here !== null
        ? (here as Record<string, unknown>)[key]
        : undefined;
  return here;
}

class Gone extends Error {}

/** Applies edits to a document, all or none. A stale one is refused with what stands there now. */
export function applyEdits<T>(document: T, edits: readonly Edit[]): Applied<T> {
  let value: unknown = document;
  let refusal: { problem: string; edit: number; now?: unknown } | undefined;
  let number = 0;
  const stale = (problem: string, now?: unknown): void => {
    refusal ??= { problem, edit: number, now };
  };
  try {
    for (const edit of edits) {
      if (edit.do === "set")
        value = at(value, edit.at, (found) => {
          if (!same(found, edit.before)) stale(t("this was changed by someone else meanwhile"), found);
          return edit.after;
        });
      else
        value = at(value, edit.list, (found) => {
          const list = isItems(found) ? [...found] : [];
          if (edit.do === "insert") {
            if (list.some((item) => item.id === edit.item.id))
              stale(t('there is another "{id}" already', { id: edit.item.id }));
            list.splice(Math.min(edit.index, list.length), 0, edit.item);
          } else {
            const id = edit.do === "remove" ? edit.item.id : edit.id;
            const index = list.findIndex((item) => item.id === id);
            if (index < 0) stale(t("this was deleted by someone else meanwhile"));
            else if (edit.do === "remove" && !same(list[index], edit.item))
              stale(t("this was changed by someone else meanwhile"), list[index]);
            const [item] = list.splice(index, 1);
            if (edit.do === "move" && item) list.splice(Math.min(edit.to, list.length), 0, item);
          }
          return list;
        });
      if (refusal) return { ok: false, ...refusal };
      number += 1;
    }
    return { ok: true, value: value as T };
  } catch (error) {
    if (error instanceof Gone)
      return { ok: false, problem: t("this was deleted by someone else meanwhile"), edit: number };
    throw error;
  }
}

/**
 * Edits as they come out once the document was read: reading may put into what was inserted or set what everything of its kind has.
 * @param before the document that they were made of; @param read what became of it
 * @returns edits that lead from the one to the other and back; undefined: these edits alone do not
 */
export function asRead(edits: readonly Edit[], before: unknown, read: unknown): Edit[] | undefined {
  const leads = (tried: readonly Edit[]): boolean => {
    const there = applyEdits(before, tried);
    return there.ok && same(there.value, read);
  };
  if (leads(edits)) return [...edits];
  const anew = edits.map((edit): Edit => {
    if (edit.do === "set") return { ...edit, after: valueAt(read, edit.at) };
    const item = edit.do === "insert" ? valueAt(read, [...edit.list, edit.item.id]) : undefined;
    return edit.do === "insert" && item !== undefined ? { ...edit, item: item as Item } : edit;
  });
  return leads(anew) && applyEdits(read, invertAll(anew)).ok ? anew : undefined;
}
