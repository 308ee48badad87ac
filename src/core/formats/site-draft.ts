import * as z from "zod";
import { id, name } from "./basics";
import { contentSchema, rulesetSchema } from "./ruleset";

const label = z.string().trim().min(1).max(60);

/** A block of the content library: written once, shown by every variant that picks it. */
export const libraryBlockSchema = z.strictObject({
  id,
  name,
  /** What it is about, and for whom: "winter", "growers". */
  labels: z.array(label).max(30).default([]),
  content: contentSchema,
});
export type LibraryBlock = z.output<typeof libraryBlockSchema>;

export const pickOps = ["is", "contains", "above", "below"] as const;

/** Says that an arm shows a block of the library, and which. */
export const pickSchema = z.strictObject({
  id,
  variant: id,
  arm: id,
  /** Every one of these labels must be on the block. */
  labels: z.array(label).min(1).max(10),
  /** An audience whose name the block must bear, too. */
  audience: id.optional(),
  /** As it was written before a pick said which: the first audience of the variant's rule. */
  forAudience: z.boolean().default(false),
  /** Only blocks of which a field meets this. */
  where: z.strictObject({ field: z.string(), op: z.enum(pickOps), value: z.string() }).optional(),
  /** By a field; without it, in the order of the library. */
  sort: z.strictObject({ field: z.string(), descending: z.boolean().default(false) }).optional(),
  /** Which of those that are left: 1 is the first. */
  nth: z.number().int().min(1).max(100).default(1),
});
export type Pick = z.output<typeof pickSchema>;

/** What is worked on: a ruleset, with the content library that its variants pick from. A release carries the ruleset alone. */
export const siteDraftSchema = rulesetSchema.extend({
  library: z.array(libraryBlockSchema).default([]),
  picks: z.array(pickSchema).default([]),
});
export type SiteDraft = z.output<typeof siteDraftSchema>;
