import * as z from "zod";
import { id, moneyText, name } from "./basics";
import { ruleSchema } from "./rule";
import { selectorSchema } from "./selector";

/** How a goal is reached: a page that is looked at, a click on a part of one, a form that is sent. */
export const goalWays = ["page", "click", "form"] as const;
export type GoalWay = (typeof goalWays)[number];

/** For how many days after a variant was seen a goal counts for it, at most: pages remember no longer what was seen. */
export const longestWindow = 30;

/** Something that visitors are hoped to do. Events name it by its id. */
export const goalSchema = z.strictObject({
  id,
  name,
  way: z.enum(goalWays),
  /** The page views that reach it, or on whose pages the part is. */
  pages: ruleSchema.default(null),
  /** The part that is clicked in, or the form that is sent; `within`: the open shadow roots in which it lies, from the outermost on. */
  at: z
    .strictObject({ selector: selectorSchema, within: z.array(selectorSchema).min(1).max(10).optional() })
    .optional(),
  /** What each is worth, in the site's currency. */
  value: moneyText.optional(),
  /** For how many days after it was seen a variant is given it. */
  days: z.number().int().min(1).max(longestWindow).default(longestWindow),
});
export type Goal = z.output<typeof goalSchema>;
