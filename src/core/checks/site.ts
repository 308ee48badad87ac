/** What a running site answered, read and compared with what the engine says. */
import type { Check } from "../formats/check";
import type { Decision } from "../decision/decision";
import type { SlotPlace } from "../formats/ruleset";
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

const entities: Record<string, string> = { amp: "&", lt: "<", gt: ">", quot: '"', "#x27": "'", "#39": "'" };

/** Reads an answer of the site. */
export function answerSays(
  status: number,
  headers: Readonly<Record<string, string | string[] | undefined>>,
  html: string,
): SiteAnswer {
  const slots: Record<string, string[]> = {};
  for (const match of html.matchAll(/data-mirada-slot="([^"]*)" data-mirada-variants="([^"]*)"/g))
    slots[match[1] as string] = (match[2] as string).split(" ");
  let told: { redirect?: string | null; total?: number | null } = {};
  try {
    told = JSON.parse(decodeURIComponent(String(headers[lensHeader] ?? "{}"))) as typeof told;
  } catch {
    // Told in a way that cannot be read is not told.
  }
  const age = Number(headers.age ?? 0);
  return {
    status,
    slots,
    plain: Object.keys(slots).length === 0 && html.includes("data-mirada-slot="),
    redirect: told.redirect ?? null,
    total: told.total ?? null,
    words: wordsOf(html),
    age: Number.isFinite(age) ? age : 0,
    // RFC 9211, and what many caches said before it (common practice).
    cached: /\bhit\b/i.test(String(headers["cache-status"] ?? headers["x-cache"] ?? "")),
  };
}

/** The words of a page, without its markup. */
const wordsOf = (html: string): string =>
  html
    .replace(/<(script|style)[\s\S]*?<\/\1>/g, " ")
    .replace(/<[^>]*>/g, " ")
    .replace(/&(#?\w+);/g, (all, name: string) => entities[name] ?? all)
    .replace(/\s+/g, " ");

/** What the tag's door answered a page. */
export interface TagAnswer {
  slots: Decision["slots"];
  redirect: { location: string } | null;
  /** Where slots are that the page does not mark. */
  places?: Record<string, Pick<SlotPlace, "selector" | "within" | "each">>;
}
/**
 * What visitors get of a page that carries the tag: the page as it is served, and what the tag's door answers it.
 * @param has whether the page has a place for a slot, and only one
 */
export function tagAnswerSays(
  status: number,
  headers: Parameters<typeof answerSays>[1],
  html: string,
  answer: TagAnswer,
  has: (slot: string) => boolean,
): SiteAnswer {
  const all = Object.entries(answer.slots);
  const placed = all.filter(([slot]) => has(slot));
  // A page without any place is drawn in the browser: there they may all be.
  const shown = placed.length > 0 ? placed : all;
  const texts: string[] = [];
  const read = (value: unknown): void => {
    if (typeof value === "string") texts.push(wordsOf(value));
    else if (typeof value === "object" && value !== null) Object.values(value).forEach(read);
  };
  for (const [, blocks] of shown) for (const { content } of blocks) read(content?.fields);
  return {
    ...answerSays(status, headers, html),
    slots: Object.fromEntries(shown.map(([slot, blocks]) => [slot, blocks.map((block) => block.variant ?? "")])),
    plain: false,
    redirect: answer.redirect?.location ?? null,
    total: undefined,
    words: [wordsOf(html), ...texts].join(" "),
  };
}

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
    return "This visitor has not agreed to be remembered: what hangs on history or markers is unknown on the site.";
  return undefined;
}
