import type { Visit } from "@/core/formats/visit";

/** What the editor of one part of the sentence is given. */
export interface PartProps {
  visit: Visit;
  setVisit: (visit: Visit) => void;
  close: () => void;
}

/** A visit without some of what is told of it. */
export function without<K extends keyof Visit>(visit: Visit, ...keys: K[]): Visit {
  const copy = { ...visit };
  for (const key of keys) delete copy[key];
  return copy;
}

/** A visit with one thing told, or not told if it is undefined. */
export const told = <K extends keyof Visit>(visit: Visit, key: K, value: Visit[K] | undefined): Visit =>
  value === undefined ? without(visit, key) : { ...visit, [key]: value };
