/** Changes that were made and not answered yet, kept in the browser: a tab that is closed, or a browser that ends, loses nothing. */
import * as z from "zod";
import type { Edit } from "@/core/draft/edit";

export interface Unsent {
  /** The change's own name: sent twice it is made once. */
  name: string;
  says: string;
  edits: Edit[];
}
const schema = z.array(z.object({ name: z.string(), says: z.string(), edits: z.array(z.custom<Edit>()) }));

export interface UnsentChanges {
  read: () => Unsent[];
  /** @returns whether the browser keeps it */
  keep: (change: Unsent) => boolean;
  drop: (name: string) => void;
}

/** Of one person on one site: nobody else who uses this browser sends them. */
export function unsentChanges(site: string, person: string): UnsentChanges {
  const key = `mirada-unsent ${site} ${person}`;
  const read = (): Unsent[] => {
    try {
      return schema.parse(JSON.parse(window.localStorage.getItem(key) ?? "[]"));
    } catch {
      // A browser that keeps nothing, or something else under this name.
      return [];
    }
  };
  const write = (changes: readonly Unsent[]): boolean => {
    try {
      if (changes.length === 0) window.localStorage.removeItem(key);
      else window.localStorage.setItem(key, JSON.stringify(changes));
      return true;
    } catch {
      return false;
    }
  };
  return {
    read,
    keep: (change) => write([...read().filter((item) => item.name !== change.name), change]),
    drop: (name) => {
      const all = read();
      if (all.some((item) => item.name === name)) write(all.filter((item) => item.name !== name));
    },
  };
}
