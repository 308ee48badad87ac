import { said, t, text } from "../messages/t";
import { isUrl } from "../text/is-url";
import type { Ruleset } from "../formats/ruleset";
import { parseInstant, type Visit } from "../formats/visit";
import { formatMoney } from "../money/currency";
import { pastOf } from "../memory/made";
import { shortInstantPhrase, zonePhrase } from "../rules/phrases";
import { languageName } from "../rules/sentence";
import { countryName } from "../visit/countries";
import { readDevice } from "../visit/device";
import { languageChoices } from "../visit/language";
import { readReferrer, referrerKind, sourceTable } from "../visit/referrer";
import { readRequest, visitOfRequest } from "../visit/requests";
import { plainHost, queryOf, readablePath } from "../visit/url";

/** The parts of the visit sentence: "Looking at … as … on … in …, reading …, arriving … by … on … with … and …". */
export interface VisitPhrases {
  page: string;
  visitor: string;
  device: string;
  place: string;
  language: string;
  arrival: string;
  link: string;
  time: string;
  cart: string;
  told: string;
}

const devices: Record<string, string> = said({
  phone: text("a phone"),
  tablet: text("a tablet"),
  desktop: text("a computer"),
  bot: text("a crawler"),
  other: text("another device"),
});
/** What operating systems call themselves. */
export const systemNames: Record<string, string> = {
  windows: "Windows",
  macos: "macOS",
  linux: "Linux",
  chromeos: "ChromeOS",
  ios: "iOS",
  ipados: "iPadOS",
  android: "Android",
};

/** A visit as the sentence says it. `titles` names the pages of the site by their path. */
export function visitPhrases(
  visit: Visit,
  ruleset: Pick<Ruleset, "site" | "searchSources" | "wordParameters" | "markers">,
  titles: ReadonlyMap<string, string>,
): VisitPhrases {
  const url = new URL(visit.url);
  const path = readablePath(url.pathname);
  const device = readDevice(visit.userAgent, visit.hints);
  const system = device?.os ? systemNames[device.os] : undefined;
  const place = visit.place;
  const languages = languageChoices(visit.acceptLanguage);
  return {
    page: titles.get(path) ?? path,
    visitor: visitorPhrase(visit, ruleset),
    device: device ? `${devices[device.kind]}${system ? t(" with {system}", { system }) : ""}` : t("an unknown device"),
    place: place?.country
      ? [place.city, countryName(place.country)].filter(Boolean).join(", ")
      : visit.ip
        ? t("the place of {ip}", { ip: visit.ip })
        : t("an unknown place"),
    language: languages[0] ? languageName(languages[0].split("-")[0] as string) : t("an unknown language"),
    arrival: arrivalPhrase(visit, url, ruleset),
    link: linkPhrase(url),
    time: `${shortInstantPhrase(parseInstant(visit.at) as number, ruleset.site.zone)} ${zonePhrase(ruleset.site.zone)}`,
    cart: cartPhrase(visit, ruleset.site),
    told: toldPhrase(visit),
  };
}

const times = (count: number): string =>
  count === 1 ? t("once") : count === 2 ? t("twice") : t("{count} times", { count });

function visitorPhrase(visit: Visit, { markers }: Pick<Ruleset, "markers">): string {
  if (visit.consent !== true) return t("a visitor without consent");
  const past = pastOf(visit.memory, parseInstant(visit.at) as number);
  const number = past.visits + (past.views > 0 ? 0 : 1);
  const base =
    number <= 1
      ? t("a first-time visitor")
      : t(
          "a visitor here for the {number, selectordinal, =2 {second} =3 {third} =4 {fourth} =5 {fifth} one {#st} two {#nd} few {#rd} other {#th}} time",
          { number },
        );
  const details: string[] = [];
  if (past.views > 0) details.push(t("on page {views} of the visit", { views: past.views + 1 }));
  const seen = Object.entries(past.categories).filter(([, count]) => count > 0);
  if (seen.length > 0)
    details.push(
      t("who has seen {seen}{seen2}", {
        seen: seen
          .slice(0, 2)
          .map(([name, count]) => `${name} ${times(count)}`)
          .join(", "),
        seen2: seen.length > 2 ? " …" : "",
      }),
    );
  const held = markers.filter((marker) => past.markers[marker.id]?.held);
  if (held.length > 0) details.push(t("marked {held}", { held: held.map((marker) => `“${marker.name}”`).join(", ") }));
  return [base, ...details].join(", ");
}

function cartPhrase({ cart }: Visit, site: Ruleset["site"]): string {
  if (!cart) return t("an unknown cart");
  const count = cart.lines.reduce((sum, line) => sum + line.quantity, 0);
  if (count === 0) return t("an empty cart");
  const total = cart.lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0);
  return t("{formatMoney} in the cart", {
    formatMoney: formatMoney(total, cart.currency ?? site.currency, site.language),
  });
}

function toldPhrase({ cookies, data, zone }: Visit): string {
  const parts: string[] = [];
  for (const [name, value] of Object.entries(data ?? {}))
    if (value !== false && value !== undefined && value !== null)
      parts.push(value === true ? name : `${name} ${Array.isArray(value) ? value.join(", ") : String(value)}`);
  const count = Object.keys(cookies ?? {}).length;
  if (count > 0)
    parts.push(
      count === 1
        ? t("the cookie {cookies}", { cookies: Object.keys(cookies ?? {})[0] })
        : t("{count} cookies", { count }),
    );
  if (zone) parts.push(t("a clock in {zone}", { zone: zonePhrase(zone) }));
  return parts.length === 0 ? t("no other data") : parts.join(", ");
}

function arrivalPhrase(visit: Visit, url: URL, ruleset: Pick<Ruleset, "searchSources">): string {
  const referrer = readReferrer(visit.referrer, sourceTable(ruleset.searchSources));
  switch (referrerKind(referrer, plainHost(url.hostname))) {
    case "direct":
      return t("directly");
    case "internal":
      return t("from another page of the site");
    case "search": {
      const words = referrer?.source && referrer.address.first(referrer.source.parameter);
      return words ? t("from a search for “{words}”", { words }) : t("from {host}", { host: referrer?.host });
    }
    default:
      return t("from {host}", { host: referrer?.host ?? t("elsewhere") });
  }
}

function linkPhrase(url: URL): string {
  const query = queryOf(url.search.slice(1));
  const tags = ["utm_source", "utm_campaign", "utm_term"].map((name) => query.get(name)?.[0]).filter(Boolean);
  if (tags.length > 0) return t("a link tagged {tags}", { tags: tags.join(" · ") });
  return query.size > 0
    ? t("a link with {size, plural, one {a parameter} other {# parameters}}", { size: query.size })
    : t("a plain link");
}

/** What a pasted text was understood as, and the visit with it; or why it was not understood. */
export type Pasted = { as: string; visit: Visit } | { problem: string };

const languageHeader =
  /^[a-z]{1,8}(-[a-z0-9]{1,8})*(\s*;\s*q=[\d.]+)?(\s*,\s*(\*|[a-z]{1,8}(-[a-z0-9]{1,8})*)(\s*;\s*q=[\d.]+)?)+$/i;

/**
 * Takes up a pasted text: an address of the site or one with campaign parameters becomes the link, another address the
 * referrer, a User-Agent the device, an Accept-Language the languages; a whole request (a curl command, a line of an access
 * log, a HAR entry) all that it tells.
 */
export function takePaste(text: string, visit: Visit, origin: string): Pasted {
  const request = readRequest(text);
  const asked = request && visitOfRequest(request, visit, origin);
  if (request && asked) return { as: t("the visit of {kind}", { kind: t(request.kind) }), visit: asked };
  const trimmed = text.trim().replace(/^(referer|user-agent|accept-language):\s*/i, "");
  if (/^Mozilla\/|^Opera\/|^[\w-]+\/\d[\w.]* \(/.test(trimmed)) {
    const { hints: _hints, ...rest } = visit;
    return { as: t("the device"), visit: { ...rest, userAgent: trimmed } };
  }
  if (languageHeader.test(trimmed)) return { as: t("the languages"), visit: { ...visit, acceptLanguage: trimmed } };
  if (trimmed.startsWith("?") && trimmed.length > 1) {
    const url = new URL(visit.url);
    url.search = trimmed;
    return { as: t("the link"), visit: { ...visit, url: url.href } };
  }
  const address = /^[a-z][a-z0-9+.-]*:/i.test(trimmed)
    ? trimmed
    : /^[\w-]+(\.[\w-]+)+([/?#:]|$)/.test(trimmed)
      ? `https://${trimmed}`
      : trimmed;
  if (!isUrl(address)) return { problem: t("This is no address, no User-Agent and no Accept-Language.") };
  const url = new URL(address);
  const own = plainHost(new URL(origin).hostname);
  const host = plainHost(url.hostname);
  const label = own.split(".")[0];
  const here = host === own || host === `${label}.localhost`;
  if (here || [...url.searchParams.keys()].some((name) => name.startsWith("utm_")))
    return { as: t("the link"), visit: { ...visit, url: `${origin}${here ? url.pathname : "/"}${url.search}` } };
  return { as: t("the referrer"), visit: { ...visit, referrer: address } };
}
