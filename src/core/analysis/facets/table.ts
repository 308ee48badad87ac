/**
 * The facets of a visit: parts of it that can be set independently of each other, each with settings among which the
 * conditions on it come out in every way they can.
 */
import type { Meaning } from "../../formats/operators";
import type { Condition } from "../../formats/rule";
import { conditionMeaning } from "../../rules/condition";
import {
  entryNameOf,
  parameterOf,
  splitSignal,
  traitsOf,
  type FacetKind,
  type FixedSignal,
  type SignalPrefix,
} from "../../visit/signals";
import type { Domain, Facet, Setting } from "../facet";
import { addresses } from "./addresses";
import { arrivals } from "./arrivals";
import { carts } from "./carts";
import { dataFacet } from "./data";
import { devices } from "./devices";
import { dropKey } from "./drop-key";
import { histories } from "./histories";
import { languages } from "./languages";
import { listCandidates } from "./lists";
import { numberCandidates } from "./numbers";
import { pageFacet, pathCandidates } from "./pages";
import { places } from "./places";
import { instants } from "../instants";
import { isEqual, textCandidates } from "../texts";

/** The name of the facet that a signal belongs to. Signals of one facet lean on the same part of a visit. */
export function facetOf(signal: string, domain: Domain): string {
  const kind = traitsOf(signal)?.facet;
  switch (kind) {
    case "parameter": {
      const parameter = parameterOf(signal) ?? "";
      // Words of a search may stand there, too.
      return domain.ruleset.wordParameters.includes(parameter) ? "arrival" : `parameter ${parameter}`;
    }
    case "page fact":
    case "page data":
      // What is told of known pages comes and goes with the page.
      return domain.pages ? "page" : signal;
    case "marker":
    case "cookie":
    case "data":
      return signal;
    case undefined:
      throw new Error(`there is no signal ${signal}`);
    default:
      return kind;
  }
}

/** What sort of facet a name is of; its own is what comes after that. */
const kindOf = (name: string): FacetKind =>
  name.startsWith("parameter ") ? "parameter" : (traitsOf(name)?.facet ?? (name as FacetKind));

interface Maker {
  /** The signals whose values the settings tell apart; whatever else belongs to the facet is proven nothing of. */
  reads: readonly (FixedSignal | SignalPrefix)[];
  /** The meanings whose every outcome the settings meet, where `make` calls them exact; with any other they prove nothing. */
  meets: readonly Meaning["is"][];
  make(name: string, conditions: readonly Condition[], domain: Domain): Omit<Facet, "name">;
}

const links = [
  "query.",
  "campaign.source",
  "campaign.medium",
  "campaign.name",
  "campaign.term",
  "campaign.content",
  "campaign.id",
] as const;
const pageFacts = ["page.path", "page.id", "page.category", "page.language", "page.tags", "page.text"] as const;
const ofText = ["equal", "pattern", "words", "phrase"] as const;
const nameAfter = (signal: string): string => splitSignal(signal)?.name ?? "";

const makers: Readonly<Record<FacetKind, Maker>> = {
  time: { reads: ["time"], meets: ["schedule"], make: (_, conditions, domain) => instants(conditions, domain) },
  parameter: {
    reads: links,
    meets: ofText,
    make(name, conditions) {
      const parameter = name.slice("parameter ".length);
      const lists = listCandidates(conditions);
      const set =
        (values: string[]): Setting =>
        (made) =>
          void made.params.set(parameter, values);
      return {
        settings: [(made) => void made.params.delete(parameter), ...lists.values.map(set)],
        exact: lists.exact,
      };
    },
  },
  arrival: {
    reads: ["referrer.kind", "referrer.host", "referrer.url", "search.engine", "search.words", ...links],
    meets: ofText,
    make: (_, conditions, domain) => arrivals(conditions, domain),
  },
  device: {
    reads: ["device.kind", "device.os", "device.browser", "device.browserVersion"],
    meets: [...ofText, "range"],
    make: (_, conditions) => devices(conditions),
  },
  width: {
    reads: ["device.width"],
    meets: ["range"],
    make: (_, conditions) => ({
      settings: [
        (made) => dropKey(made.visit.hints, "width"),
        ...numberCandidates(conditions, false).map(
          (width): Setting =>
            (made) =>
              void (made.visit.hints = { ...made.visit.hints, width }),
        ),
      ],
      exact: true,
    }),
  },
  place: { reads: ["place"], meets: ["entries"], make: (_, conditions, domain) => places(conditions, domain) },
  language: { reads: ["language"], meets: ["languages"], make: (_, conditions) => languages(conditions) },
  history: {
    reads: [
      "history.views",
      "history.visits",
      "history.minutes",
      "history.daysSinceLast",
      "history.returning",
      "history.landing",
    ],
    meets: [...ofText, "range", "flag"],
    make: (_, conditions) => histories(conditions),
  },
  page: {
    reads: [...pageFacts, "page.data.", "history.category."],
    // What pages are known to tell is tried whole, whatever is asked of it.
    meets: [...ofText, "range", "flag", "dates"],
    make: (_, conditions, domain) => pageFacet(conditions, domain),
  },
  "page fact": { reads: pageFacts, meets: ofText, make: pageFact },
  cart: {
    reads: ["cart.subtotal", "cart.total", "cart.count", "cart.skus", "cart.categories", "cart.toGo."],
    meets: [...ofText, "range"],
    make: (_, conditions, domain) => carts(conditions, domain),
  },
  ip: { reads: ["ip"], meets: ["entries"], make: (_, conditions) => addresses(conditions) },
  marker: {
    reads: ["marker."],
    meets: ["flag"],
    make: (name) => ({
      settings: [false, true].map(
        (held): Setting =>
          (made) =>
            void made.markers.set(nameAfter(name), held),
      ),
      exact: true,
    }),
  },
  cookie: {
    reads: ["cookie."],
    meets: ofText,
    make(name, conditions) {
      const cookie = nameAfter(name);
      const { texts, exact } = textCandidates(conditions);
      const set =
        (text: string): Setting =>
        (made) =>
          void (made.visit.cookies = { ...made.visit.cookies, [cookie]: text });
      return { settings: [(made) => dropKey(made.visit.cookies, cookie), ...texts.map(set)], exact };
    },
  },
  data: {
    reads: ["data."],
    meets: [...ofText, "range", "dates", "flag"],
    make: (name, conditions, { ruleset }) => dataFacet("data", nameAfter(name), conditions, ruleset),
  },
  "page data": {
    reads: ["page.data."],
    meets: [...ofText, "range", "dates", "flag"],
    make: (name, conditions, { ruleset }) => dataFacet("page.data", nameAfter(name), conditions, ruleset),
  },
};

function textValues(conditions: readonly Condition[]): { values: readonly (string | string[])[]; exact: boolean } {
  const { texts, exact } = textCandidates(conditions);
  return { values: texts, exact };
}

/** A fact of a page that is not known: `page.path`, `.id`, `.language`, `.text`, `.tags`. */
function pageFact(name: string, conditions: readonly Condition[], domain: Domain): Omit<Facet, "name"> {
  if (name === "page.path") {
    const { exact } = textCandidates(conditions);
    return {
      settings: ["/", ...pathCandidates(conditions, domain)].map(
        (path): Setting =>
          (made) =>
            void (made.path = encodeURI(path)),
      ),
      exact: exact && conditions.every(isEqual),
    };
  }
  const key = name.slice("page.".length);
  const { values, exact } = key === "tags" ? listCandidates(conditions) : textValues(conditions);
  return {
    settings: [
      (made) => dropKey(made.visit.page, key),
      ...values.map(
        (value): Setting =>
          (made) =>
            void (made.visit.page = { ...made.visit.page, [key]: value }),
      ),
    ],
    exact,
  };
}

/** The settings of one facet, for the conditions on it. */
export function settingsOf(name: string, conditions: readonly Condition[], domain: Domain): Facet {
  const { reads, meets, make } = makers[kindOf(name)];
  const { settings, exact } = make(name, conditions, domain);
  const isMet = (condition: Condition): boolean => {
    if (!reads.some((entry) => entry === entryNameOf(condition.signal))) return false;
    const meaning = conditionMeaning(condition, domain.ruleset);
    return meaning === undefined || meaning.is === "state" || meets.includes(meaning.is);
  };
  return { name, settings, exact: exact && conditions.every(isMet) };
}
