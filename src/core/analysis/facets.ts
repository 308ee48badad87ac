/**
 * The facets of a visit: parts of it that can be set independently of each other, each with settings among which the
 * conditions on it come out in every way they can.
 */
import type { Condition } from "../formats/rule";
import { splitSignal } from "../visit/signals";
import type { Domain, Facet, Setting } from "./facet";
import {
  addresses,
  arrivals,
  carts,
  dataFacet,
  devices,
  dropKey,
  histories,
  languages,
  listCandidates,
  numberCandidates,
  pageFacet,
  pathCandidates,
  parameterOf,
  places,
} from "./facet-settings";
import { instants } from "./instants";
import { isEqual, textCandidates } from "./texts";

/** The facet that a signal belongs to. Signals of one facet lean on the same part of a visit. */
export function facetOf(signal: string, domain: Domain): string {
  if (signal === "time") return "time";
  const parameter = signal.startsWith("query.") ? signal.slice(6) : parameterOf(signal);
  if (parameter !== undefined)
    return domain.ruleset.wordParameters.includes(parameter) ? "arrival" : `parameter ${parameter}`;
  if (signal.startsWith("referrer.") || signal.startsWith("search.")) return "arrival";
  if (signal === "device.width") return "width";
  if (signal.startsWith("device.")) return "device";
  if (signal.startsWith("history.category.")) return "page";
  if (signal.startsWith("history.")) return "history";
  if (signal.startsWith("cart.")) return "cart";
  if (signal.startsWith("page.")) return domain.pages ? "page" : signal === "page.category" ? "page" : signal;
  return signal;
}

/** The settings of one facet, for the conditions on it. */
export function settingsOf(name: string, conditions: readonly Condition[], domain: Domain): Facet {
  const make = (settings: Setting[], exact: boolean): Facet => ({ name, settings, exact });
  const { ruleset } = domain;
  if (name === "time") {
    const { settings, exact } = instants(conditions, domain);
    return make(settings, exact);
  }
  if (name.startsWith("parameter ")) {
    const parameter = name.slice(10);
    const lists = listCandidates(conditions);
    const set =
      (values: string[]): Setting =>
      (made) =>
        void made.params.set(parameter, values);
    return make([(made) => void made.params.delete(parameter), ...lists.values.map(set)], lists.exact);
  }
  if (name === "arrival") return arrivals(conditions, domain);
  if (name === "width") {
    const numbers = numberCandidates(conditions, false);
    return make(
      [
        (made) => dropKey(made.visit.hints, "width"),
        ...numbers.map(
          (width): Setting =>
            (made) =>
              void (made.visit.hints = { ...made.visit.hints, width }),
        ),
      ],
      true,
    );
  }
  if (name === "device") return devices(conditions);
  if (name === "place") return places(conditions, domain);
  if (name === "language") return languages(conditions);
  if (name === "history") return histories(conditions);
  if (name === "page") return pageFacet(conditions, domain);
  if (name === "cart") return carts(conditions, domain);
  if (name === "ip") return addresses(conditions);
  if (name.startsWith("history.category.")) {
    const category = name.slice(17);
    return make(
      numberCandidates(conditions, true).map(
        (count): Setting =>
          (made) =>
            void made.categories.set(category, count),
      ),
      true,
    );
  }
  if (name.startsWith("marker.")) {
    const id = name.slice(7);
    return make(
      [false, true].map(
        (held): Setting =>
          (made) =>
            void made.markers.set(id, held),
      ),
      true,
    );
  }
  if (name.startsWith("cookie.")) {
    const cookie = name.slice(7);
    const { texts, exact } = textCandidates(conditions);
    const set =
      (text: string): Setting =>
      (made) =>
        void (made.visit.cookies = { ...made.visit.cookies, [cookie]: text });
    return make([(made) => dropKey(made.visit.cookies, cookie), ...texts.map(set)], exact);
  }
  const split = splitSignal(name);
  if (split?.prefix === "data.") return dataFacet("data", split.name, conditions, ruleset);
  if (split?.prefix === "page.data.") return dataFacet("page.data", split.name, conditions, ruleset);
  if (name === "page.path") {
    const { exact } = textCandidates(conditions);
    const paths = pathCandidates(conditions, domain);
    const equalOnly = conditions.every(isEqual);
    return make(
      ["/", ...paths].map(
        (path): Setting =>
          (made) =>
            void (made.path = encodeURI(path)),
      ),
      exact && equalOnly,
    );
  }
  // page.id, .language, .text, .tags
  const key = name.slice(5) as "id" | "language" | "text" | "tags";
  if (key === "tags") {
    const { values, exact } = listCandidates(conditions);
    return make(
      [
        (made) => dropKey(made.visit.page, "tags"),
        ...values.map(
          (tags): Setting =>
            (made) =>
              void (made.visit.page = { ...made.visit.page, tags }),
        ),
      ],
      exact,
    );
  }
  const { texts, exact } = textCandidates(conditions);
  return make(
    [
      (made) => dropKey(made.visit.page, key),
      ...texts.map(
        (text): Setting =>
          (made) =>
            void (made.visit.page = { ...made.visit.page, [key]: text }),
      ),
    ],
    exact,
  );
}
