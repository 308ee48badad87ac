/** Finding values in linked data (JSON-LD 1.1, schema.org) without a processor: by type, then by names. */

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null;
const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : [value]);
const isOf = (node: Record<string, unknown>, type: string): boolean =>
  listOf(node["@type"]).some(
    (name) => typeof name === "string" && (name === type || /[/:#]([^/:#]*)$/.exec(name)?.[1] === type),
  );
const deepest = 8;

/** The first node of a type, the outermost first. */
function nodeOf(type: string, value: unknown): unknown {
  let level = listOf(value);
  for (let depth = 0; depth < deepest && level.length > 0; depth++) {
    const objects = level.filter(isObject);
    const found = objects.find((node) => isOf(node, type));
    if (found) return found;
    level = objects.flatMap((node) => Object.values(node).flatMap(listOf)).slice(0, 2000);
  }
  return undefined;
}

/**
 * What a way of names leads to: of a list the first, or by a number (-1 is the last). Entries of a list that have a `position`
 * (schema.org, ListItem) are taken in its order.
 */
export function follow(value: unknown, names: readonly string[]): unknown {
  let at = value;
  for (const name of names) {
    if (Array.isArray(at)) {
      const place = (item: unknown) => Number((isObject(item) && item.position) || 0);
      const items = [...(at as unknown[])].sort((a, b) => place(a) - place(b));
      if (/^-?\d+$/.test(name)) {
        at = items.at(Number(name));
        continue;
      }
      [at] = items;
    }
    at = isObject(at) ? at[name] : undefined;
  }
  return at;
}

/** The value of a way such as `Product.offers.price` in a page's linked data. */
export function inJsonLd(documents: readonly unknown[], way: string): unknown {
  const [type = "", ...names] = way.split(".");
  return follow(nodeOf(type, documents), names);
}
