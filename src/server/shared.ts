import { t } from "@/core/messages/t";
import { visitPhrases } from "@/core/lens/phrases";
import { loadDraft } from "@/data/draft";
import { readShare } from "@/data/passes";
import { listPages } from "@/data/pages";
import { liveRelease } from "@/data/releases";
import { wayTo, type Way } from "./way";

/** What stands around a shared lens: who it is, what is made up about them, and until when it can be seen. */
export interface SharedWords {
  title: string;
  source: "draft" | "live";
  /** What is simulated, part by part. */
  simulated: string[];
  expiresAt: string;
  /** The origin of the site's pages. */
  origin: string;
  lookedBy: Way["by"];
  /** Path and query of the page that is seen first. */
  start: string;
}

/** What a shared link shows; undefined if it has expired or never was one. */
export async function sharedLens(id: string): Promise<SharedWords | undefined> {
  const share = await readShare(id);
  if (!share) return undefined;
  const { site, look, title, expiresAt } = share;
  const ruleset = look.source === "live" ? (await liveRelease(site))?.ruleset : (await loadDraft(site))?.ruleset;
  if (!ruleset) return undefined;
  const pages = await listPages(site);
  const phrases = visitPhrases(look.visit, ruleset, new Map(pages.map((page) => [page.path, page.title])));
  const url = new URL(look.visit.url);
  const way = await wayTo(site, `${url.pathname}${url.search}`, { share: id });
  return {
    title,
    source: look.source === "live" ? "live" : "draft",
    simulated: [
      phrases.visitor,
      t("on {device}", { device: phrases.device }),
      t("in {place}", { place: phrases.place }),
      t("reading {language}", { language: phrases.language }),
      t("arriving {arrival} by {link}", { arrival: phrases.arrival, link: phrases.link }),
      phrases.time,
      t("with {cart}", { cart: phrases.cart }),
    ],
    expiresAt,
    origin: way?.origin ?? url.origin,
    lookedBy: way?.by ?? "tag",
    start: `${url.pathname}${url.search}`,
  };
}
