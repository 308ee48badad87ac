/** Text that can be kept: databases keep no NUL, and half a surrogate pair is no Unicode. */
import { t } from "../messages/t";
import { pointer } from "./problem";

const isStorable = (text: string): boolean => !text.includes("\0") && text.isWellFormed();

/** A text without what cannot be kept of it. */
export const storable = (text: string): string => text.replaceAll("\0", "").toWellFormed();

/** Where in a JSON value stands a text, or a key, that cannot be kept: a JSON Pointer; undefined: nowhere. */
export function unstorable(value: unknown, path: readonly PropertyKey[] = []): string | undefined {
  if (typeof value === "string") return isStorable(value) ? undefined : pointer(path);
  if (typeof value !== "object" || value === null || value instanceof Uint8Array) return undefined;
  for (const [key, inner] of Object.entries(value)) {
    const found = isStorable(key) ? unstorable(inner, [...path, key]) : pointer([...path, storable(key)]);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** What is wrong with it, in words. */
export const unstorableWords = (): string => t("has a sign that cannot be kept: NUL, or half of a pair of signs");
