/** Pages, with what is told of them. */
import { isUrl } from "../../text/is-url";
import type { Condition } from "../../formats/rule";
import type { Domain, Facet, Setting } from "../facet";
import type { KnownPage } from "../made-visit";
import { textCandidates } from "../texts";
import { numberCandidates } from "./numbers";

/** Paths that tell the conditions on the path apart, as far as an address can have them. */
export function pathCandidates(conditions: readonly Condition[], domain: Domain): string[] {
  const { texts } = textCandidates(conditions.filter((condition) => condition.signal === "page.path"));
  return [...new Set(texts.flatMap((text) => [text, `/${text}`]))].filter(
    (text) => /^\/(?![/\\])/.test(text) && isUrl(text, domain.ruleset.site.origin),
  );
}

export function pageFacet(conditions: readonly Condition[], domain: Domain): Facet {
  const seen = [
    ...new Set(conditions.filter((c) => c.signal.startsWith("history.category.")).map((c) => c.signal.slice(17))),
  ];
  const counts = seen.map((name) => ({
    name,
    numbers: numberCandidates(
      conditions.filter((condition) => condition.signal === `history.category.${name}`),
      true,
    ),
  }));
  let combinations: Map<string, number>[] = [new Map()];
  for (const { name, numbers } of counts)
    combinations = combinations.flatMap((done) => numbers.map((number) => new Map([...done, [name, number]])));
  const pages: KnownPage[] = domain.pages
    ? [...domain.pages]
    : [
        undefined,
        ...textCandidates(conditions.filter((condition) => condition.signal === "page.category")).texts,
        ...seen,
      ].map((category) => ({ path: "/", facts: category === undefined ? {} : { category } }));
  if (domain.pages && domain.strayPaths)
    pages.push(
      ...pathCandidates(conditions, domain)
        .filter((path) => !pages.some((page) => page.path === path))
        .map((path) => ({ path, facts: {} })),
    );
  const settings: Setting[] = [];
  for (const page of pages)
    for (const numbers of combinations) {
      // The page at hand counts itself.
      const here = page.facts.category;
      if (here !== undefined && numbers.get(here) === 0) continue;
      settings.push((made) => {
        if (domain.pages) made.path = encodeURI(page.path);
        made.visit.page = { ...made.visit.page, ...page.facts };
        for (const [name, number] of numbers) made.categories.set(name, number);
      });
    }
  const free = textCandidates(conditions.filter((condition) => condition.signal === "page.category"));
  return { name: "page", settings, exact: domain.pages ? true : free.exact };
}
