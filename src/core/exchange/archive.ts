/** Everything that a site has, in one ZIP archive of JSON and CSV: out and in. */
import { t } from "../messages/t";
import { strToU8, unzipSync, zipSync } from "fflate";
import * as z from "zod";
import { linkSchema, type CampaignLink } from "../campaigns/link";
import { linksToCsv } from "../campaigns/sheet";
import { rulesetOf } from "../draft/picks";
import { id } from "../formats/basics";
import { readChecks, type Check } from "../formats/check";
import { lensSchema, type Lens } from "../formats/lens";
import type { Problem } from "../formats/problem";
import { readBy, type Read } from "../formats/read";
import { siteDraftSchema, type SiteDraft } from "../formats/site-draft";
import { checkRuleset } from "../ruleset/check";
import { parseBlock } from "../visit/address";
import { hostProblem, originProblem } from "../formats/origin";

const pageSchema = z.strictObject({
  path: z.string().startsWith("/").max(500),
  title: z.string().max(300),
  facts: z.looseObject({}),
});
/** A text that is judged by a function: what is wrong with it, or undefined. */
const told = (problem: (text: string) => string | undefined) =>
  z.string().superRefine((text, context) => {
    const message = problem(text);
    if (message !== undefined) context.addIssue({ code: "custom", message });
  });
const settingsSchema = z.strictObject({
  trustedProxies: z.array(
    told((text) => {
      const block = parseBlock(text);
      return "problem" in block ? block.problem : undefined;
    }),
  ),
  otherHosts: z.array(told(hostProblem)),
  origins: z.array(told(originProblem)),
  secondPerson: z.boolean(),
  eventDays: z.number().int().min(1).max(400),
});
const placeFileSchema = z.strictObject({ id, name: z.string(), format: z.enum(["csv", "mmdb"]), says: z.string() });

/** What an archive holds and what it takes back in. */
export interface SiteArchive {
  draft: SiteDraft;
  checks: Check[];
  lenses: Lens[];
  links: CampaignLink[];
  pages: { path: string; title: string; facts: Record<string, unknown> }[];
  settings: z.output<typeof settingsSchema>;
  placeFiles: (z.output<typeof placeFileSchema> & { bytes: Uint8Array })[];
}
/** What goes out besides, to be read and not taken back: it tells what was, and that is not made anew. */
export interface ArchiveExtras {
  releases: unknown;
  audit: unknown;
  /** CSV files, by what was counted in them. */
  results: Record<string, string>;
}

/** Names of files for things whose own may be any text: what leads elsewhere in a path stands in none, and no two are alike. */
export function fileNames(things: readonly string[]): [thing: string, name: string][] {
  const taken = new Set<string>();
  return things.map((thing) => {
    const base = thing.replace(/[^\p{L}\p{N}_-]+/gu, "-").slice(0, 80) || "-";
    let name = base;
    for (let number = 2; taken.has(name.toLowerCase()); number++) name = `${base}-${number}`;
    taken.add(name.toLowerCase());
    return [thing, name];
  });
}

const archiveFormat = "mirada-site/1";
/** An archive may unpack to so many bytes at most. */
export const largestArchive = 400 * 1024 * 1024;

const says = `This archive holds everything of a site.

site.json          what this is
draft.json         what is worked on: the ruleset, with the content library and its picks
ruleset.json       the same as it would go live (for other programs; not read back)
checks.json        saved expectations
lenses.json        made-up visitors
links.json         campaign links; links.csv is the same as a table (not read back)
pages.json         the site's pages and what it tells of them
settings.json      how the site is served
place-data/        files of place data, named in place-data.json
releases.json      everything that went live (not read back: what was, was)
audit.json         the latest lines of the audit trail (not read back)
results/           what was counted (not read back)

People, passwords, keys and sessions are not in it.
`;

const json = (value: unknown): Uint8Array => strToU8(`${JSON.stringify(value, null, 2)}\n`);

/** @param madeAt RFC 3339 */
export function packArchive(site: SiteArchive, extras: ArchiveExtras, madeAt: string): Uint8Array {
  const { placeFiles, draft } = site;
  return zipSync(
    {
      "README.txt": strToU8(says),
      "site.json": json({ format: archiveFormat, site: draft.site.name, madeAt }),
      "draft.json": json(draft),
      "ruleset.json": json(rulesetOf(draft)),
      "checks.json": json(site.checks),
      "lenses.json": json(site.lenses),
      "links.json": json(site.links),
      "links.csv": strToU8(linksToCsv(site.links, draft.site.origin)),
      "pages.json": json(site.pages),
      "settings.json": json(site.settings),
      "place-data.json": json(placeFiles.map(({ bytes: _bytes, ...file }) => file)),
      ...Object.fromEntries(placeFiles.map((file) => [`place-data/${file.id}`, file.bytes])),
      "releases.json": json(extras.releases),
      "audit.json": json(extras.audit),
      ...Object.fromEntries(
        fileNames(Object.keys(extras.results)).map(([slot, name]) => [
          `results/${name}.csv`,
          strToU8(extras.results[slot] as string),
        ]),
      ),
    },
    { level: 6, mtime: new Date(madeAt) },
  );
}

/** Reads an archive: all of it is right, or every problem is told, each with its file and the place in it. */
export function readArchive(
  bytes: Uint8Array,
): { archive: SiteArchive; madeAt: string; name: string } | { problems: Problem[] } {
  let files: Record<string, Uint8Array>;
  let total = 0;
  let large = false;
  try {
    files = unzipSync(bytes, {
      filter(file) {
        if (/^(results\/|ruleset\.json|links\.csv|README)/.test(file.name)) return false;
        total += file.originalSize;
        large ||= total > largestArchive;
        return !large;
      },
    });
  } catch {
    return { problems: [{ path: "", code: "file", problem: t("this is no ZIP archive, or it is damaged") }] };
  }
  if (large)
    return {
      problems: [
        {
          path: "",
          code: "size",
          problem: t("it unpacks to more than {most} MB", { most: largestArchive / 1024 / 1024 }),
        },
      ],
    };
  const problems: Problem[] = [];
  const read = <T>(file: string, by: z.ZodType<T> | ((input: unknown) => Read<T>)): T | undefined => {
    const found = files[file];
    if (!found) {
      problems.push({ path: file, code: "missing", problem: t("is missing") });
      return undefined;
    }
    let value: unknown;
    try {
      value = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(found));
    } catch (error) {
      problems.push({
        path: file,
        code: "file",
        problem: t("is no JSON in UTF-8: {message}", { message: (error as Error).message }),
      });
      return undefined;
    }
    const done = typeof by === "function" ? by(value) : readBy(by, value);
    if (done.ok) return done.value;
    problems.push(...done.problems.map((item) => ({ ...item, path: `${file}${item.path}` })));
    return undefined;
  };
  const head = read(
    "site.json",
    z.looseObject({
      format: z.literal(archiveFormat, `must be "${archiveFormat}"`),
      site: z.string(),
      madeAt: z.string(),
    }),
  );
  if (!head) return { problems };
  const draft = read("draft.json", siteDraftSchema);
  const checks = read("checks.json", readChecks);
  const lenses = read("lenses.json", z.array(lensSchema).max(5000));
  const links = read("links.json", z.array(linkSchema).max(5000));
  const pages = read("pages.json", z.array(pageSchema).max(100_000));
  const settings = read("settings.json", settingsSchema);
  const listed = read("place-data.json", z.array(placeFileSchema).max(50));
  const placeFiles = (listed ?? []).flatMap((file) => {
    const found = files[`place-data/${file.id}`];
    if (!found) problems.push({ path: `place-data/${file.id}`, code: "missing", problem: t("is missing") });
    return found ? [{ ...file, bytes: found }] : [];
  });
  // An unfinished rule may lie in a draft; what does not hold together as a ruleset may not.
  if (draft)
    for (const item of checkRuleset(rulesetOf(draft)))
      if (item.code === "twice" || item.code === "unknown-name")
        problems.push({ ...item, path: `draft.json${item.path}` });
  if (problems.length > 0 || !draft || !checks || !lenses || !links || !pages || !settings) return { problems };
  return {
    archive: { draft, checks, lenses, links, pages: pages as SiteArchive["pages"], settings, placeFiles },
    madeAt: head.madeAt,
    name: head.site,
  };
}
