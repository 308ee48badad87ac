/** What a running site answered, compared with what the engine says. */
import type { Check } from "../formats/check";
import type { Decision } from "../decision/decision";
import { spaced } from "../text/spaced";
import { siteDiffers } from "./run";

export interface SiteAnswer {
  status: number;
  /** The variants that stand in the page, by slot; "" is the fallback. */
  slots: Record<string, string[]>;
  /** Whether the page has slots, but names no variants: it was answered as to a plain visitor. */
  plain: boolean;
  /** Where the visitor would be sent, and what they would pay (minor units), as the door told. */
  redirect: string | null;
  /** Undefined: a page that carries the tag tells no total. */
  total: number | null | undefined;
  /** Why visitors get nothing of what is decided there, in words. */
  amiss?: string;
  /** The page's words, without markup. */
  words: string;
  /** How old the answer is, in seconds, where a cache in between says so. */
  age: number;
  cached: boolean;
}

/** The header in which the door tells a lens what a page cannot show: where it sends, and the total. */
export const lensHeader = "x-mirada-lens";

/** In what a site's answer differs from what the engine says of a check's visit, in words; undefined: in nothing. */
export function answerDiffers(check: Check, decision: Decision, answer: SiteAnswer): string | undefined {
  const { expect } = check;
  if (answer.amiss) return answer.amiss;
  if (answer.redirect !== (decision.redirect?.location ?? null))
    return `the site ${answer.redirect ? `sends to ${answer.redirect}` : "sends nowhere"}, the engine ${decision.redirect ? `says ${decision.redirect.location}` : "does not send"}`;
  if (decision.redirect) return undefined;
  if (answer.status >= 400) return `the site answered ${answer.status}: there is no such page`;
  if ("total" in expect && answer.total !== undefined && answer.total !== (decision.cart?.total ?? null))
    return "the site reckons another total than the engine";
  if ("text" in expect && !answer.words.includes(spaced(expect.text))) return `the page does not say “${expect.text}”`;
  return siteDiffers(decision, answer.slots);
}

/** What may explain that a site answers otherwise than the engine: a cache, the preview pass, consent. */
export function differenceExplained(check: Check, answer: SiteAnswer): string | undefined {
  if (answer.age > 0 || answer.cached)
    return `A cache in between answered${answer.age > 0 ? ` with a page ${answer.age} seconds old` : ""}: it must let requests with a preview pass through.`;
  if (answer.plain)
    return "The page was answered as to a plain visitor: the preview pass did not reach the site, or had expired.";
  if (check.visit.consent !== true)
    return "This visitor has not given consent: what hangs on history or markers is unknown on the site.";
  return undefined;
}
