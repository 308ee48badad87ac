/** What a running site answered, compared with what the engine says. */
import { t } from "../messages/t";
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
    return t("the site {redirect}, the engine {redirect2}", {
      redirect: answer.redirect ? t("sends to {redirect}", { redirect: answer.redirect }) : t("sends nowhere"),
      redirect2: decision.redirect
        ? t("says {location}", { location: decision.redirect.location })
        : t("does not send"),
    });
  if (decision.redirect) return undefined;
  if (answer.status >= 400) return t("the site answered {status}: there is no such page", { status: answer.status });
  if ("total" in expect && answer.total !== undefined && answer.total !== (decision.cart?.total ?? null))
    return t("the site reckons another total than the engine");
  if ("text" in expect && !answer.words.includes(spaced(expect.text)))
    return t("the page does not say “{text}”", { text: expect.text });
  return siteDiffers(decision, answer.slots);
}

/** What may explain that a site answers otherwise than the engine: a cache, the preview pass, consent. */
export function differenceExplained(check: Check, answer: SiteAnswer): string | undefined {
  if (answer.age > 0 || answer.cached)
    return t("A cache in between answered{age}: it must let requests with a preview pass through.", {
      age: answer.age > 0 ? t(" with a page {age} seconds old", { age: answer.age }) : "",
    });
  if (answer.plain)
    return t("The page was answered as to a plain visitor: the preview pass did not reach the site, or had expired.");
  if (check.visit.consent !== true)
    return t("This visitor has not given consent: what hangs on history or markers is unknown on the site.");
  return undefined;
}
