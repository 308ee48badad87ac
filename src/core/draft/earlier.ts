import type { Content } from "../formats/ruleset";
import { applyEdits, invert, same, type Edit, type EditPath } from "./edit";

/** A change of the draft as it was kept, with its instant (RFC 3339). */
export interface KeptChange {
  at: string;
  says: string;
  edits: readonly Edit[];
}
/** A text as it once was. */
export interface EarlierContent {
  /** Until when it stood. */
  until: string;
  /** The change that ended it. */
  before: string;
  content: Content;
}

const startsWith = (path: EditPath, head: EditPath): boolean => head.every((key, index) => path[index] === key);

/** What stands in a value further along a path: by keys, in lists by id. */
function follow(value: unknown, path: EditPath): unknown {
  return path.reduce<unknown>((found, key) => {
    if (Array.isArray(found)) return found.find((item) => (item as { id?: unknown }).id === key);
    return typeof found === "object" && found !== null ? (found as Record<string, unknown>)[key] : undefined;
  }, value);
}

/**
 * The blocks that stood at a path before, newest first, found by taking changes back one after the other.
 * @param changes newest first; undone ones left out
 */
export function earlierContents(now: Content | null, path: EditPath, changes: readonly KeptChange[]): EarlierContent[] {
  const out: EarlierContent[] = [];
  let value: unknown = now;
  let last = value;
  for (const change of changes) {
    let touched = false;
    for (const edit of [...change.edits].reverse()) {
      if (edit.do !== "set") {
        // Before it was put in there was nothing.
        if (edit.do === "insert" && startsWith(path, [...edit.list, edit.item.id])) return out;
        continue;
      }
      if (startsWith(edit.at, path)) {
        const back = invert({ ...edit, at: ["value", ...edit.at.slice(path.length)] });
        const applied = applyEdits({ value }, [back]);
        if (!applied.ok) return out;
        value = (applied.value as { value: unknown }).value;
        touched = true;
      } else if (startsWith(path, edit.at)) {
        value = follow(edit.before, path.slice(edit.at.length));
        touched = true;
      }
    }
    if (!touched || same(value, last)) continue;
    last = value;
    if (value && !same(value, now)) out.push({ until: change.at, before: change.says, content: value as Content });
  }
  return out;
}
