"use server";
/** What the workbench asks of the server. Every input is read by a schema: it comes from a browser. */
import { headers } from "next/headers";
import { z } from "zod";
import { earlierContents, type EarlierContent } from "@/core/draft/earlier";
import type { Edit } from "@/core/draft/edit";
import { id } from "@/core/formats/basics";
import type { SiteAnswer } from "@/core/checks/site";
import { checkSchema, type Check } from "@/core/formats/check";
import { contentSchema, type Content } from "@/core/formats/ruleset";
import { visitSchema, type Place } from "@/core/formats/visit";
import { parseAddress, parseBlock } from "@/core/visit/address";
import { stepSchema } from "@/core/visit/journey";
import { hostProblem } from "@/core/visit/url";
import {
  deletePlaceFile,
  deliverySettings,
  listPlaceFiles,
  saveOtherHosts,
  saveTrustedProxies,
  type PlaceFile,
} from "@/data/delivery";
import { changesOf } from "@/data/edits";
import { pool } from "@/data/pool";
import { deleteCheck, listChecks, saveChecks } from "@/data/checks";
import { deleteLens, listLenses, saveLens, type Lens } from "@/data/lenses";
import { siteLookup } from "@/data/places";
import { listPages, removePage, type SitePage } from "@/data/pages";
import { endShare, makePass, makeShare } from "@/data/passes";
import { liveRelease } from "@/data/releases";
import { askPage } from "./ask-page";
import { changeDraft, redoChange, undoChange, type Changed } from "./draft";
import { readPages, type PagesRead } from "./page-list";
import { releaseDraft, type Released } from "./release";
import { sessionId } from "./session";
import { shareAddresses } from "./share-addresses";

const path = z
  .array(
    z
      .string()
      .max(200)
      .refine((part) => part !== "__proto__"),
  )
  .min(1)
  .max(40);
const index = z.number().int().min(0).max(100_000);
const item = z.looseObject({ id });
const editSchema = z.union([
  z.strictObject({ do: z.literal("set"), at: path, before: z.unknown().optional(), after: z.unknown().optional() }),
  z.strictObject({ do: z.literal("insert"), list: path, index, item }),
  z.strictObject({ do: z.literal("remove"), list: path, index, item }),
  z.strictObject({ do: z.literal("move"), list: path, id: z.string(), from: index, to: index }),
]);
const changeSchema = z.strictObject({
  site: id,
  says: z.string().min(1).max(300),
  edits: z.array(editSchema).min(1).max(50),
});

/** The longest text that an edit may carry, in characters. */
const longestText = 100_000;
const tooLong = (value: unknown): boolean =>
  typeof value === "string"
    ? value.length > longestText
    : typeof value === "object" && value !== null && Object.values(value).some(tooLong);

const refused = { ok: false, problem: "This could not be understood, so nothing was changed." } as const;

export async function change(input: { site: string; says: string; edits: Edit[] }): Promise<Changed> {
  const read = changeSchema.safeParse(input);
  if (!read.success) return refused;
  if (read.data.edits.some(tooLong))
    return { ok: false, problem: `A text is longer than ${longestText.toLocaleString("en")} characters.` };
  return changeDraft(read.data.site, await sessionId(), read.data.says, read.data.edits as Edit[]);
}

export async function undo(site: string): Promise<Changed> {
  return id.safeParse(site).success ? undoChange(site) : refused;
}
export async function redo(site: string): Promise<Changed> {
  return id.safeParse(site).success ? redoChange(site) : refused;
}

const lookSchema = z.strictObject({
  visit: visitSchema,
  source: z.enum(["draft", "live"]),
  pins: z.record(z.string(), z.string().nullable()),
  popup: z.string().optional(),
  plain: z.boolean().optional(),
});

/** A pass with which the page frame may show what a lens sees; undefined if the look was not understood. */
export async function pass(site: string, look: z.input<typeof lookSchema>): Promise<string | undefined> {
  const read = lookSchema.safeParse(look);
  if (!id.safeParse(site).success || !read.success) return undefined;
  return makePass(site, await sessionId(), read.data);
}

export async function putLive(input: { site: string; note: string; version: number }): Promise<Released> {
  const read = z.strictObject({ site: id, note: z.string().max(500), version: z.number().int() }).safeParse(input);
  if (!read.success) return { ...refused, problems: [] };
  return releaseDraft(read.data.site, await sessionId(), read.data.note, read.data.version);
}

/** The release that is live, to tell the draft's differences by. */
export async function live(site: string) {
  return id.safeParse(site).success ? liveRelease(site) : undefined;
}

const lensSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(80),
  visit: visitSchema,
  steps: z.array(stepSchema).max(50).default([]),
});

export async function keepLens(site: string, lens: Lens): Promise<Lens[]> {
  const read = lensSchema.safeParse(lens);
  if (id.safeParse(site).success && read.success) await saveLens(site, read.data);
  return listLenses(site);
}
export async function dropLens(site: string, lens: string): Promise<Lens[]> {
  if (id.safeParse(site).success && id.safeParse(lens).success) await deleteLens(site, lens);
  return listLenses(site);
}

const shareSchema = z.strictObject({
  look: lookSchema,
  title: z.string().trim().min(1).max(200),
  minutes: z.number().int().min(5).max(20_160),
});

/** A link by which a look can be seen from elsewhere, at each address of this machine; undefined if it was not understood. */
export async function share(
  site: string,
  input: z.input<typeof shareSchema>,
): Promise<{ id: string; links: string[] } | undefined> {
  const read = shareSchema.safeParse(input);
  if (!read.success || !id.safeParse(site).success) return undefined;
  const { look, title, minutes } = read.data;
  const name = await makeShare(site, await sessionId(), look, title, minutes);
  return { id: name, links: shareAddresses().map((address) => `${address}/shared/${name}`) };
}
export async function unshare(site: string, share: string): Promise<void> {
  if (id.safeParse(site).success && z.string().max(40).safeParse(share).success) await endShare(site, share);
}

/** What the server knows of whoever asks: for a lens that sees as this browser does now. */
export async function askerAddress(): Promise<string | undefined> {
  const incoming = await headers();
  const address = incoming.get("x-mirada-peer") ?? "";
  return parseAddress(address) ? address : undefined;
}

/** Where an address is, by the site's place data; null if it is not known. */
export async function placeOf(site: string, ip: string): Promise<Place | null> {
  const address = typeof ip === "string" ? parseAddress(ip) : undefined;
  if (!address || !id.safeParse(site).success) return null;
  return (await siteLookup(site))(address) ?? null;
}

/** What settings show of how a site is served. */
export interface ServedBy {
  trustedProxies: string[];
  placeFiles: PlaceFile[];
}
export async function servedBy(site: string): Promise<ServedBy> {
  if (!id.safeParse(site).success) return { trustedProxies: [], placeFiles: [] };
  const [{ trustedProxies }, placeFiles] = await Promise.all([deliverySettings(site), listPlaceFiles(site)]);
  return { trustedProxies, placeFiles };
}

/** Names the proxies whose X-Forwarded-For is believed. A problem in words if one of them is no address or block. */
export async function trustProxies(site: string, blocks: string[]): Promise<string | undefined> {
  const read = z.array(z.string().max(60)).max(100).safeParse(blocks);
  if (!read.success || !id.safeParse(site).success) return refused.problem;
  for (const text of read.data) {
    const block = parseBlock(text);
    if ("problem" in block) return `${text} ${block.problem}`;
  }
  await saveTrustedProxies(site, read.data);
  return undefined;
}

/** Names the other hosts that visitors may be sent to, and whose pages may stand in a frame. A problem in words, or nothing. */
export async function allowHosts(site: string, hosts: string[]): Promise<string | undefined> {
  const read = z.array(z.string().max(260)).max(100).safeParse(hosts);
  if (!read.success || !id.safeParse(site).success) return refused.problem;
  const wrong = read.data.map(hostProblem).find((problem) => problem !== undefined);
  if (wrong) return wrong;
  await saveOtherHosts(site, read.data);
  return undefined;
}

/** Takes up the pages of a sitemap: of a file, or of the site's own. */
export async function readPageList(site: string, origin: string, xml?: string): Promise<PagesRead> {
  const read = z.tuple([id, z.url().max(300), z.string().max(55_000_000).optional()]).safeParse([site, origin, xml]);
  if (!read.success) return { ok: false, problem: refused.problem };
  return readPages(read.data[0], read.data[1], read.data[2]);
}
export async function dropPage(site: string, path: string): Promise<SitePage[]> {
  if (!id.safeParse(site).success) return [];
  if (z.string().max(2000).safeParse(path).success) await removePage(site, path);
  return listPages(site);
}

/** The texts that stood at a place of the draft before, newest first. */
export async function earlierTexts(site: string, at: string[], now: Content | null): Promise<EarlierContent[]> {
  const read = z.tuple([path, contentSchema.nullable()]).safeParse([at, now]);
  const owner = at[at.indexOf("variants") + 1] ?? at[1];
  if (!id.safeParse(site).success || !read.success || !owner) return [];
  return earlierContents(read.data[1], read.data[0], await changesOf(site, owner, pool())).slice(0, 30);
}

export async function dropPlaceFile(site: string, file: string): Promise<void> {
  if (id.safeParse(site).success && id.safeParse(file).success) await deletePlaceFile(site, file);
}

/** Keeps checks, and answers all that the site has. */
export async function keepChecks(site: string, checks: Check[]): Promise<Check[]> {
  const read = z.array(checkSchema).max(500).safeParse(checks);
  if (!id.safeParse(site).success) return [];
  if (read.success) await saveChecks(site, read.data);
  return listChecks(site);
}
export async function dropCheck(site: string, check: string): Promise<Check[]> {
  if (!id.safeParse(site).success) return [];
  if (id.safeParse(check).success) await deleteCheck(site, check);
  return listChecks(site);
}

/**
 * What the running site answers to a check's visitor: a real request through the same door as any visitor's, with a preview
 * pass that tells who asks. What stands in the page; undefined if the site could not be asked.
 */
export async function askSite(site: string, check: Check, source: "draft" | "live"): Promise<SiteAnswer | undefined> {
  const read = checkSchema.safeParse(check);
  if (!id.safeParse(site).success || !read.success) return undefined;
  const name = await makePass(site, await sessionId(), { visit: read.data.visit, source, pins: {} });
  return askPage(site, new URL(read.data.visit.url).pathname, name);
}
