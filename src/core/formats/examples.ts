/** What came with a site to be tried out with: other people's sites that lead to it, and a log of its visitors. */
import * as z from "zod";
import { originProblem } from "./origin";

const origin = z.string().refine((text) => originProblem(text) === undefined, "must be an origin");
const arrivalSchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  says: z.string().default(""),
  /** Path and query on the site. */
  target: z.string().startsWith("/"),
});
const wayInSchema = z.strictObject({
  /** The source that links from there name in utm_source. */
  id: z.string(),
  name: z.string(),
  says: z.string(),
  origin,
  /** A search engine asks for words; a mailbox shows letters; a page has its own links. */
  kind: z.enum(["search", "mail", "page"]),
  arrivals: z.array(arrivalSchema).default([]),
});
/** A site of others from which visitors come. */
export type WayIn = z.output<typeof wayInSchema>;

export const examplesSchema = z.strictObject({
  waysIn: z.array(wayInSchema).default([]),
  /** An access log, by its name and path on the site's own origin. */
  log: z.strictObject({ name: z.string(), path: z.string().startsWith("/") }).optional(),
});
export type Examples = z.output<typeof examplesSchema>;
