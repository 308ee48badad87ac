import * as z from "zod";
import { storable, unstorable, unstorableWords } from "./storable";

/** A short text that groups events: a source, a country, a name of a goal. Longer ones are cut, so that groups stay few. */
const short = (most: number) =>
  z
    .string()
    .default("")
    .transform((text) => storable(text).slice(0, most));
const named = (least = 0) =>
  z
    .string()
    .min(least)
    .max(64)
    .refine((text) => unstorable(text) === undefined, { error: unstorableWords });

/**
 * Something that happened on a page: a variant was seen (`exposure`), something in it was clicked (`click`), or a visitor who had
 * seen it reached a goal (`conversion`). Never who: an event carries no name, no address and no cookie, only a random id by which
 * one sent twice counts once. `first`: the first of its kind for this variant and arm, as far as the visitor's own browser
 * remembers with consent. `variant` "" is the fallback. `value` is in minor units of the site's currency.
 */
export const eventSchema = z.strictObject({
  /** Missing: nobody sends it twice, or its receipt tells. */
  id: z.uuid().optional(),
  at: z.iso.datetime({ offset: true }).optional(),
  kind: z.enum(["exposure", "click", "conversion"]),
  slot: named(1),
  variant: named(),
  arm: named(),
  first: z.boolean().default(false),
  name: short(80),
  value: z.number().int().min(0).max(1e12).default(0),
  /** Where the visit came from, as the answer told it: a word, or several (`partsOfSource`). */
  source: short(130),
  /** The note that came with what was shown: without a good one the event counts apart. */
  receipt: z.string().max(60).optional(),
  /** Which one of its kind (of a conversion: of its goal, too) it is by this receipt, from 0 on. */
  n: z.number().int().min(0).max(9999).default(0),
});
export type SiteEvent = z.output<typeof eventSchema>;

/**
 * Why an event counts apart from results: it came without a good receipt, from a crawler, with a value above the site's largest, or
 * for one goal too many that nobody declared.
 */
export const reasonsApart = ["receipt", "bot", "value", "goal"] as const;
export type Apart = (typeof reasonsApart)[number];

/** What is known of a visit that is told with whatever happens on it, in groups; "" where it is not known. */
export interface VisitGroups {
  /** The campaign's source, else the kind of referrer. */
  source: string;
  /** The campaign's name. */
  campaign: string;
  /** Whether the visitor was there before: known of those only who are remembered. */
  visits: "" | "new" | "back";
}
const longestGroup = 60;

/** The groups of a visit in one text: the source, and behind strokes the campaign and `new` or `back`, where they are known. */
export function sourceText({ source, campaign, visits }: VisitGroups): string {
  const parts = [source, campaign, visits].map((part) => part.replaceAll("|", " ").slice(0, longestGroup));
  return parts.join("|").replace(/\|+$/, "");
}
/** The same, taken apart. Whatever else was told is a source. */
export function partsOfSource(text: string): VisitGroups {
  const [source = "", campaign = "", visits = ""] = text.split("|").map((part) => part.slice(0, longestGroup));
  return { source, campaign, visits: visits === "new" || visits === "back" ? visits : "" };
}

/** What is known of whoever tells an event, from the request itself, in groups; "" where it is not known. */
export interface TellerGroups {
  /** ISO 3166-1. */
  country: string;
  device: string;
  /** The language that is wanted most, without its region: pt. */
  language: string;
  /** The operating system. */
  system: string;
}

/** An event as it is kept: with where, with what and by whom it happened, in groups. */
export interface KeptEvent
  extends Omit<SiteEvent, "id" | "at" | "receipt" | "n" | "source">, VisitGroups, TellerGroups {
  id: string;
  at: string;
  /** The day (YYYY-MM-DD, UTC) within which its id counts once; that on which it happened, where it is not said. */
  day?: string;
  apart?: Apart;
}
