import { t } from "@/core/messages/t";
import { readSitemap, type Sitemap } from "@/core/exchange/sitemap";
import { addPages, listPages, type SitePage } from "@/data/pages";
import { transaction } from "@/data/pool";
import { tell } from "@/data/audit";
import { loadDraft } from "@/data/draft";
import { ownOrigins, readSite } from "@/data/sites";
import { fetchPage } from "./ask-page";
import { factsIn } from "./page-facts";
import { readPage } from "./read-pages";

/** What became of reading a sitemap. */
export type PagesRead =
  { ok: true; added: number; known: number; elsewhere: number; problems: string[] } | { ok: false; problem: string };

/** At most so many pages are taken up, and so many of them asked for their title and facts. */
const mostPages = 5000;
const mostAsked = 200;
const mostSitemaps = 20;

/**
 * Takes up the pages that a sitemap lists and that are not known yet; a list of sitemaps is followed on the site itself.
 * @param xml the file; undefined: the site's own /sitemap.xml is asked for
 */
export async function readPages(site: string, xml: string | undefined, by: string): Promise<PagesRead> {
  const [row, draft] = await Promise.all([readSite(site), loadDraft(site)]);
  if (!row || !draft) return { ok: false, problem: t("There is no such site.") };
  const origins = new Set([draft.ruleset.site.origin, ...ownOrigins(row)]);
  const got = xml === undefined ? await fetchPage(site, "/sitemap.xml") : undefined;
  if (got && !got.ok)
    return {
      ok: false,
      problem: t("The site could not be asked for /sitemap.xml: {problem}", { problem: got.problem }),
    };
  if (got && got.status !== 200)
    return {
      ok: false,
      problem: t("The site has no /sitemap.xml (it answered {status}). A file of it will do, too.", {
        status: got.status,
      }),
    };
  const text = xml ?? got?.body ?? "";
  const found = await follow(site, origins, text);
  if (!found.ok) return found;
  const { addresses, problems } = found.value;
  const own = addresses.filter((address) => origins.has(new URL(address).origin));
  const known = new Set((await listPages(site)).map((page) => page.path));
  const paths = [...new Set(own.map((address) => new URL(address).pathname))];
  const fresh = paths.filter((path) => !known.has(path));
  if (fresh.length > mostPages)
    problems.push(
      t("Only the first {mostPages} of {fresh} new pages were taken up.", { mostPages, fresh: fresh.length }),
    );
  const pages: SitePage[] = [];
  for (const [index, path] of fresh.slice(0, mostPages).entries()) {
    const document = index < mostAsked ? await readPage(site, path) : undefined;
    pages.push(document ? factsIn(document, path, draft.ruleset) : { path, title: path, facts: {} });
  }
  await transaction(site, async (db) => {
    await addPages(site, pages, db);
    await tell(site, by, { kind: "settings", says: t("{pages} pages were taken up", { pages: pages.length }) }, db);
  });
  return {
    ok: true,
    added: pages.length,
    known: paths.length - fresh.length,
    elsewhere: addresses.length - own.length,
    problems: problems.slice(0, 50),
  };
}

async function follow(
  site: string,
  origins: ReadonlySet<string>,
  xml: string,
): Promise<{ ok: true; value: Sitemap } | { ok: false; problem: string }> {
  const read = readSitemap(xml);
  if (!read.ok || read.value.kind === "pages") return read;
  const all: Sitemap = { kind: "pages", addresses: [], problems: [...read.value.problems] };
  if (read.value.addresses.length > mostSitemaps)
    all.problems.push(
      t("Only the first {mostSitemaps} of {addresses} sitemaps were read.", {
        mostSitemaps,
        addresses: read.value.addresses.length,
      }),
    );
  for (const address of read.value.addresses.slice(0, mostSitemaps)) {
    const url = new URL(address);
    const inner = origins.has(url.origin) ? await fetchPage(site, `${url.pathname}${url.search}`) : undefined;
    const list = inner?.ok ? readSitemap(inner.body) : undefined;
    if (!list) all.problems.push(t("{address} could not be asked for", { address }));
    else if (!list.ok) all.problems.push(`${address}: ${list.problem}`);
    else {
      all.problems.push(...list.value.problems);
      if (list.value.kind === "pages") all.addresses.push(...list.value.addresses);
    }
  }
  return { ok: true, value: all };
}
