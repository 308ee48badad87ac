/** The site’s own data, of visitors and of pages. */
import { meaningOf, valueReader } from "../../formats/operators";
import type { Condition } from "../../formats/rule";
import type { Ruleset } from "../../formats/ruleset";
import type { Facet, Setting } from "../facet";
import { textCandidates } from "../texts";
import { dropKey } from "./drop-key";
import { listCandidates } from "./lists";
import { numberCandidates } from "./numbers";

export function dataFacet(
  field: "data" | "page.data",
  name: string,
  conditions: readonly Condition[],
  ruleset: Ruleset,
): Facet {
  const kind = ruleset.dataFields.find((item) => item.signal === field && item.name === name)?.kind;
  const set =
    (value: unknown): Setting =>
    (made) => {
      if (field === "data") made.visit.data = { ...made.visit.data, [name]: value };
      else made.visit.page = { ...made.visit.page, data: { ...made.visit.page?.data, [name]: value } };
    };
  const all = (values: unknown[], exact: boolean): Facet => ({
    name: `${field}.${name}`,
    settings: [(made) => dropKey(field === "data" ? made.visit.data : made.visit.page?.data, name), ...values.map(set)],
    exact,
  });
  switch (kind) {
    case "flag":
      return all([false, true], true);
    case "number":
      return all(numberCandidates(conditions, false), true);
    case "date": {
      const dates = new Set<string>(["2001-01-01"]);
      const meanings = conditions.map(({ op, value }) => meaningOf(op, value, valueReader(kind, "")));
      for (const meaning of meanings)
        for (const limit of meaning?.is === "dates" ? [meaning.low, meaning.high] : []) {
          const at = Date.parse(`${limit}T00:00:00Z`);
          if (Number.isFinite(at))
            for (const by of [-1, 0, 1]) dates.add(new Date(at + by * 86_400_000).toISOString().slice(0, 10));
        }
      const yearly = meanings.some((meaning) => meaning?.is === "anniversary");
      const facet = all([...dates], !yearly);
      if (yearly)
        for (const same of [true, false])
          facet.settings.push((made) => void made.anniversaries.set(name, { field, name, same }));
      return facet;
    }
    case "texts": {
      const { values, exact } = listCandidates(conditions);
      return all(values, exact);
    }
    default: {
      const { texts, exact } = textCandidates(conditions);
      return all(texts, exact);
    }
  }
}
