import { createEngine } from "@/core/decision/engine";
import { runnable } from "@/core/draft/runnable";
import type { Decision } from "@/core/formats/decision";
import type { Ruleset } from "@/core/formats/ruleset";
import { readVisit, type Visit } from "@/core/formats/visit";
import { loadDraft } from "@/data/draft";
import { readPass, type Look } from "@/data/passes";
import { liveRulesets } from "./live";

/** One page request, as a page or a server knows it. */
export interface PageRequest {
  site: string;
  /** The path with its query, as asked for. */
  target: string;
  headers: { get(name: string): string | null };
  /** The address of the peer, already trusted. */
  address?: string | undefined;
  cookies: Record<string, string>;
  page: Visit["page"];
  cart: Visit["cart"];
  /** The preview pass that came with the request, if any. */
  pass?: string | undefined;
}

export interface Answer {
  decision: Decision;
  ruleset: Ruleset;
  visit: Visit;
  /** Set where the page is looked at through a lens. */
  look?: Look;
}

/** Decides what one page request gets; undefined if nothing of the site is live. */
export async function answer(request: PageRequest): Promise<Answer | undefined> {
  const look = request.pass === undefined ? undefined : await readPass(request.site, request.pass);
  if (look) {
    const draft = look.source === "draft" ? await loadDraft(request.site) : undefined;
    const engine = draft
      ? createEngine(runnable(draft.ruleset).ruleset)
      : (await liveRulesets().get(request.site))?.engine;
    if (!engine) return undefined;
    return {
      decision: engine.decide(look.visit, { pins: look.pins }),
      ruleset: engine.ruleset,
      visit: look.visit,
      look,
    };
  }
  const live = await liveRulesets().get(request.site);
  if (!live) return undefined;
  const { engine } = live;
  const visit = visitOf(request, engine.ruleset.site.origin);
  return { decision: engine.decide(visit), ruleset: engine.ruleset, visit };
}

/** The visit that a request makes. The site's own host, whatever it is served on, is its origin in rules. */
function visitOf(request: PageRequest, origin: string): Visit {
  const { headers } = request;
  const own = headers.get("host");
  const referrer = headers.get("referer");
  const raw = {
    at: new Date().toISOString(),
    url: new URL(`${new URL(origin).origin}${request.target}`).href,
    referrer:
      referrer && own ? referrer.replace(new RegExp(`^https?://${escape(own)}(?=[/?#]|$)`, "i"), origin) : referrer,
    ip: request.address,
    userAgent: headers.get("user-agent"),
    hints: hintsOf(headers),
    acceptLanguage: headers.get("accept-language"),
    cookies: request.cookies,
    page: request.page,
    cart: request.cart,
  };
  const read = readVisit(raw);
  if (read.ok) return read.value;
  // Whatever a visitor sends, the page must come: then only what is certain is told.
  return { at: raw.at, url: new URL("/", origin).href };
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

function hintsOf(headers: PageRequest["headers"]): Visit["hints"] {
  const mobile = headers.get("sec-ch-ua-mobile");
  const platform = headers.get("sec-ch-ua-platform")?.replace(/^"|"$/g, "");
  if (mobile === null && !platform) return undefined;
  return { ...(mobile === null ? {} : { mobile: mobile === "?1" }), ...(platform ? { platform } : {}) };
}
