import { unaccented } from "./fold";

/**
 * The one of what is offered that a typed text means: the one whose name it is; else the only one whose name begins with it, first by
 * whole words (`Porto` is “Porto, Portugal” beside “Portofino, Italy”), then by letters. Case and accents do not count. Undefined if
 * there is none, or several.
 */
export function meantBy<T>(text: string, offered: readonly T[], nameOf: (one: T) => string): T | undefined {
  const wanted = unaccented(text.trim());
  if (wanted === "") return undefined;
  const found = offered
    .map((one) => ({ one, name: unaccented(nameOf(one)) }))
    .filter(({ name }) => name.startsWith(wanted));
  const alone = (list: typeof found) => (list.length === 1 ? list[0]?.one : undefined);
  return (
    found.find(({ name }) => name === wanted)?.one ??
    alone(found.filter(({ name }) => !/^\p{L}/u.test(name.slice(wanted.length)))) ??
    alone(found)
  );
}
