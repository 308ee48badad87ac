import { createHash } from "node:crypto";
import type { CampaignLink } from "@/core/campaigns/link";
import { listLinks } from "@/data/links";
import type { Check } from "@/core/formats/check";
import type { Ruleset } from "@/core/formats/ruleset";
import type { SiteDraft } from "@/core/formats/site-draft";
import { listChecks } from "@/data/checks";
import { deliverySettings } from "@/data/delivery";
import { draftVersion, loadDraft } from "@/data/draft";
import { listLenses, type Lens } from "@/data/lenses";
import { listPages, type SitePage } from "@/data/pages";
import { listPauses, type KeptPause } from "@/data/pauses";
import { listPeople, type SignedIn } from "@/data/people";
import { of } from "@/data/pool";
import { listProducts, type SiteProduct } from "@/data/products";
import { siteExamples } from "@/data/sites";
import type { Examples } from "@/core/formats/examples";
import { liveMark, liveRelease } from "@/data/releases";
import { listReviews, type Review } from "@/data/reviews";
import { whoIsHere, type Present } from "@/data/sessions";
import { marks, type Marks } from "./draft";
import { nowText } from "@/clock";

/** What everybody at the desk sees the same of, beside the draft. */
interface Shared {
  lenses: Lens[];
  links: CampaignLink[];
  checks: Check[];
  present: Present[];
  /** Everybody's name, by id; also of those who left. */
  names: Record<string, string>;
  /** What was asked to go live and is not decided, or waits for its time. */
  review: Review | null;
  pauses: KeptPause[];
}

/** What the workbench opens with. */
export interface OpenedDesk extends Shared, Marks {
  me: Pick<SignedIn, "id" | "name" | "roles" | "session" | "administrator">;
  ruleset: SiteDraft;
  version: number;
  live: { ruleset: Ruleset; number: number; mark: string } | undefined;
  pages: SitePage[];
  products: SiteProduct[];
  /** Other hosts that visitors may be sent to, and whose pages may stand in a frame. */
  otherHosts: string[];
  /** Whether a release needs a second person. */
  secondPerson: boolean;
  /** What came with the site to be tried out with. */
  examples: Examples;
  /** The time at which it was opened. */
  now: string;
}

async function shared(site: string): Promise<Shared> {
  const [lenses, links, checks, present, people, reviews, pauses] = await Promise.all([
    listLenses(site),
    listLinks(site),
    listChecks(site),
    whoIsHere(site),
    listPeople(site),
    listReviews(site, 5),
    listPauses(site),
  ]);
  return {
    lenses,
    links,
    checks,
    present,
    names: Object.fromEntries(people.map((person) => [person.id, person.name])),
    review: reviews.find((review) => review.state === "open" || review.state === "approved") ?? null,
    pauses,
  };
}

async function liveNow(site: string): Promise<OpenedDesk["live"]> {
  const mark = await liveMark(site);
  const live = await liveRelease(site);
  return live && { ruleset: live.ruleset, number: live.number, mark };
}

export async function openDesk(who: SignedIn): Promise<OpenedDesk | undefined> {
  const { site, id, name, roles, session, administrator } = who;
  const draft = await loadDraft(site);
  if (!draft) return undefined;
  const [pages, products, live, history, { otherHosts, secondPerson }, examples, rest] = await Promise.all([
    listPages(site),
    listProducts(site),
    liveNow(site),
    marks(site, id, of(site)),
    deliverySettings(site),
    siteExamples(site),
    shared(site),
  ]);
  const me = { id, name, roles, session, administrator };
  return {
    ...draft,
    ...history,
    ...rest,
    me,
    live,
    pages,
    products,
    otherHosts,
    secondPerson,
    examples,
    now: nowText(),
  };
}

/** Lists of the desk that may be long: they come only if they are others than were known. */
const lists = ["lenses", "links", "checks", "pauses"] as const;
type List = (typeof lists)[number];

/** What has changed on the desk. The draft, what is live and the lists come only if they are others than were known. */
export interface DeskNews extends Omit<Shared, List>, Partial<Pick<Shared, List>> {
  draft?: { ruleset: SiteDraft; version: number } & Marks;
  live?: NonNullable<OpenedDesk["live"]>;
  /** A mark of each list as it is now: told the next time, it says what is known. */
  lists: Record<string, string>;
}

/**
 * @param version the version of the draft that is known; @param mark that of what is live
 * @param known the marks of the lists, as they were told last
 */
export async function deskNow(
  who: SignedIn,
  version: number,
  mark: string,
  known?: Readonly<Record<string, string>> | null,
): Promise<DeskNews> {
  const { site } = who;
  const [rest, now, at] = await Promise.all([shared(site), liveMark(site), draftVersion(site)]);
  const draft = at === version ? undefined : await loadDraft(site);
  const live = now === mark ? undefined : await liveNow(site);
  const { present, names, review } = rest;
  const told = Object.fromEntries(
    lists.map((name) => [
      name,
      createHash("sha256").update(JSON.stringify(rest[name])).digest("base64url").slice(0, 16),
    ]),
  );
  const others = lists.filter((name) => known?.[name] !== told[name]);
  return {
    present,
    names,
    review,
    ...Object.fromEntries(others.map((name) => [name, rest[name]])),
    lists: told,
    ...(draft ? { draft: { ...draft, ...(await marks(site, who.id, of(who.site))) } } : {}),
    ...(live ? { live } : {}),
  };
}
