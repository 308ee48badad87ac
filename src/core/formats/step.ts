import * as z from "zod";

/** A further page view of a visit of several steps. */
export const stepSchema = z.strictObject({
  /** Path and query of the page, from "/" on. */
  path: z.string().startsWith("/").max(2000),
  /** Minutes after the step before. */
  after: z.number().min(0).max(5_256_000),
});
export type Step = z.output<typeof stepSchema>;
