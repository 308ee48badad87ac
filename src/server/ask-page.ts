import { answerSays, type SiteAnswer } from "@/core/checks/site";
import { lookOrigin, readSite } from "@/data/sites";
import { fetchFrom, type Fetching } from "./fetch-page";

/** Asks a site for a page with a preview pass, as a browser would, and reads what stands in it. */
export async function askPage(site: string, path: string, pass: string): Promise<SiteAnswer | undefined> {
  const page = await fetchPage(site, `${path}?look=${encodeURIComponent(pass)}`);
  return page.ok ? answerSays(page.status, page.headers, page.body) : undefined;
}

/** Fetches something of a site from where its pages are looked at. `path`: path and query. */
export async function fetchPage(site: string, path: string): Promise<Fetching> {
  const row = await readSite(site);
  if (!row) return { ok: false, problem: "There is no such site." };
  return fetchFrom([...row.origins, lookOrigin(row)], `${lookOrigin(row)}${path}`);
}
