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

const devices: Record<string, string> = {
  phone: "a phone",
  tablet: "a tablet",
  desktop: "a computer",
  bot: "a crawler",
  other: "another device",
};
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
    device: device ? `${devices[device.kind]}${system ? ` with ${system}` : ""}` : "an unknown device",
    place: place?.country
      ? [place.city, countryName(place.country)].filter(Boolean).join(", ")
      : visit.ip
        ? `the place of ${visit.ip}`
        : "an unknown place",
    language: languages[0] ? languageName(languages[0].split("-")[0] as string) : "an unknown language",
    arrival: arrivalPhrase(visit, url, ruleset),
    link: linkPhrase(url),
    time: `${shortInstantPhrase(parseInstant(visit.at) as number, ruleset.site.zone)} ${zonePhrase(ruleset.site.zone)}`,
    cart: cartPhrase(visit, ruleset.site),
    told: toldPhrase(visit),
  };
}

const ordinals = ["", "first", "second", "third", "fourth", "fifth"];
const ordinalRules = new Intl.PluralRules("en", { type: "ordinal" });
const endings: Partial<Record<Intl.LDMLPluralRule, string>> = { one: "st", two: "nd", few: "rd" };
const ordinal = (count: number): string => ordinals[count] ?? `${count}${endings[ordinalRules.select(count)] ?? "th"}`;
const times = (count: number): string => (count === 1 ? "once" : count === 2 ? "twice" : `${count} times`);

function visitorPhrase(visit: Visit, { markers }: Pick<Ruleset, "markers">): string {
  if (visit.consent !== true) return "a visitor without consent";
  const past = pastOf(visit.memory, parseInstant(visit.at) as number);
  const number = past.visits + (past.views > 0 ? 0 : 1);
  const base = number <= 1 ? "a first-time visitor" : `a visitor here for the ${ordinal(number)} time`;
  const details: string[] = [];
  if (past.views > 0) details.push(`on page ${past.views + 1} of the visit`);
  const seen = Object.entries(past.categories).filter(([, count]) => count > 0);
  if (seen.length > 0)
    details.push(
      `who has seen ${seen
        .slice(0, 2)
        .map(([name, count]) => `${name} ${times(count)}`)
        .join(", ")}${seen.length > 2 ? " …" : ""}`,
    );
  const held = markers.filter((marker) => past.markers[marker.id]?.held);
  if (held.length > 0) details.push(`marked ${held.map((marker) => `“${marker.name}”`).join(", ")}`);
  return [base, ...details].join(", ");
}

function cartPhrase({ cart }: Visit, site: Ruleset["site"]): string {
  if (!cart) return "an unknown cart";
  const count = cart.lines.reduce((sum, line) => sum + line.quantity, 0);
  if (count === 0) return "an empty cart";
  const total = cart.lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0);
  return `${formatMoney(total, cart.currency ?? site.currency, site.language)} in the cart`;
}

function toldPhrase({ cookies, data, zone }: Visit): string {
  const parts: string[] = [];
  for (const [name, value] of Object.entries(data ?? {}))
    if (value !== false && value !== undefined && value !== null)
      parts.push(value === true ? name : `${name} ${Array.isArray(value) ? value.join(", ") : String(value)}`);
  const count = Object.keys(cookies ?? {}).length;
  if (count > 0) parts.push(count === 1 ? `the cookie ${Object.keys(cookies ?? {})[0]}` : `${count} cookies`);
  if (zone) parts.push(`a clock in ${zonePhrase(zone)}`);
  return parts.length === 0 ? "no other data" : parts.join(", ");
}

function arrivalPhrase(visit: Visit, url: URL, ruleset: Pick<Ruleset, "searchSources">): string {
  const referrer = readReferrer(visit.referrer, sourceTable(ruleset.searchSources));
  switch (referrerKind(referrer, plainHost(url.hostname))) {
    case "direct":
      return "directly";
    case "internal":
      return "from another page of the site";
    case "search": {
      const words = referrer?.source && referrer.address.first(referrer.source.parameter);
      return words ? `from a search for “${words}”` : `from ${referrer?.host}`;
    }
    default:
      return `from ${referrer?.host ?? "elsewhere"}`;
  }
}

function linkPhrase(url: URL): string {
  const query = queryOf(url.search.slice(1));
  const tags = ["utm_source", "utm_campaign", "utm_term"].map((name) => query.get(name)?.[0]).filter(Boolean);
  if (tags.length > 0) return `a link tagged ${tags.join(" · ")}`;
  return query.size > 0
    ? `a link with ${query.size === 1 ? "a parameter" : `${query.size} parameters`}`
    : "a plain link";
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
  if (request && asked) return { as: `the visit of ${request.kind}`, visit: asked };
  const trimmed = text.trim().replace(/^(referer|user-agent|accept-language):\s*/i, "");
  if (/^Mozilla\/|^Opera\/|^[\w-]+\/\d[\w.]* \(/.test(trimmed)) {
    const { hints: _hints, ...rest } = visit;
    return { as: "the device", visit: { ...rest, userAgent: trimmed } };
  }
  if (languageHeader.test(trimmed)) return { as: "the languages", visit: { ...visit, acceptLanguage: trimmed } };
  if (trimmed.startsWith("?") && trimmed.length > 1) {
    const url = new URL(visit.url);
    url.search = trimmed;
    return { as: "the link", visit: { ...visit, url: url.href } };
  }
  const address = /^[a-z][a-z0-9+.-]*:/i.test(trimmed)
    ? trimmed
    : /^[\w-]+(\.[\w-]+)+([/?#:]|$)/.test(trimmed)
      ? `https://${trimmed}`
      : trimmed;
  if (!isUrl(address)) return { problem: "This is no address, no User-Agent and no Accept-Language." };
  const url = new URL(address);
  const own = plainHost(new URL(origin).hostname);
  const host = plainHost(url.hostname);
  const label = own.split(".")[0];
  const here = host === own || host === `${label}.localhost`;
  if (here || [...url.searchParams.keys()].some((name) => name.startsWith("utm_")))
    return { as: "the link", visit: { ...visit, url: `${origin}${here ? url.pathname : "/"}${url.search}` } };
  return { as: "the referrer", visit: { ...visit, referrer: address } };
}
