import { createEngine, type Engine } from "@/core/decision/engine";
import { rulesetOf } from "@/core/draft/picks";
import { runnable } from "@/core/draft/runnable";
import type { Decision } from "@/core/formats/decision";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import type { PlaceLookup } from "@/core/visit/places";
import { deliverySettings } from "@/data/delivery";
import { loadDraft } from "@/data/draft";
import { siteLookup } from "@/data/places";
import { readPass, readShare, type Look } from "@/data/passes";
import { clientAddress } from "./client-address";
import { readDeviceOnce } from "./devices";
import { liveRulesets } from "./live";
import { consentCookie, memoryCookie, newVisitorId, readMemoryCookie, writeMemoryCookie } from "./memory-cookie";
import { visitOf, type PageRequest } from "./visit";

export interface Answer {
  decision: Decision;
  ruleset: Ruleset;
  visit: Visit;
  /** What to keep in the memory cookie; null: erase it; undefined: leave it as it is. */
  remember?: string | null;
  /** Whether the visitor was asked for consent, and what was said. `Sec-GPC: 1` is a no. */
  consent: "yes" | "no" | "not asked";
  /** Hosts whose pages may stand in a frame on the page. */
  otherHosts: readonly string[];
  /** Set where the page is looked at through a lens. */
  look?: Look;
}

/** Decides what one page request gets; undefined if nothing of the site is live. */
export async function answer(request: PageRequest): Promise<Answer | undefined> {
  const look = request.pass === undefined ? undefined : await readPass(request.site, request.pass);
  if (look) return answerLook(request.site, look);
  const live = await liveRulesets().get(request.site);
  if (!live) return undefined;
  const { engine, secret, trustedProxies, otherHosts } = live;
  const said = request.cookies[consentCookie];
  const refused = request.headers.get("sec-gpc") === "1" || said === "no";
  const consent = refused ? "no" : said === "yes" ? "yes" : "not asked";
  const remembered = consent === "yes" ? readMemoryCookie(request.cookies[memoryCookie], secret) : undefined;
  const visitorId = consent === "yes" ? (remembered?.visitorId ?? newVisitorId()) : undefined;
  const visit = visitOf(request, engine.ruleset.site.origin, {
    address: clientAddress(request.peer, request.forwarded, trustedProxies),
    consent: consent === "yes",
    visitorId,
    memory: remembered?.memory,
  });
  const decision = engine.decide(visit);
  const remember =
    decision.memory !== null && visitorId !== undefined
      ? writeMemoryCookie(visitorId, decision.memory, secret)
      : request.cookies[memoryCookie] === undefined
        ? undefined
        : null;
  return {
    decision,
    ruleset: engine.ruleset,
    visit,
    consent,
    otherHosts,
    ...(remember === undefined ? {} : { remember }),
  };
}

/** Decides what a shared lens sees on a page; undefined if the link has expired. */
export async function answerShare(
  id: string,
  path: string,
  search: string,
  page: Visit["page"],
): Promise<Answer | undefined> {
  const share = await readShare(id);
  if (!share) return undefined;
  const { page: _page, ...visit } = share.look.visit;
  const url = new URL(`${path}${search}`, new URL(visit.url).origin).href;
  return answerLook(share.site, { ...share.look, visit: { ...visit, url, ...(page ? { page } : {}) } });
}

async function answerLook(site: string, look: Look): Promise<Answer | undefined> {
  const ready = look.source === "draft" ? await draftEngine(site) : await liveRulesets().get(site);
  if (!ready) return undefined;
  const { engine, otherHosts } = ready;
  return {
    decision: engine.decide(look.visit, {
      pins: look.pins,
      ...(look.popup === undefined ? {} : { popup: look.popup }),
    }),
    ruleset: engine.ruleset,
    visit: look.visit,
    consent: look.visit.consent === true ? "yes" : "no",
    otherHosts,
    look,
  };
}

interface ReadyDraft {
  version: number;
  lookup: PlaceLookup;
  engine: Engine;
  otherHosts: readonly string[];
}
const drafts = new Map<string, ReadyDraft>();
/** The engine of a draft as it now stands. */
async function draftEngine(site: string): Promise<ReadyDraft | undefined> {
  const draft = await loadDraft(site);
  if (!draft) return undefined;
  const lookup = await siteLookup(site);
  const known = drafts.get(site);
  const { otherHosts } = await deliverySettings(site);
  const same = known?.version === draft.version && known.lookup === lookup;
  if (same && known.otherHosts.join() === otherHosts.join()) return known;
  const engine = createEngine(runnable(rulesetOf(draft.ruleset)).ruleset, {
    device: readDeviceOnce,
    lookup,
    mayLeadTo: (host) => otherHosts.includes(host),
  });
  const ready = { version: draft.version, lookup, engine, otherHosts };
  drafts.set(site, ready);
  return ready;
}
