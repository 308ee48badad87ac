import { isUrl } from "@/core/text/is-url";
import type { Ruleset } from "@/core/formats/ruleset";
import type { SiteDraft } from "@/core/formats/site-draft";
import { besides, type Told } from "@/core/draft/besides";
import { rulesetOf } from "@/core/draft/picks";
import { deliverySettings } from "@/data/delivery";
import { draftVersion, loadDraft } from "@/data/draft";
import { readLens, type Lens } from "@/data/lenses";
import { listMarks, type ListName } from "@/data/lists";
import { readPage, type SitePage } from "@/data/pages";
import { listPauses, type KeptPause } from "@/data/pauses";
import { listPeople, type SignedIn } from "@/data/people";
import { of } from "@/data/pool";
import { siteExamples } from "@/data/sites";
import type { Examples } from "@/core/formats/examples";
import { liveMark, liveRelease } from "@/data/releases";
import { listReviews, type Review } from "@/data/reviews";
import { whoIsHere, type Present } from "@/data/sessions";
import { marks, type Marks } from "./draft";
import { readPart, type ListPart } from "./lists";
import { nowText } from "@/clock";
import { readablePath } from "@/core/visit/url";

/** What everybody at the desk sees the same of, beside the draft. */
interface Shared {
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
  /** What is live, told by what it shares with the draft. */
  live: { told: Told; number: number; mark: string } | undefined;
  /** The first part of each list that the screen needs; the others are asked for where they are needed. */
  lists: { [L in ListName]?: ListPart<L> };
  /** The lens that the address names. */
  lens: Lens | undefined;
  /** The page that the address names, or that the lens looks at. */
  page: SitePage | undefined;
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
  const [present, people, reviews, pauses] = await Promise.all([
    whoIsHere(site),
    listPeople(site),
    listReviews(site, 5),
    listPauses(site),
  ]);
  return {
    present,
    names: Object.fromEntries(people.map((person) => [person.id, person.name])),
    review: reviews.find((review) => review.state === "open" || review.state === "approved") ?? null,
    pauses,
  };
}

/** The path of an address or of a page's address on the site, as pages are known by. */
function pathIn(address: string | null | undefined): string | undefined {
  const base = "https://site.invalid";
  return address && isUrl(address, base) ? readablePath(new URL(address, base).pathname) : undefined;
}

interface Live {
  ruleset: Ruleset;
  number: number;
  mark: string;
}
async function liveNow(site: string): Promise<Live | undefined> {
  const mark = await liveMark(site);
  const live = await liveRelease(site);
  return live && { ruleset: live.ruleset, number: live.number, mark };
}

/** What the address of the workbench names. */
interface Wanted {
  lists: readonly ListName[];
  lens: string | null;
  page: string | null;
}

export async function openDesk(who: SignedIn, wanted: Wanted): Promise<OpenedDesk | undefined> {
  const { site, id, name, roles, session, administrator } = who;
  const draft = await loadDraft(site);
  if (!draft) return undefined;
  const parts = async () =>
    Object.fromEntries(
      await Promise.all(wanted.lists.map(async (list) => [list, await readPart(site, list, 0)] as const)),
    ) as OpenedDesk["lists"];
  const [lists, asked, live, history, { otherHosts, secondPerson }, examples, rest] = await Promise.all([
    parts(),
    wanted.lens === null ? undefined : readLens(site, wanted.lens),
    liveNow(site),
    marks(site, id, of(site)),
    deliverySettings(site),
    siteExamples(site),
    shared(site),
  ]);
  const lens = asked ?? lists.lenses?.items[0];
  const path = pathIn(wanted.page) ?? pathIn(lens?.visit.url);
  const me = { id, name, roles, session, administrator };
  const told = live && besides(rulesetOf(draft.ruleset), live.ruleset);
  return {
    ...draft,
    ...history,
    ...rest,
    me,
    live: live && told && { told, number: live.number, mark: live.mark },
    lists,
    lens,
    page: path === undefined ? undefined : await readPage(site, path),
    otherHosts,
    secondPerson,
    examples,
    now: nowText(),
  };
}

/** What has changed on the desk. The draft and what is live come only if they are others than were known. */
export interface DeskNews extends Shared {
  draft?: { ruleset: SiteDraft; version: number } & Marks;
  live?: Live;
  /** The mark of each list as it is now: whoever has it, and knows another, asks for it anew. */
  lists: Record<ListName, string>;
}

/** @param version the version of the draft that is known; @param mark that of what is live */
export async function deskNow(who: SignedIn, version: number, mark: string): Promise<DeskNews> {
  const { site } = who;
  const [rest, now, at, lists] = await Promise.all([shared(site), liveMark(site), draftVersion(site), listMarks(site)]);
  const draft = at === version ? undefined : await loadDraft(site);
  const live = now === mark ? undefined : await liveNow(site);
  return {
    ...rest,
    lists,
    ...(draft ? { draft: { ...draft, ...(await marks(site, who.id, of(who.site))) } } : {}),
    ...(live ? { live } : {}),
  };
}
