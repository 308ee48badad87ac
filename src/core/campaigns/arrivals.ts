/** Ways in: how visitors arrive who follow kept links or find a page by searching. */
import { comparable } from "../text/fold";
import { words } from "../text/words";
import { linkText, type CampaignLink } from "./link";

/** One way to arrive: where it leads and what the browser tells of where it came from. */
export interface Arrival {
  id: string;
  /** What one clicks on. */
  name: string;
  says: string;
  /** Path and query on the site. */
  target: string;
  /** "" where mail programs tell none. */
  referrer: string;
}

const sourceOf = (link: CampaignLink): string =>
  comparable(link.tags.find((tag) => tag.name === "utm_source")?.value ?? "");

/** A link as an ad system gives it out: what was searched for in the place of its placeholders for it. */
export const filledFor = (link: CampaignLink, search: string): CampaignLink => ({
  ...link,
  tags: link.tags.map((tag) => ({ ...tag, value: tag.value.replace(/\{+(keyword|search|query|term)\}+/gi, search) })),
});

/** The links whose source is none of some, by their source: so that every link is a way in. */
export function bySource(links: readonly CampaignLink[], known: readonly string[]): Map<string, CampaignLink[]> {
  const told = new Set(known.map((source) => comparable(source)));
  const sources = new Map<string, CampaignLink[]>();
  for (const link of links) {
    const source = sourceOf(link);
    if (!told.has(source)) sources.set(source, [...(sources.get(source) ?? []), link]);
  }
  return sources;
}

/** A link as a way in of which no referrer is known. */
export const arrivalOf = (link: CampaignLink): Arrival => ({
  id: link.id,
  name: link.name,
  says: link.note,
  target: relative(link),
  referrer: "",
});

const relative = (link: CampaignLink): string => linkText(link, "");

/** Sponsored links of a search engine for a search: the kept links whose source is that engine. */
export const sponsored = (
  links: readonly CampaignLink[],
  engine: string,
  search: string,
  referrer: string,
): Arrival[] =>
  links
    .filter((link) => sourceOf(link) === comparable(engine))
    .map((link) => ({
      id: link.id,
      name: link.name,
      says: link.note,
      target: relative(filledFor(link, search)),
      referrer,
    }));

/** What a search engine finds among the pages of a site: those that hold a word of the search, best first. */
export function found(
  pages: readonly { path: string; title: string; text?: string }[],
  search: string,
  referrer: string,
): Arrival[] {
  const wanted = new Set(words(comparable(search)));
  return pages
    .map((page) => {
      const own = words(comparable(`${page.title} ${page.path} ${page.text ?? ""}`));
      return {
        page,
        score: [...wanted].filter((word) =>
          own.some(
            (item) =>
              item === word || (item.length > 3 && word.length > 3 && (item.startsWith(word) || word.startsWith(item))),
          ),
        ).length,
      };
    })
    .filter((item) => item.score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, 8)
    .map(({ page }) => ({ id: page.path, name: page.title, says: page.text ?? "", target: page.path, referrer }));
}

/** Mails with a tagged link each: the kept links whose source is that mailer. */
export const mailed = (links: readonly CampaignLink[], mailer: string, referrer: string): Arrival[] =>
  links
    .filter((link) => sourceOf(link) === comparable(mailer))
    .map((link) => ({ id: link.id, name: link.name, says: link.note, target: relative(link), referrer }));
