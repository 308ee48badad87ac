import { createEngine, type Engine } from "@/core/decision/engine";
import { rulesetOf } from "@/core/draft/picks";
import { runnable } from "@/core/draft/runnable";
import type { Decision } from "@/core/decision/decision";
import { sourceText } from "@/core/formats/event";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import type { PlaceLookup } from "@/core/visit/places";
import { deliverySettings } from "@/data/delivery";
import { loadDraft } from "@/data/draft";
import { siteLookup } from "@/data/places";
import { readPass, readShare, type Look, type LookSource } from "@/data/passes";
import { readRelease } from "@/data/releases";
import { readReview } from "@/data/reviews";
import { clientAddress } from "./client-address";
import { cacheHeaders } from "@/core/analysis/cache";
import { countingOf, type Counting } from "./counting";
import { decideOrFallBack } from "./decide";
import { shownBy, writeReceipts } from "./receipts";
import { groupsOf } from "./groups";
import { readDeviceOnce } from "./devices";
import { liveRulesets } from "./live";
import { consentCookie, memoryCookie, newVisitorId, readMemoryCookie, writeMemoryCookie } from "./memory-cookie";
import { openNoteOf } from "./opened";
import { visitOf, type PageRequest } from "./visit";
import { now } from "@/clock";

/** Whether a visitor was asked for consent, and what was said. */
export type Consent = "yes" | "no" | "not asked";

/** `Sec-GPC: 1` is a no (Global Privacy Control), whatever was said. */
export function consentOf({ headers, cookies }: Pick<PageRequest, "headers" | "cookies">): Consent {
  const said = cookies[consentCookie];
  if (headers.get("sec-gpc") === "1" || said === "no") return "no";
  return said === "yes" ? "yes" : "not asked";
}

export interface Answer {
  decision: Decision;
  ruleset: Ruleset;
  visit: Visit;
  /** What to keep in the memory cookie; null: erase it; undefined: leave it as it is. */
  remember?: string | null;
  /** What the page hands back when its pop-up opens (`countOpening`), so that it counts. */
  openNote?: string;
  consent: Consent;
  /** By what the visit is grouped in results (`sourceText`), told again with events; "" for another page of the site. */
  source: string;
  counting: Counting;
  /** By SLOT/VARIANT/ARM: told again with whatever happens to it, so that it counts. None where it is looked at. */
  receipts: Record<string, string>;
  /** The headers by which the page may be cached: worked out from the rules; made for one visitor where nothing is told. */
  cache: { "cache-control": string; vary?: string };
  /** Hosts whose pages may stand in a frame on the page. */
  otherHosts: readonly string[];
  /** Set where the page is looked at through a lens. */
  look?: Look;
}

const alone: Answer["cache"] = { "cache-control": "private, no-store" };

/** Decides what one page request gets; undefined if nothing of the site is live. */
export async function answer(request: PageRequest): Promise<Answer | undefined> {
  const look = request.pass === undefined ? undefined : await readPass(request.site, request.pass);
  if (look) return answerLook(request.site, look);
  const live = await liveRulesets().get(request.site);
  if (!live) return undefined;
  const { engine, secret, trustedProxies, otherHosts, advice } = live;
  const consent = consentOf(request);
  const remembered = consent === "yes" ? readMemoryCookie(request.cookies[memoryCookie], secret) : undefined;
  const visitorId = consent === "yes" ? (remembered?.visitorId ?? newVisitorId()) : undefined;
  const visit = visitOf(request, engine.ruleset.site.origin, {
    address: clientAddress(request.peer, request.forwarded, trustedProxies),
    consent: consent === "yes",
    visitorId,
    memory: remembered?.memory,
  });
  const decision = decideOrFallBack(engine, visit, { countPopups: "opened", holdout: true });
  const openNote = openNoteOf(decision, visitorId, visit.at, secret);
  const remember =
    decision.memory !== null && visitorId !== undefined
      ? writeMemoryCookie(visitorId, decision.memory, secret)
      : request.cookies[memoryCookie] === undefined
        ? undefined
        : null;
  const cacheOf = (): Answer["cache"] => {
    // Whoever is remembered gets a cookie with each page, and a page with one is nobody else's.
    const known = consent === "yes" || remember !== undefined;
    const page = known ? undefined : advice(new URL(visit.url).pathname, ["visitor"]);
    return page ? cacheHeaders(engine.ruleset, page, Date.parse(visit.at)) : alone;
  };
  const cache = cacheOf();
  const counting = countingOf(engine, visit);
  return {
    decision,
    ruleset: engine.ruleset,
    visit,
    consent,
    source: sourceText(groupsOf(engine, visit, decision.memory)),
    counting,
    receipts: writeReceipts(engine.ruleset.site.id, shownBy(decision, counting.holdout), {
      kind: visitorId !== undefined ? "v" : cache === alone ? "n" : "s",
      at: now(),
      secret,
    }),
    cache,
    otherHosts,
    ...(remember === undefined ? {} : { remember }),
    ...(openNote === undefined ? {} : { openNote }),
  };
}

/** Decides what a shared lens sees on a page; undefined if the link has expired. */
export async function answerShare(
  site: string,
  id: string,
  path: string,
  search: string,
  page: Visit["page"],
): Promise<Answer | undefined> {
  const share = await readShare(id, site);
  if (!share) return undefined;
  const { page: _page, ...visit } = share.look.visit;
  const url = new URL(`${path}${search}`, new URL(visit.url).origin).href;
  return answerLook(share.site, { ...share.look, visit: { ...visit, url, ...(page ? { page } : {}) } });
}

/** Decides what a pass of the workbench sees; undefined if it is none, or has ended. */
export async function answerPass(site: string, pass: string): Promise<Answer | undefined> {
  const look = await readPass(site, pass);
  return look && answerLook(site, look);
}

async function answerLook(site: string, look: Look): Promise<Answer | undefined> {
  const ready = look.source === "live" ? await liveRulesets().get(site) : await keptEngine(site, look.source);
  if (!ready) return undefined;
  const { engine, otherHosts } = ready;
  return {
    decision: decideOrFallBack(engine, look.visit, {
      pins: look.pins,
      ...(look.popup === undefined ? {} : { popup: look.popup }),
    }),
    ruleset: engine.ruleset,
    visit: look.visit,
    consent: look.visit.consent === true ? "yes" : "no",
    source: "",
    counting: { goals: [] },
    receipts: {},
    cache: alone,
    otherHosts,
    look,
  };
}

interface Ready {
  /** Changes with whatever the engine was made of. */
  mark: string;
  lookup: PlaceLookup;
  engine: Engine;
  otherHosts: readonly string[];
}
/** The engines of what is looked at without being live, the latest of each site and source. */
const kept = new Map<string, Ready>();
const mostKept = 20;

/** The engine of a draft as it now stands, of a release, or of what was asked to go live. */
async function keptEngine(site: string, source: LookSource): Promise<Ready | undefined> {
  const found = await rulesOf(site, source);
  if (!found) return undefined;
  const [lookup, { otherHosts }] = await Promise.all([siteLookup(site), deliverySettings(site)]);
  const mark = `${found.mark} ${otherHosts.join()}`;
  const key = `${site} ${source}`;
  const known = kept.get(key);
  if (known?.mark === mark && known.lookup === lookup) return known;
  const engine = createEngine(found.ruleset(), {
    device: readDeviceOnce,
    lookup,
    mayLeadTo: (host) => otherHosts.includes(host),
  });
  const ready = { mark, lookup, engine, otherHosts };
  kept.delete(key);
  if (kept.size >= mostKept) kept.delete(kept.keys().next().value as string);
  kept.set(key, ready);
  return ready;
}

async function rulesOf(
  site: string,
  source: LookSource,
): Promise<{ mark: string; ruleset: () => Ruleset } | undefined> {
  if (source === "draft") {
    const draft = await loadDraft(site);
    return draft && { mark: String(draft.version), ruleset: () => runnable(rulesetOf(draft.ruleset)).ruleset };
  }
  const [kind, number] = source.split(" ");
  const found = kind === "release" ? await readRelease(site, Number(number)) : await readReview(site, Number(number));
  if (!found) return undefined;
  return { mark: found.sha256, ruleset: () => runnable(found.ruleset).ruleset };
}
