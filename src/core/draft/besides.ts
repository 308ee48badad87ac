/**
 * Tells a value by what it shares with another one that is known: what is live beside a draft that differs from it in a sentence.
 * Objects are told by their keys, lists of things with ids by their ids, all else as it is.
 */
/** A value beside one that is known. */
export type Told =
  | { same: true }
  | { is: unknown }
  /** An object: its keys; those that are not among `but` are as they were. */
  | { keys: string[]; but: Record<string, Told> }
  /** A list of things: their ids in order; those that are not among `but` are as they were. */
  | { things: string[]; but: Record<string, Told> };

type Plain = Record<string, unknown>;
const isPlain = (value: unknown): value is Plain =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A list of things by their ids, each id once; undefined: it is none. */
function byId(value: unknown): Map<string, unknown> | undefined {
  if (!Array.isArray(value)) return undefined;
  const found = new Map(
    value.flatMap((item) => (isPlain(item) && typeof item.id === "string" ? [[item.id, item]] : [])),
  );
  return found.size === value.length ? found : undefined;
}

/** Only what is not the same: the rest is taken from what is known. */
const changed = (entries: Iterable<[string, unknown]>, known: (key: string) => unknown): Record<string, Told> =>
  Object.fromEntries(
    [...entries].flatMap(([key, value]) => {
      const told = besides(known(key), value);
      return "same" in told ? [] : [[key, told]];
    }),
  );

export function besides(known: unknown, value: unknown): Told {
  if (known === value) return { same: true };
  const [before, things] = [byId(known), byId(value)];
  if (before && things) {
    const but = changed(things, (id) => before.get(id));
    return sameOr({ things: [...things.keys()], but }, [...before.keys()]);
  }
  if (isPlain(known) && isPlain(value)) {
    const but = changed(Object.entries(value), (key) => own(known, key));
    return sameOr({ keys: Object.keys(value), but }, Object.keys(known));
  }
  if (Array.isArray(known) && Array.isArray(value) && known.length === value.length)
    if (value.every((item, index) => "same" in besides(known[index], item))) return { same: true };
  return { is: value };
}

/** Things have an order; keys have none: what was stored comes back with others. */
function sameOr(told: Extract<Told, { but: unknown }>, before: readonly string[]): Told {
  if (Object.keys(told.but).length > 0) return told;
  const [names, old] = "keys" in told ? [[...told.keys].sort(), [...before].sort()] : [told.things, before];
  return names.length === old.length && names.every((name, index) => name === old[index]) ? { same: true } : told;
}

const own = (of: Plain, key: string): unknown => (Object.hasOwn(of, key) ? of[key] : undefined);

/** The value that was told, from what is known. */
export function restored(known: unknown, told: Told): unknown {
  if ("same" in told) return known;
  if ("is" in told) return told.is;
  const part = (key: string, before: unknown) => {
    const item = own(told.but, key) as Told | undefined;
    return item ? restored(before, item) : before;
  };
  if ("things" in told) {
    const before = byId(known);
    return told.things.map((id) => part(id, before?.get(id)));
  }
  const before = isPlain(known) ? known : {};
  return Object.fromEntries(told.keys.map((key) => [key, part(key, own(before, key))]));
}
