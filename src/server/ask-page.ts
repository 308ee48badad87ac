import { t } from "@/core/messages/t";
import { answerSays, tagAnswerSays, type TagAnswer } from "@/core/checks/answer";
import type { SiteAnswer } from "@/core/checks/site";
import { listKeys } from "@/data/keys";
import { lookOrigin, ownOrigins, readSite, type SiteRow } from "@/data/sites";
import { deliveryAddress } from "./delivery-address";
import { fetchFrom, type Fetching } from "./fetch-page";
import { parsePage, placesOf } from "./page-places";

/** Asks a site for a page with a preview pass, as a browser would, and reads what visitors get there. */
export async function askPage(site: string, path: string, pass: string): Promise<SiteAnswer | undefined> {
  const row = await readSite(site);
  if (row?.lookedBy === "tag") return askByTag(row, path, pass);
  const page = await fetchPage(site, `${path}?look=${encodeURIComponent(pass)}`);
  return page.ok ? answerSays(page.status, page.headers, page.body) : undefined;
}

/** The page as it is served, and what the tag's door answers it: asked over HTTP, as from a visitor's browser. */
async function askByTag(row: SiteRow, path: string, pass: string): Promise<SiteAnswer | undefined> {
  const page = await fetchPage(row.id, path);
  if (!page.ok) return undefined;
  const bare = (amiss: string): SiteAnswer => ({
    ...answerSays(page.status, page.headers, page.body),
    plain: false,
    amiss,
  });
  if (page.status >= 400) return bare(t("the site answered {status}: there is no such page", { status: page.status }));
  if (!page.body.includes("/v1/page.js"))
    return bare(t("the page does not carry the tag, so visitors get its own content"));
  const keys = (await listKeys(row.id)).filter((key) => key.kind === "public" && !key.endedAt && key.key);
  const key = keys.find((one) => page.body.includes(one.key as string));
  if (!key?.key) return bare(t("the page’s tag has a key that is not good, so visitors get its own content"));
  const answer: unknown = await fetch(`${deliveryAddress()}/v1/look`, {
    method: "POST",
    headers: { "content-type": "text/plain", origin: new URL(page.url).origin },
    body: JSON.stringify({ key: key.key, pass, path }),
    signal: AbortSignal.timeout(10_000),
  }).then(
    (response) => response.json(),
    () => undefined,
  );
  if (answer === undefined) return bare(t("the delivery server could not be reached"));
  // A problem (RFC 9457) has a title.
  const { title, ...said } = answer as TagAnswer & { title?: string };
  if (title !== undefined) return bare(t("the delivery server refuses it: {title}", { title }));
  const document = parsePage(page.body);
  const has = (id: string) => {
    const at = said.places?.[id];
    const found = placesOf(document, { id, at });
    // What draws itself apart in the browser is taken to be there.
    return found === undefined || (at?.each ? found.length > 0 : found.length === 1);
  };
  return tagAnswerSays(page.status, page.headers, page.body, said, has);
}

/** Fetches something of a site from where its pages are looked at. `path`: path and query. */
export async function fetchPage(site: string, path: string): Promise<Fetching> {
  const row = await readSite(site);
  if (!row) return { ok: false, problem: t("There is no such site.") };
  return fetchFrom(ownOrigins(row), `${lookOrigin(row)}${path}`);
}
