/** The settings of each kind of facet: made so that the conditions on it come out in every way they can. */
import { meaningOf, valueReader, type ValueReader } from "../formats/operators";
import type { Condition } from "../formats/rule";
import type { PlaceEntry, Ruleset } from "../formats/ruleset";
import type { Place } from "../formats/visit";
import { continentOf, countryCodes } from "../visit/countries";
import { parameterOf } from "../visit/signals";
import { agents, platforms } from "./agents";
import type { Domain, Facet, Setting } from "./facet";
import type { KnownPage } from "./made-visit";
import { isEqual, isOfText, textCandidates } from "./texts";

const mostLists = 600;

/** Lists of values: none of them empty. A list meets what any of its values meets, so unions of single values are enough. */
export function listCandidates(conditions: readonly Condition[]): { values: string[][]; exact: boolean } {
  const { texts, exact } = textCandidates(conditions);
  const values: string[][] = texts.map((text) => [text]);
  if (conditions.length < 2) return { values, exact };
  if (texts.length * texts.length <= mostLists * 2)
    for (let i = 0; i < texts.length; i++)
      for (let j = i + 1; j < texts.length; j++) values.push([texts[i] as string, texts[j] as string]);
  values.push(texts);
  // With two conditions pairs meet everything; with more, unions of more values could meet something else.
  return { values, exact: exact && conditions.length <= 2 && texts.length * texts.length <= mostLists * 2 };
}

/** Numbers around and between the limits of conditions; whole ones of at least 0 where the signal counts something. */
export function numberCandidates(
  conditions: readonly Condition[],
  counts: boolean,
  read: ValueReader = valueReader("number", ""),
): number[] {
  const limits = new Set<number>();
  for (const { op, value } of conditions) {
    const meaning = meaningOf(op, value, read);
    if (meaning?.is === "range")
      for (const limit of [meaning.low, meaning.high]) if (Number.isFinite(limit)) limits.add(limit);
  }
  const out = new Set<number>(counts ? [0, 1] : []);
  const sorted = [...limits].sort((a, b) => a - b);
  sorted.forEach((limit, index) => {
    if (counts) for (const near of [Math.ceil(limit) - 1, Math.floor(limit), Math.floor(limit) + 1]) out.add(near);
    else {
      out.add(limit);
      out.add(index === 0 ? limit - 1 : (limit + (sorted[index - 1] as number)) / 2);
      if (index === sorted.length - 1) out.add(limit + 1);
    }
  });
  if (out.size === 0) out.add(1);
  return [...out].filter((number) => !counts || number >= 0).sort((a, b) => a - b);
}

export function arrivals(conditions: readonly Condition[], { ruleset }: Domain): Facet {
  const on = (prefix: string) => conditions.filter((condition) => condition.signal.startsWith(prefix));
  const own = new URL(ruleset.site.origin).hostname;
  const hosts = textCandidates(on("referrer.host"));
  const urls = textCandidates(on("referrer.url"));
  const wordings = textCandidates(on("search.words"));
  const referrers: (string | undefined)[] = [
    undefined,
    `https://${own}/`,
    "https://elsewhere.example/",
    "https://mail.google.com/",
    "https://www.facebook.com/",
  ];
  const said = on("search.words").length > 0 ? wordings.texts.filter((text) => text !== "") : ["words"];
  for (const source of ruleset.searchSources) {
    referrers.push(`https://${source.host}/`);
    for (const text of said.slice(0, 200))
      referrers.push(`https://${source.host}/?${new URLSearchParams({ [source.parameter]: text })}`);
  }
  // Words of a host are parted by hyphens; the last of them must not run on into the name's end (UAX #29, no break at a dot).
  const hostly = (text: string) =>
    text
      .toLowerCase()
      .replace(/[^a-z0-9.-]+/g, "-")
      .replace(/^[-.]+|[-.]+$/g, "");
  for (const host of hosts.texts.flatMap((text) => [text, `${hostly(text)}.example`, `${hostly(text)}-x.example`]))
    if (/^[a-z0-9.-]+$/i.test(host) && host !== "" && URL.canParse(`https://${host}/`))
      referrers.push(`https://${host}/`);
  for (const url of urls.texts) {
    if (URL.canParse(url)) referrers.push(url);
    const tail = `https://elsewhere.example/${url.replace(/^\/+/, "")}`;
    if (URL.canParse(tail)) referrers.push(tail);
  }
  // Parameters that carry search words belong here too, since they answer where the referrer does not.
  const wordSets: [string, string[] | undefined][][] = [[]];
  const asked = ruleset.wordParameters.filter((name) =>
    conditions.some((condition) => parameterOf(condition.signal) === name),
  );
  // Few texts are hosts: what a text could be besides is told only for those that are named as they are.
  const named = on("referrer.host").every(isEqual);
  let exact = named && hosts.exact && urls.exact && wordings.exact && on("referrer.url").length === 0;
  const first = ruleset.wordParameters[0];
  const names = asked.length > 0 ? asked : on("search.words").length > 0 && first !== undefined ? [first] : [];
  for (const name of names) {
    const direct = listCandidates(conditions.filter((condition) => parameterOf(condition.signal) === name));
    const values = [...direct.values, ...(on("search.words").length > 0 ? said.map((text) => [text]) : [])];
    exact &&= direct.exact;
    for (const value of values) wordSets.push([[name, value]]);
  }
  if (asked.length > 1) exact = false;
  const settings: Setting[] = [];
  const few = wordSets.length * referrers.length <= 4000;
  for (const referrer of referrers)
    for (const set of few || referrer === undefined ? wordSets : wordSets.slice(0, 1))
      settings.push((made) => {
        if (referrer === undefined) delete made.visit.referrer;
        else made.visit.referrer = referrer;
        for (const name of ruleset.wordParameters) made.params.delete(name);
        for (const [name, value] of set) if (value) made.params.set(name, value);
      });
  return { name: "arrival", settings, exact: exact && few };
}

export function devices(conditions: readonly Condition[]): Facet {
  const versions = numberCandidates(
    conditions.filter((condition) => condition.signal === "device.browserVersion"),
    true,
  );
  const settings: Setting[] = [
    (made) => {
      delete made.visit.userAgent;
      dropKey(made.visit.hints, "platform", "mobile");
    },
  ];
  const natural: [string, string | undefined][] = agents.map((agent) => [agent, undefined]);
  // A hint can name any system beside any browser: odd, but possible, and so tried after what is natural.
  const systems = conditions.some((condition) => condition.signal === "device.os");
  const odd: [string, string][] = systems
    ? platforms.flatMap((platform) => agents.map((agent): [string, string] => [agent, platform]))
    : [];
  // A hint can also call what would be a desktop a phone.
  const kinds = conditions.some((condition) => condition.signal === "device.kind");
  for (const mobile of kinds ? [false, true] : [false])
    for (const [agent, platform] of [...natural, ...odd])
      for (const version of agent.includes("{v}") ? versions : [0])
        settings.push((made) => {
          made.visit.userAgent = agent.replaceAll("{v}", String(version));
          dropKey(made.visit.hints, "platform", "mobile");
          if (platform) made.visit.hints = { ...made.visit.hints, platform };
          if (mobile) made.visit.hints = { ...made.visit.hints, mobile: true };
        });
  const other = conditions.some((condition) => [condition.value].flat().includes("other"));
  return {
    name: "device",
    settings,
    exact: !other && conditions.every((condition) => isEqual(condition) || !isOfText(condition)),
  };
}

function entriesOf(conditions: readonly Condition[], ruleset: Ruleset): PlaceEntry[] {
  const out: PlaceEntry[] = [];
  const add = (entry: PlaceEntry) => {
    if ("list" in entry) ruleset.placeLists.find((list) => list.id === entry.list)?.places.forEach(add);
    else out.push(entry);
  };
  for (const condition of conditions)
    if (Array.isArray(condition.value)) (condition.value as PlaceEntry[]).forEach(add);
  return out;
}

export function places(conditions: readonly Condition[], { ruleset }: Domain): Facet {
  const entries = entriesOf(conditions, ruleset);
  const out: (Place | undefined)[] = [undefined];
  const countries = new Set<string>();
  const circles: Extract<PlaceEntry, { km: number }>[] = [];
  for (const entry of entries) {
    if ("country" in entry) {
      const country = entry.country.toUpperCase();
      countries.add(country);
      const place: Place = { country };
      if (entry.region !== undefined) {
        place.region = entry.region.toUpperCase();
        out.push({ country, region: `${country}-ZZZ`, city: "Elsewhere" });
      }
      if (entry.city !== undefined) {
        place.city = entry.city;
        out.push({
          country,
          ...(entry.region === undefined ? {} : { region: place.region as string }),
          city: "Elsewhere",
        });
      }
      out.push(place, { country, region: `${country}-ZZZ`, city: "Elsewhere" });
    } else if ("km" in entry) {
      circles.push(entry);
    } else if ("continent" in entry)
      for (const code of countryCodes) if (continentOf(code) === entry.continent.toUpperCase()) countries.add(code);
  }
  for (const country of countries) out.push({ country });
  const foreign = countryCodes.find((code) => !countries.has(code));
  if (foreign) out.push({ country: foreign });
  // Cities and regions named for several places at once, and circles, could meet in ways that are not tried.
  const regional = entries.filter(
    (entry) => "country" in entry && (entry.region !== undefined || entry.city !== undefined),
  ).length;
  // Where a visitor is on the map goes with any country, region and city: in the middle of each circle, far from it, near its edge.
  const points = circles.flatMap(({ lat, lon, km }) => {
    const north = (degrees: number) => Math.max(-90, Math.min(90, lat + degrees));
    const far = lat > 0 ? -60 : 60;
    return [
      { lat, lon },
      { lat: north(far), lon },
      { lat: north(far), lon: lon > 0 ? lon - 90 : lon + 90 },
      { lat: north((km / 111) * 0.98), lon },
      { lat: north((km / 111) * 1.02), lon },
    ];
  });
  if (circles.length > 0 && !foreign) out.push({ country: "PT" });
  const bases = out.filter((place) => place !== undefined).slice(0, 400);
  for (const point of points.slice(0, 60)) for (const base of bases) out.push({ ...base, ...point });
  return {
    name: "place",
    settings: out.map((place): Setting => (made) => {
      if (place) made.visit.place = { ...place };
      else delete made.visit.place;
    }),
    exact: circles.length === 0 && regional <= 1,
  };
}

export function languages(conditions: readonly Condition[]): Facet {
  const tags = new Set<string>();
  for (const condition of conditions)
    if (Array.isArray(condition.value))
      for (const tag of condition.value as string[]) tags.add(tag === "*" ? "eo" : tag.toLowerCase());
  const list = [...tags];
  const base = [
    ...new Set([
      ...list,
      ...list.map((tag) => tag.split("-")[0] as string),
      ...list.map((tag) => `${tag.split("-")[0]}-zz`),
      "eo",
    ]),
  ];
  const headers: (string | undefined)[] = [undefined, ...base];
  for (const a of base) for (const b of base) if (a !== b) headers.push(`${a},${b};q=0.5`);
  if (list.length > 0) headers.push(["eo", ...list].map((tag, i) => `${tag};q=${(1 - i * 0.01).toFixed(2)}`).join(","));
  return {
    name: "language",
    settings: headers.map((header): Setting => (made) => {
      if (header === undefined) delete made.visit.acceptLanguage;
      else made.visit.acceptLanguage = header;
    }),
    exact: list.length <= 2 && !list.some((tag) => tag.includes("-")),
  };
}

export function histories(conditions: readonly Condition[]): Facet {
  const on = (signal: string) => conditions.filter((condition) => condition.signal === signal);
  const visits = numberCandidates(on("history.visits"), true).filter((n) => n >= 1);
  if (!visits.includes(2)) visits.push(2);
  const views = numberCandidates(on("history.views"), true).filter((n) => n >= 1);
  if (!views.includes(2)) views.push(2);
  const minutes = on("history.minutes").length > 0 ? numberCandidates(on("history.minutes"), true) : [0, 1];
  const days = on("history.daysSinceLast").length > 0 ? numberCandidates(on("history.daysSinceLast"), true) : [1];
  const landing = textCandidates(on("history.landing"));
  const landings =
    on("history.landing").length > 0
      ? [...new Set(landing.texts.flatMap((text) => (text.startsWith("/") ? [text] : [`/${text}`])))]
      : [];
  const settings: Setting[] = [];
  for (const v of visits)
    for (const d of v === 1 ? [undefined] : days)
      for (const n of views)
        for (const m of n === 1 ? [0] : minutes.length > 0 ? minutes : [1])
          for (const l of n === 1 ? [undefined] : [undefined, ...landings])
            settings.push((made) => {
              made.history = { visits: v, views: n, minutes: m, daysSinceLast: d, landing: l };
            });
  return { name: "history", settings, exact: on("history.landing").length === 0 };
}

/** Paths that tell the conditions on the path apart, as far as an address can have them. */
export function pathCandidates(conditions: readonly Condition[], domain: Domain): string[] {
  const { texts } = textCandidates(conditions.filter((condition) => condition.signal === "page.path"));
  return [...new Set(texts.flatMap((text) => [text, `/${text}`]))].filter(
    (text) => /^\/(?![/\\])/.test(text) && URL.canParse(text, domain.ruleset.site.origin),
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

export function carts(conditions: readonly Condition[], { ruleset }: Domain): Facet {
  const { currency } = ruleset.site;
  const money = valueReader("money", currency);
  const minor = money.limit;
  const on = (prefix: string) => conditions.filter((condition) => condition.signal.startsWith(prefix));
  const amounts = new Set([1000, ...numberCandidates([...on("cart.subtotal"), ...on("cart.total")], true, money)]);
  for (const condition of on("cart.toGo.")) {
    const offer = ruleset.offers.find((item) => item.id === condition.signal.slice(10));
    const threshold = offer?.threshold === undefined ? 0 : minor(offer.threshold);
    for (const number of numberCandidates([condition], true, money)) amounts.add(Math.max(0, threshold - number));
  }
  for (const offer of ruleset.offers)
    if (offer.threshold !== undefined && (on("cart.total").length > 0 || on("cart.toGo.").length > 0))
      for (const near of [-1, 0, 1]) amounts.add(Math.max(0, minor(offer.threshold) + near));
  // What offers take off is put on again, so that a total can come to any limit.
  const limits = numberCandidates(on("cart.total"), true, money);
  for (const offer of on("cart.total").length > 0 ? ruleset.offers : [])
    for (const limit of limits) {
      if ("percent" in offer.reward && offer.reward.percent < 100) {
        const before = limit / (1 - offer.reward.percent / 100);
        for (const near of [Math.floor(before), Math.ceil(before), Math.ceil(before) + 1]) amounts.add(near);
      }
      if ("amount" in offer.reward) amounts.add(limit + minor(offer.reward.amount));
      amounts.add(limit * 2 + 1);
      amounts.add(limit * 10);
    }
  const skus = textCandidates(on("cart.skus"));
  const categories = textCandidates(on("cart.categories"));
  const scopeNames = ruleset.offers.flatMap((offer) => offer.scope?.categories ?? []);
  const kinds: { sku: string; category?: string }[] = [{ sku: "something" }];
  for (const sku of on("cart.skus").length > 0 ? skus.texts : []) kinds.push({ sku });
  const wanted = on("cart.categories").length > 0 ? [...categories.texts, ...scopeNames] : scopeNames;
  for (const category of new Set(wanted)) kinds.push({ sku: "something", category });
  for (const offer of ruleset.offers) for (const sku of offer.scope?.skus ?? []) kinds.push({ sku });
  const counts = numberCandidates(on("cart.count"), true).filter((count) => count > 0);
  const foreign = currency === "USD" ? "EUR" : "USD";
  const settings: Setting[] = [
    (made) => void delete made.visit.cart,
    (made) => void (made.visit.cart = { lines: [] }),
    // In another currency the money is unknown, and all else is told.
    (made) => void (made.visit.cart = { currency: foreign, lines: [] }),
  ];
  for (const kind of kinds)
    for (const amount of amounts)
      for (const count of counts.length > 0 ? counts : [1])
        settings.push((made) => {
          // One piece bears the amount, the rest cost nothing: any subtotal goes with any count.
          made.visit.cart = {
            lines: [
              { ...kind, quantity: 1, unitPrice: amount },
              ...(count > 1 ? [{ ...kind, sku: `${kind.sku}`, quantity: count - 1, unitPrice: 0 }] : []),
            ],
          };
        });
  for (const kind of kinds)
    for (const count of new Set([1, ...counts]))
      settings.push((made) => {
        made.visit.cart = { currency: foreign, lines: [{ ...kind, quantity: count, unitPrice: 1000 }] };
      });
  // A line of no pieces is in the cart, and counts nothing.
  for (const kind of kinds)
    for (const money of [undefined, foreign])
      settings.push((made) => {
        made.visit.cart = { ...(money ? { currency: money } : {}), lines: [{ ...kind, quantity: 0, unitPrice: 1000 }] };
      });
  if (kinds.length > 2)
    settings.push((made) => {
      made.visit.cart = { lines: kinds.map((kind) => ({ ...kind, quantity: 1, unitPrice: 1000 })) };
    });
  const leaning = on("cart.total").length + on("cart.toGo.").length > 0 && ruleset.offers.length > 0;
  return { name: "cart", settings, exact: !leaning && on("cart.skus").length + on("cart.categories").length <= 1 };
}

export function addresses(conditions: readonly Condition[]): Facet {
  const out: (string | undefined)[] = [undefined, "198.18.0.1", "2001:db8:ffff::1"];
  for (const condition of conditions)
    if (Array.isArray(condition.value))
      for (const block of condition.value as string[]) out.push(String(block).split("/")[0]);
  return {
    name: "ip",
    settings: out.map((ip): Setting => (made) => {
      if (ip === undefined) delete made.visit.ip;
      else made.visit.ip = ip;
    }),
    exact: conditions.length <= 1,
  };
}

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

/** Takes keys out of a part of a visit in the making. */
export function dropKey(part: Record<string, unknown> | undefined, ...keys: string[]): void {
  for (const key of keys) if (part) delete part[key];
}
