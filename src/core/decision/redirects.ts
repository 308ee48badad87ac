import { t } from "../messages/t";
import { isUrl } from "../text/is-url";
import type { Redirect } from "../formats/ruleset";
import type { Memory } from "../memory/memory";
import { inBlock, parseBlock, type Block } from "../visit/address";
import type { Reading } from "../visit/reading";
import { expandTemplate, templateParts } from "../content/template";

/** Where a redirect leads, or why it does not apply. */
export type Target = { location: string } | { verdict: "would loop" | "not applicable"; reason: string };

const refuse = (reason: string): Target => ({ verdict: "not applicable", reason });

function variables(r: Reading): Record<string, string> {
  const { url, place } = r;
  const values: Record<string, string> = {
    scheme: url.protocol.slice(0, -1),
    host: url.host,
    path: url.pathname,
    query: url.search.slice(1),
  };
  if (place?.country) values.country = place.country.toLowerCase();
  if (place?.region) values.region = place.region.toLowerCase();
  if (place?.city) values.city = place.city;
  const language = r.languages[0]?.split("-")[0]?.toLowerCase();
  if (language) values.language = language;
  return values;
}

const withoutFragment = (url: URL): string => {
  const copy = new URL(url);
  copy.hash = "";
  return copy.href.replace(/#$/, "");
};

/** Appends the visit's parameters whose names the result does not set, as they stand, in their order. */
function keepQuery(result: URL, visit: URL): URL {
  const set = new Set(result.searchParams.keys());
  const kept = visit.search
    .slice(1)
    .split("&")
    .filter((part) => part !== "" && !set.has([...new URLSearchParams(part).keys()][0] ?? ""));
  if (kept.length === 0) return result;
  const copy = new URL(result);
  copy.search = [result.search.slice(1), ...kept].filter((part) => part !== "").join("&");
  return copy;
}

/** Where a redirect whose rule is true leads on this visit (docs/engine.md, section 8). Without consent `memory` is undefined. */
export function redirectTarget(
  redirect: Redirect,
  r: Reading,
  memory: Memory | undefined,
  mayLeadTo?: (host: string) => boolean,
): Target {
  if (redirect.skipBots && r.device?.kind === "bot")
    return refuse(t("the visitor is a crawler, and this redirect leaves those alone"));
  const address = r.address;
  if (address && redirect.exemptAddresses.some((text) => inBlock(address, parseBlock(text) as Block)))
    return refuse(t("the visitor’s address is exempt"));
  if (redirect.frequency !== "always") {
    if (!memory) return refuse(t("without consent it is not known whether it was taken before"));
    const taken = memory.redirects.get(redirect.id);
    if (taken && redirect.frequency === "once") return refuse(t("it was taken before, and is taken only once"));
    if (taken && taken.visit === r.history?.visits) return refuse(t("it was taken before in this visit"));
  }
  const values = variables(r);
  const parts = templateParts(redirect.to);
  if ("problem" in parts) return refuse(t("its template {problem}", { problem: parts.problem }));
  const missing = parts.names.find((name) => values[name] === undefined);
  if (missing) return refuse(t("its template names {missing}, which is not known", { missing }));
  const expanded = expandTemplate(redirect.to, values);
  if (!isUrl(expanded, r.url.href)) return refuse(t('"{expanded}" is no address', { expanded }));
  let result = new URL(expanded, r.url.href);
  if (result.protocol !== "http:" && result.protocol !== "https:")
    return refuse(t('"{protocol}" is not http or https', { protocol: result.protocol }));
  if (mayLeadTo && result.host !== r.url.host && !mayLeadTo(result.host))
    return refuse(
      t("it would lead to {host}, a host that this site does not send visitors to (see Settings)", {
        host: result.host,
      }),
    );
  if (redirect.keepQuery) result = keepQuery(result, r.url);
  if (withoutFragment(result) === withoutFragment(r.url))
    return { verdict: "would loop", reason: t("it leads to the page it stands on") };
  return { location: result.href };
}
