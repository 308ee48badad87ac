import { t } from "@/core/messages/t";
import * as z from "zod";
import { id } from "@/core/formats/basics";
import { parseAddress, parseBlock } from "@/core/visit/address";
import { isLoopback } from "@/core/visit/origins";
import { isSpecial } from "@/core/visit/special";
import { hostProblem, originProblem } from "@/core/formats/origin";
import { tell } from "@/data/audit";
import { deletePlaceFile, deliverySettings, listPlaceFiles, saveDelivery, type PlaceFile } from "@/data/delivery";
import { endKey, listKeys, makeKey, type SiteKey } from "@/data/keys";
import { removePages } from "@/data/pages";
import { transaction } from "@/data/pool";
import { announceDesk } from "@/data/sessions";
import { readSite } from "@/data/sites";
import { action, Refusal } from "../act";
import { mayAskPrivate } from "../fetch-page";
import { changeList } from "../lists";
import { readPages } from "../page-list";
import { deliveryAddress } from "../delivery-address";
import { setHosts } from "../sites";

/** What settings show of how a site is served. */
export interface ServedBy {
  trustedProxies: string[];
  placeFiles: PlaceFile[];
  origins: string[];
  secondPerson: boolean;
  eventDays: number;
  keys: SiteKey[];
  /** The address of the delivery server, as browsers reach it. */
  delivery: string;
}

/** Sets one delivery setting, and writes down by whom and from what. */
async function set<K extends Parameters<typeof saveDelivery>[1]>(
  who: { site: string; id: string },
  key: K,
  says: string,
  value: Awaited<ReturnType<typeof deliverySettings>>[K],
): Promise<void> {
  await transaction(who.site, async (db) => {
    const before = (await deliverySettings(who.site, db))[key];
    await saveDelivery(who.site, key, value, db);
    await tell(who.site, who.id, { kind: "settings", says, before: { [key]: before }, after: { [key]: value } }, db);
    await announceDesk(who.site, db);
  });
}

/** Visitors are not sent into private networks, nor shown frames from there, unless the installation allows it. */
function privateProblem(host: string): string | undefined {
  const { hostname } = new URL(`https://${host}/`);
  const address = parseAddress(hostname.replace(/^\[|\]$/g, ""));
  const isPrivate = isLoopback(hostname) || (address !== undefined && isSpecial(address));
  return isPrivate && !mayAskPrivate()
    ? t("“{host}” is an address of this machine or of a private network", { host })
    : undefined;
}

/** How a site is served, beside its rules: a developer's. */
export const settingsActions = {
  servedBy: action("signed in", [], async (who): Promise<ServedBy> => {
    const [delivery, placeFiles, keys] = await Promise.all([
      deliverySettings(who.site),
      listPlaceFiles(who.site),
      listKeys(who.site),
    ]);
    const { trustedProxies, origins, secondPerson, eventDays } = delivery;
    return { trustedProxies, origins, secondPerson, eventDays, placeFiles, keys, delivery: deliveryAddress() };
  }),
  /** Names the proxies whose X-Forwarded-For is believed. A problem in words if one of them is no address or block. */
  trustProxies: action("build", [z.array(z.string().max(60)).max(100)], async (who, blocks) => {
    for (const text of blocks) {
      const block = parseBlock(text);
      if ("problem" in block) return `${text} ${block.problem}`;
    }
    await set(who, "trustedProxies", t("Trusted proxies are others"), blocks);
    return undefined;
  }),
  /** Names the other hosts that visitors may be sent to, and whose pages may stand in a frame. A problem in words, or nothing. */
  allowHosts: action("build", [z.array(z.string().max(260)).max(100)], async (who, hosts) => {
    const wrong = hosts
      .map((host) => hostProblem(host) ?? privateProblem(host))
      .find((problem) => problem !== undefined);
    if (wrong) return wrong;
    await set(who, "otherHosts", t("Other hosts are others"), hosts);
    return undefined;
  }),
  /** Names the origins whose pages may ask by script. A problem in words, or nothing. */
  allowOrigins: action("build", [z.array(z.string().max(260)).max(100)], async (who, origins) => {
    const wrong = origins.map(originProblem).find((problem) => problem !== undefined);
    if (wrong) return wrong;
    await set(who, "origins", t("Origins that may ask by script are others"), origins);
    return undefined;
  }),
  /** Sets the other addresses under which the site is found, and at which of all its pages are looked at. */
  setHosts: action(
    "build",
    [
      z.strictObject({
        others: z.array(z.string().max(260)).max(50),
        lookedAt: z.string().max(260).nullable(),
        lookedBy: z.enum(["tag", "process"]).optional(),
      }),
    ],
    setHosts,
  ),
  hosts: action("signed in", [], async (who) => {
    const row = await readSite(who.site);
    return {
      origins: row?.origins ?? [],
      lookedAt: row?.lookedAt ?? null,
      lookedBy: row?.lookedBy ?? ("tag" as const),
    };
  }),
  askSecondPerson: action("build", [z.boolean()], async (who, needed) => {
    await set(
      who,
      "secondPerson",
      needed ? t("Releases need a second person") : t("A release needs no second person"),
      needed,
    );
  }),
  keepEventsFor: action("build", [z.number().int().min(1).max(400)], async (who, days) => {
    await set(who, "eventDays", t("Events are kept for {days} days", { days }), days);
  }),
  /** Makes a key. A secret one is shown this once. */
  makeKey: action("build", [z.enum(["public", "secret"]), z.string().trim().min(1).max(80)], (who, kind, name) =>
    transaction(who.site, async (db) => {
      const made = await makeKey(who.site, kind, name, who.id, db);
      await tell(who.site, who.id, { kind: "keys", says: t("A {kind} key was made: {name}", { kind, name }) }, db);
      return { key: made, keys: await listKeys(who.site, db) };
    }),
  ),
  endKey: action("build", [id], (who, key) =>
    transaction(who.site, async (db) => {
      const known = (await listKeys(who.site, db)).find((item) => item.id === key);
      if (!known) throw new Refusal(404, t("There is no such key."));
      await endKey(who.site, key, db);
      await tell(
        who.site,
        who.id,
        { kind: "keys", says: t("A {kind} key was ended: {known}", { kind: known.kind, known: known.name }) },
        db,
      );
      return listKeys(who.site, db);
    }),
  ),
  dropPlaceFile: action("build", [id], (who, file) =>
    transaction(who.site, async (db) => {
      const name = (await listPlaceFiles(who.site, db)).find((item) => item.id === file)?.name;
      await deletePlaceFile(who.site, file, db);
      await tell(
        who.site,
        who.id,
        { kind: "settings", says: t("Place data was removed: {name}", { name: name ?? file }) },
        db,
      );
    }),
  ),
  /** Takes up the pages of a sitemap: of a file, or of the site's own. */
  readPageList: action("build", [z.string().max(55_000_000).nullable()], (who, xml) =>
    readPages(who.site, xml ?? undefined, who.id),
  ),
  dropPages: action("build", [z.array(z.string().max(2000)).min(1).max(1000)], (who, paths) =>
    changeList(who.site, "pages", async (db) => {
      await removePages(who.site, paths, db);
      await tell(
        who.site,
        who.id,
        {
          kind: "settings",
          says:
            paths.length === 1
              ? t("The page {path} was taken off the list", { path: paths[0] })
              : t("{paths} pages were taken off the list", { paths: paths.length }),
          before: { pages: paths },
        },
        db,
      );
      return undefined;
    }),
  ),
};
