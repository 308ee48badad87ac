import * as z from "zod";
import { stepSchema } from "./step";
import { id } from "./basics";
import { visitSchema } from "./visit";

/** A made-up visitor to look through, with the pages looked at after the first. */
export const lensSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(80),
  visit: visitSchema,
  steps: z.array(stepSchema).max(50).default([]),
});
export type Lens = z.output<typeof lensSchema>;
