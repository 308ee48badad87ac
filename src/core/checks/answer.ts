/** What a running site answered, read: which variants stand in its page, and what it says. */
import { Parser } from "htmlparser2";
import type { Decision } from "../decision/decision";
import type { SlotPlace } from "../formats/ruleset";
import { spaced } from "../text/spaced";
import { lensHeader, type SiteAnswer } from "./site";

/** Elements that stand within a line: words go on across them (HTML, phrasing content that is drawn inline). */
const inline: ReadonlySet<string> = new Set(
  "a abbr b bdi bdo cite code data del dfn em font i ins kbd label mark q s samp small span strong sub sup time tt u var wbr".split(
    " ",
  ),
);
/** Elements whose text nobody reads. */
const silent: ReadonlySet<string> = new Set(["script", "style", "template", "noscript"]);

interface PageSays {
  /** The variants that stand in each slot's place, where the page names them. */
  slots: Record<string, string[]>;
  /** Whether the page marks places of slots. */
  marked: boolean;
  words: string;
}

/** Reads a page: its slots' places and its words, without markup. */
function pageSays(html: string): PageSays {
  const slots: [string, string[]][] = [];
  let marked = false;
  let words = "";
  let quiet = 0;
  const parser = new Parser({
    onopentag(name, attributes) {
      if (silent.has(name)) quiet += 1;
      if (!inline.has(name)) words += " ";
      const slot = attributes["data-mirada-slot"];
      marked ||= slot !== undefined;
      const variants = attributes["data-mirada-variants"];
      if (slot !== undefined && variants !== undefined) slots.push([slot, variants.split(" ")]);
    },
    ontext(text) {
      if (quiet === 0) words += text;
    },
    onclosetag(name) {
      if (silent.has(name)) quiet -= 1;
      if (!inline.has(name)) words += " ";
    },
  });
  parser.end(html);
  return { slots: Object.fromEntries(slots), marked, words: spaced(words) };
}

/** Reads an answer of the site. */
export function answerSays(
  status: number,
  headers: Readonly<Record<string, string | string[] | undefined>>,
  html: string,
): SiteAnswer {
  const page = pageSays(html);
  let told: { redirect?: string | null; total?: number | null } = {};
  try {
    told = JSON.parse(decodeURIComponent(String(headers[lensHeader] ?? "{}"))) as typeof told;
  } catch {
    // Told in a way that cannot be read is not told.
  }
  const age = Number(headers.age ?? 0);
  return {
    status,
    slots: page.slots,
    plain: page.marked && Object.keys(page.slots).length === 0,
    redirect: told.redirect ?? null,
    total: told.total ?? null,
    words: page.words,
    age: Number.isFinite(age) ? age : 0,
    // RFC 9211, and what many caches said before it (common practice).
    cached: /\bhit\b/i.test(String(headers["cache-status"] ?? headers["x-cache"] ?? "")),
  };
}

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
    if (typeof value === "string") texts.push(pageSays(value).words);
    else if (typeof value === "object" && value !== null) Object.values(value).forEach(read);
  };
  for (const [, blocks] of shown) for (const { content } of blocks) read(content?.fields);
  const own = answerSays(status, headers, html);
  return {
    ...own,
    slots: Object.fromEntries(shown.map(([slot, blocks]) => [slot, blocks.map((block) => block.variant ?? "")])),
    plain: false,
    redirect: answer.redirect?.location ?? null,
    total: undefined,
    words: [own.words, ...texts].join(" "),
  };
}
