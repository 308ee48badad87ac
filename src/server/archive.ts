import { t } from "@/core/messages/t";
import { readArchive, packArchive, type SiteArchive } from "@/core/exchange/archive";
import { replaceDraft } from "@/core/draft/replace";
import type { Problem } from "@/core/formats/problem";
import { resultsToCsv } from "@/core/results/results";
import { mayDo, refusal } from "@/core/people/roles";
import { readAudit, tell } from "@/data/audit";
import { deleteCheck, listChecks, saveChecks } from "@/data/checks";
import {
  addPlaceFile,
  deletePlaceFile,
  deliverySettings,
  listPlaceFiles,
  placeFileBytes,
  saveDelivery,
} from "@/data/delivery";
import { loadDraft } from "@/data/draft";
import { deleteLens, listLenses, saveLens } from "@/data/lenses";
import { deleteLink, listLinks, saveLinks } from "@/data/links";
import { addPages, listPages, removePages } from "@/data/pages";
import { unstorable, unstorableWords } from "@/core/formats/storable";
import type { SignedIn } from "@/data/people";
import { longTransaction } from "@/data/pool";
import { listReleases, readRelease, wentLive } from "@/data/releases";
import { countedSlots, resultRows } from "@/data/results";
import { announceDesk } from "@/data/sessions";
import { changeDraftIn } from "./draft";
import { readPlaces } from "./place-files";
import { now as clock } from "@/clock";

/** Everything that a site has, as one ZIP archive. */
export async function makeArchive(site: string): Promise<Uint8Array | undefined> {
  const [draft, checks, lenses, links, pages, settings, files, notes, live, audit] = await Promise.all([
    loadDraft(site),
    listChecks(site),
    listLenses(site),
    listLinks(site),
    listPages(site),
    deliverySettings(site),
    listPlaceFiles(site),
    listReleases(site),
    wentLive(site),
    readAudit(site, {}, 1000),
  ]);
  if (!draft) return undefined;
  const { trustedProxies, otherHosts, origins, secondPerson, eventDays } = settings;
  const placeFiles = await Promise.all(
    files.map(async ({ id, name, format, says }) => ({
      id,
      name,
      format,
      says,
      bytes: new Uint8Array((await placeFileBytes(site, id)) ?? []),
    })),
  );
  // By whatever zone the site's days go.
  const [from, until] = [-400, 1].map((days) => new Date(clock() + days * 86_400_000).toISOString().slice(0, 10)) as [
    string,
    string,
  ];
  const results: Record<string, string> = {};
  for (const { slot } of await countedSlots(site, from, until)) {
    const rows = await resultRows(site, slot, from, until);
    results[slot] = resultsToCsv(rows, slot);
  }
  const releases = [];
  for (const { number } of notes) releases.push(await readRelease(site, number));
  return packArchive(
    {
      draft: draft.ruleset,
      checks,
      lenses,
      links,
      pages: pages as SiteArchive["pages"],
      settings: { trustedProxies, otherHosts, origins, secondPerson, eventDays },
      placeFiles,
    },
    { releases: { releases, live }, audit, results },
    new Date(clock()).toISOString(),
  );
}

export type ArchiveTaken = { ok: true; says: string } | { ok: false; problem: string; problems?: Problem[] };

/** Puts what an archive holds in the place of what the site has: all of it or nothing. What is live stays as it is. */
export async function takeArchive(who: SignedIn, bytes: Uint8Array): Promise<ArchiveTaken> {
  for (const ability of ["content", "rules", "build"] as const)
    if (!mayDo(who.roles, ability)) return { ok: false, problem: refusal(who.roles, ability) };
  const read = readArchive(bytes);
  if ("problems" in read)
    return { ok: false, problem: t("Nothing was changed: the archive is not right."), problems: read.problems };
  const { archive, name, madeAt } = read;
  const odd = unstorable(archive);
  if (odd !== undefined)
    return {
      ok: false,
      problem: t("Nothing was changed."),
      problems: [{ path: odd, code: "form", problem: unstorableWords() }],
    };
  const placeFiles: { file: Parameters<typeof addPlaceFile>[1]; own: Uint8Array }[] = [];
  for (const { bytes: own, ...file } of archive.placeFiles) {
    const found = await readPlaces(own);
    if (!found.ok)
      return {
        ok: false,
        problem: t("Nothing was changed: {file}: {problem}", { file: file.name, problem: found.problem }),
      };
    placeFiles.push({ file: { ...file, packed: found.packed }, own });
  }
  const { site } = who;
  const says = t("The archive of {name}, made on {madeAt}, was imported", { name, madeAt: madeAt.slice(0, 10) });
  return longTransaction(who.site, async (db): Promise<ArchiveTaken> => {
    const draft = await loadDraft(site, db, true);
    if (!draft) return { ok: false, problem: t("There is no such site.") };
    const edits = replaceDraft(draft.ruleset, archive.draft);
    if (edits.length > 0) {
      const done = await changeDraftIn(who, says, edits, db);
      if (!done.ok) return { ok: false, problem: t("Nothing was changed: {problem}", { problem: done.problem }) };
    }
    for (const item of await listChecks(site, db)) await deleteCheck(site, item.id, db);
    for (const item of await listLenses(site, db)) await deleteLens(site, item.id, db);
    for (const item of await listLinks(site, db)) await deleteLink(site, item.id, db);
    await removePages(
      site,
      (await listPages(site, db)).map((item) => item.path),
      db,
    );
    for (const item of await listPlaceFiles(site, db)) await deletePlaceFile(site, item.id, db);
    await saveChecks(site, archive.checks, db);
    for (const lens of archive.lenses) await saveLens(site, lens, db);
    await saveLinks(site, archive.links, db);
    await addPages(site, archive.pages, db);
    for (const { file, own } of placeFiles) await addPlaceFile(site, file, own, db);
    const { trustedProxies, otherHosts, origins, secondPerson, eventDays } = archive.settings;
    await saveDelivery(site, "trustedProxies", trustedProxies, db);
    await saveDelivery(site, "otherHosts", otherHosts, db);
    await saveDelivery(site, "origins", origins, db);
    await saveDelivery(site, "secondPerson", secondPerson, db);
    await saveDelivery(site, "eventDays", eventDays, db);
    await tell(site, who.id, { kind: "settings", says }, db);
    await announceDesk(site, db);
    return { ok: true, says };
  });
}
