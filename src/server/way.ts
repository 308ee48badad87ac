/** By which way a page of a site is looked at, and why: see docs/architecture.md, “Looking at pages”. */
import { t } from "@/core/messages/t";
import { mayBeFramed } from "@/core/preview/framing";
import { mirrorOrigin } from "@/core/preview/mirror";
import { openMirror, type MirrorFor } from "@/data/mirrors";
import { lookOrigin, ownOrigins, readSite } from "@/data/sites";
import { listTagSeen } from "@/data/tag-seen";
import { fetchFrom, type Fetched } from "./fetch-page";
import { mirrorPattern } from "./mirror-address";
import { headerOf, tagOf } from "./tag-on-page";

export interface Way {
  by: "process" | "tag" | "mirror" | "none";
  /** The origin of the page in the frame. */
  origin: string;
  /** Why it is this way, in words; of the usual way nothing is said. */
  why?: string;
  /** What would help where no way leads there. */
  help?: string;
  /** What the site answers for the page, where that is no page: 404 and the like. */
  status?: number;
  /** The mirror's origins, each with the site's that it shows. */
  origins?: [mirror: string, site: string][];
}

const workbenchOrigin = (): string =>
  new URL(process.env.MIRADA_ORIGIN ?? `http://localhost:${process.env.PORT ?? 4300}`).origin;

/** Whether a page may stand in a frame of this workbench. */
export const isFramed = (page: Pick<Fetched, "headers">): boolean =>
  mayBeFramed(
    {
      "content-security-policy": headerOf(page, "content-security-policy"),
      "x-frame-options": headerOf(page, "x-frame-options"),
    },
    workbenchOrigin(),
  );

/** The way to a page. `path`: path and query. */
export async function wayTo(site: string, path: string, who: MirrorFor): Promise<Way | undefined> {
  const row = await readSite(site);
  if (!row) return undefined;
  const origin = lookOrigin(row);
  if (row.lookedBy === "process") return { by: "process", origin };
  const origins = ownOrigins(row);
  const page = await fetchFrom(origins, `${origin}${path}`, { "accept-encoding": "gzip, br" });
  if (!page.ok)
    return {
      by: "none",
      origin,
      why: t("The page cannot be fetched: {problem}", { problem: page.problem }),
      help: t(
        "Once the page carries the tag and may be framed by this workbench, it is looked at in its own place, from your browser.",
      ),
    };
  const tag = tagOf(page.body, site);
  const framed = isFramed(page);
  const mixed = workbenchOrigin().startsWith("https:") && origin.startsWith("http:");
  const status = page.status >= 400 ? { status: page.status } : {};
  if (tag === "here" && framed && !mixed) return { by: "tag", origin, ...status };
  const why =
    tag === "none"
      ? t("the page does not carry the tag {value}", { value: (await wasHeard(site, path)) ? t("any more") : t("yet") })
      : tag === "another"
        ? t("the page carries the tag of another site")
        : mixed
          ? t("the page is served without encryption, and browsers show no such page within this one")
          : t("the page refuses to stand in frames of others");
  return { ...(await throughMirror(site, origins, who)), why, ...status };
}

/** Whether the tag of a page was heard from before. */
const wasHeard = async (site: string, path: string): Promise<boolean> => {
  const { pathname } = new URL(path, "https://page.invalid");
  return (await listTagSeen(site)).some((page) => page.path === pathname);
};

/** The mirror of a site, whatever else would lead there. */
export async function mirrorOf(site: string, who: MirrorFor): Promise<Way | undefined> {
  const row = await readSite(site);
  return row && throughMirror(site, ownOrigins(row), who);
}

async function throughMirror(site: string, origins: readonly string[], who: MirrorFor): Promise<Way> {
  const id = await openMirror(site, who);
  const mirrors = origins.map((origin, number): [string, string] => [
    mirrorOrigin(mirrorPattern(), id, number),
    origin,
  ]);
  return { by: "mirror", origin: mirrorOrigin(mirrorPattern(), id), origins: mirrors };
}
