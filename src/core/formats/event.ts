import * as z from "zod";

/** A short text that groups events: a source, a country, a name of a goal. Longer ones are cut, so that groups stay few. */
const short = (most: number) =>
  z
    .string()
    .default("")
    .transform((text) => text.slice(0, most));

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
  slot: z.string().min(1).max(64),
  variant: z.string().max(64),
  arm: z.string().max(64),
  first: z.boolean().default(false),
  name: short(80),
  value: z.number().int().min(0).max(1e12).default(0),
  source: short(60),
  /** The note that came with what was shown: without a good one the event counts apart. */
  receipt: z.string().max(60).optional(),
  /** Which one of its kind (of a conversion: of its goal, too) it is by this receipt, from 0 on. */
  n: z.number().int().min(0).max(9999).default(0),
});
export type SiteEvent = z.output<typeof eventSchema>;

/** Why an event counts apart from results: it came without a good receipt, or from a crawler. */
export const reasonsApart = ["receipt", "bot"] as const;
export type Apart = (typeof reasonsApart)[number];

/** An event as it is kept: with where and with what it happened, in groups. */
export interface KeptEvent extends Omit<SiteEvent, "id" | "at" | "receipt" | "n"> {
  id: string;
  at: string;
  country: string;
  device: string;
  /** The day (YYYY-MM-DD, UTC) within which its id counts once; that on which it happened, where it is not said. */
  day?: string;
  apart?: Apart;
}
