/** What was counted of a slot, with what happened meanwhile: for the workbench, and for whoever has a link to it. */
import { formatDate } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";
import { countedThings, withoutContent, type Counted } from "@/core/results/counted";
import { groups, resultsToCsv, type Group, type ResultRow } from "@/core/results/results";
import type { ValueRow } from "@/core/results/worth";
import type { Apart } from "@/core/formats/event";
import type { Goal } from "@/core/formats/goal";
import { readAnnotations, type Annotation } from "@/data/annotations";
import { listPeople } from "@/data/people";
import { liveRelease, wentLive } from "@/data/releases";
import { countedApart, resultRows, valueRows } from "@/data/results";
import { readResultLink } from "@/data/result-links";
import { loadDraft } from "@/data/draft";
import { nowText } from "@/clock";

const day = 86_400_000;

/** What was counted of one slot, and what happened meanwhile. */
export interface SlotCounts {
  /** By day, and by one kind of group of visitors. */
  rows: ResultRow[];
  by: Group;
  /** What those were worth who reached a goal. */
  values: ValueRow[];
  /** What went live in this time, oldest first. */
  releases: { release: number; at: string; why: string }[];
  annotations: (Omit<Annotation, "madeBy"> & { by: string })[];
  /** What was told of it and is no result: without a good receipt, or by crawlers. */
  apart: { apart: Apart; kind: ResultRow["kind"]; count: number }[];
}

/** A day more at both ends: days of a zone begin and end at other instants than those of UTC. */
const around = (from: string, until: string): [start: Date, end: Date] => [
  new Date(Date.parse(from) - 14 * 3_600_000),
  new Date(Date.parse(until) + 38 * 3_600_000),
];

/** @param from and until: whole days (YYYY-MM-DD) of the site's calendar */
export async function slotCounts(
  site: string,
  slot: string,
  from: string,
  until: string,
  by: Group,
): Promise<SlotCounts> {
  const [start, end] = around(from, until);
  const [rows, values, apart, live, annotations, people] = await Promise.all([
    resultRows(site, slot, from, until, ["day", by]),
    valueRows(site, slot, from, until),
    countedApart(site, slot, from, until),
    wentLive(site),
    readAnnotations(site, from, until),
    listPeople(site),
  ]);
  return {
    rows,
    by,
    values,
    apart,
    releases: live
      .filter((item) => Date.parse(item.at) >= start.getTime() && Date.parse(item.at) < end.getTime())
      .map(({ release, at, why }) => ({ release, at, why }))
      .reverse(),
    annotations: annotations.map(({ madeBy, ...rest }) => ({
      ...rest,
      by: people.find(({ id }) => id === madeBy)?.name ?? "",
    })),
  };
}

/** What whoever has a link to results is shown. */
export interface SharedResultsNow {
  counts: SlotCounts;
  slot: Counted;
  goals: Pick<Goal, "id" | "name">[];
  goal: string;
  from: string;
  until: string;
  /** The day that it is on the site, YYYY-MM-DD. */
  today: string;
  endsAt: string;
  site: { name: string; zone: string; currency: string; language: string };
}

/** A link by its name, with the draft of its site and the days that it shows; undefined: there is none, or it has ended. */
async function openLink(name: string) {
  const link = await readResultLink(name);
  const draft = link && (await loadDraft(link.site))?.ruleset;
  if (!link || !draft) return undefined;
  const today = formatDate(Math.floor(zoneOf(draft.site.zone).toLocal(Date.parse(nowText())) / day));
  return { link, draft, today, until: link.until ?? today };
}

/** What the link of a name shows as a CSV, by a goal ("": any); undefined: there is none, or it has ended. */
export async function sharedTable(name: string, goal: string): Promise<string | undefined> {
  const open = await openLink(name);
  if (!open) return undefined;
  const { site, slot, from } = open.link;
  return resultsToCsv(await resultRows(site, slot, from, open.until), slot, goal || undefined);
}

/** What the link of a name shows, its visitors parted by one kind of group; undefined: there is none, or it has ended. */
export async function sharedResults(name: string, asked?: string): Promise<SharedResultsNow | undefined> {
  const open = await openLink(name);
  if (!open) return undefined;
  const { link, draft, today, until } = open;
  const { site } = draft;
  const live = await liveRelease(link.site);
  const by = groups.find((one) => one === asked) ?? "source";
  const slot = countedThings(draft, live?.ruleset).get(link.slot);
  return {
    counts: await slotCounts(link.site, link.slot, link.from, until, by),
    slot: slot ? withoutContent(slot) : { id: link.slot, name: link.slot, variants: [] },
    goals: draft.goals.map(({ id, name: called }) => ({ id, name: called })),
    goal: link.goal,
    from: link.from,
    until,
    today,
    endsAt: link.endsAt,
    site: { name: site.name, zone: site.zone, currency: site.currency, language: site.language },
  };
}
