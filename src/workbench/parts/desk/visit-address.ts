import { parseInstant } from "@/core/formats/visit";

/** A lens's visit as an address has it: on the page and at the time that stand there, if they do. */
export function visitOfAddress<V extends { at: string; url: string }>(
  visit: V,
  query: { get: (name: string) => string | null },
): V {
  const [page, at] = [query.get("page"), query.get("at")];
  const { origin } = new URL(visit.url);
  return {
    ...visit,
    ...(page?.startsWith("/") && !page.startsWith("//") && URL.canParse(page, origin)
      ? { url: new URL(page, origin).href }
      : {}),
    ...(at && parseInstant(at) !== undefined ? { at } : {}),
  };
}
