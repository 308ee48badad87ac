import * as z from "zod";
import { id, moneyText, name } from "./basics";
import { collectFromSchema } from "./collect";
import { ruleSchema } from "./rule";
import { selectorSchema } from "./selector";

/** How a goal is reached: a page that is looked at, a click on a part of one, a form that is sent. */
export const goalWays = ["page", "click", "form"] as const;
export type GoalWay = (typeof goalWays)[number];

/** For how many days after a variant was seen a goal counts for it, at most: pages remember no longer what was seen. */
export const longestWindow = 30;

const partSchema = z.strictObject({
  selector: selectorSchema,
  within: z.array(selectorSchema).min(1).max(10).optional(),
});
const worthSchema = z.strictObject({ from: collectFromSchema, decimal: z.enum([".", ","]).optional() });

/** Something that visitors are hoped to do. Events name it by its id. */
export const goalSchema = z.strictObject({
  id,
  name,
  way: z.enum(goalWays),
  /** The page views that reach it, or on whose pages the part is. */
  pages: ruleSchema.default(null),
  /** The part that is clicked in, or the form that is sent; `within`: the open shadow roots in which it lies, from the outermost on. */
  at: partSchema.optional(),
  /** What each is worth, in the site's currency; where its worth is read from the page, what it is worth on pages that do not say it. */
  value: moneyText.optional(),
  /** Where the page says what it is worth, read when it is reached. `decimal`: what stands before the decimals. */
  worth: worthSchema.optional(),
  /** For how many days after it was seen a variant is given it. */
  days: z.number().int().min(1).max(longestWindow).default(longestWindow),
});
export type Goal = z.output<typeof goalSchema>;

/** A goal as a page watches for it. */
export const pageGoalSchema = goalSchema.pick({ id: true, way: true, at: true, days: true }).extend({
  days: z.number().int(),
  /** In minor units of the site's currency. */
  value: z.number().int(),
  /** `digits`: how many decimals the currency has. */
  worth: worthSchema.extend({ digits: z.number().int().min(0).max(4) }).optional(),
});
export type PageGoal = z.output<typeof pageGoalSchema>;
