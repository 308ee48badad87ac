import * as z from "zod";
import { id, name } from "./basics";
import { readBy, type Read } from "./read";
import { stepSchema } from "./step";
import { visitSchema } from "./visit";

/** What a check expects of a decision: a variant (null: the fallback) or a text in a slot, being sent somewhere, or a total. */
export const expectationSchema = z.union([
  z.strictObject({ slot: id, variant: id.nullable() }),
  z.strictObject({ slot: id, text: z.string().min(1) }),
  z.strictObject({ redirect: z.string().min(1) }),
  z.strictObject({ total: z.number().int().min(0) }),
]);
export type Expectation = z.output<typeof expectationSchema>;

/** A further page view of a check's visitor, with what the site says of that page. */
const checkStepSchema = stepSchema.extend({ page: visitSchema.shape.page });

export const checkSchema = z.strictObject({
  id,
  name,
  visit: visitSchema,
  /** Pages looked at after the first; what is expected is expected of the last. */
  steps: z.array(checkStepSchema).max(50).default([]),
  expect: expectationSchema,
});
/** A saved expectation: this visit gets that. Totals are in minor units of the site's currency. */
export type Check = z.output<typeof checkSchema>;

/** Reads checks: a null variant has a meaning of its own here, it is the fallback. */
export const readChecks = (input: unknown): Read<Check[]> => readBy(z.array(checkSchema).max(5000), input, ["variant"]);
