/** By what visits are grouped in results: what is known of a visit, and of whoever tells what happened. */
import { readDeviceOnce } from "./devices";
import type { Engine } from "@/core/decision/engine";
import type { TellerGroups, VisitGroups } from "@/core/formats/event";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import { visitsIn } from "@/core/memory/memory";
import { comparable } from "@/core/text/fold";
import { parseAddress } from "@/core/visit/address";
import { languageChoices } from "@/core/visit/language";
import type { PlaceLookup } from "@/core/visit/places";
import { readReferrer, referrerKind, sourceTable } from "@/core/visit/referrer";
import { WebAddress } from "@/core/visit/web-address";

const tables = new WeakMap<Ruleset, ReturnType<typeof sourceTable>>();

/** Where a visitor came from, in a word that groups: the campaign's source, else the kind of referrer. Internal: "". */
function sourceOf({ ruleset }: Engine, visit: Visit, page: WebAddress): string {
  const source = parameter(page, "utm_source");
  if (source) return source;
  let table = tables.get(ruleset);
  if (!table) tables.set(ruleset, (table = sourceTable(ruleset.searchSources)));
  const kind = referrerKind(readReferrer(visit.referrer, table), page.host);
  return kind === "internal" ? "" : kind;
}
/** The first value of a parameter that says anything, folded. */
const parameter = (page: WebAddress, name: string): string => comparable(page.first(name) ?? "");

/** By what a visit is grouped in results. @param memory after the visit; null: the visitor is not remembered */
export function groupsOf(engine: Engine, visit: Visit, memory: unknown): VisitGroups {
  const page = WebAddress.of(visit.url);
  const visits = visitsIn(memory);
  return {
    source: sourceOf(engine, visit, page),
    campaign: parameter(page, "utm_campaign"),
    visits: visit.consent !== true || visits === 0 ? "" : visits > 1 ? "back" : "new",
  };
}

/** What is known of whoever tells what happened, from the request itself. */
export interface Teller {
  address: string | undefined;
  userAgent: string | undefined;
  acceptLanguage: string | undefined;
}
export function tellerGroups({ address, userAgent, acceptLanguage }: Teller, lookup: PlaceLookup): TellerGroups {
  const read = parseAddress(address ?? "");
  const device = readDeviceOnce(userAgent, undefined);
  return {
    country: (read && lookup(read)?.country) ?? "",
    device: device?.kind ?? "",
    language: /^[a-z]{2,3}(?![a-z])/.exec(languageChoices(acceptLanguage)[0]?.toLowerCase() ?? "")?.[0] ?? "",
    system: device?.os ?? "",
  };
}
