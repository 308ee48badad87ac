import { t } from "@/core/messages/t";
import { headers } from "next/headers";
import * as z from "zod";
import { id } from "@/core/formats/basics";
import { collectSchema } from "@/core/formats/collect";
import { lensSchema } from "@/core/formats/lens";
import { checkSchema } from "@/core/formats/check";
import { visitSchema } from "@/core/formats/visit";
import { parseAddress } from "@/core/visit/address";
import { tell } from "@/data/audit";
import { deleteCheck, listChecks, saveChecks } from "@/data/checks";
import { deleteLens, readLens, saveLens } from "@/data/lenses";
import { endShare, listShares, makePass, makeShare, type LookSource } from "@/data/passes";
import { siteLookup } from "@/data/places";
import { forgetDrift } from "@/data/drift";
import { of, transaction } from "@/data/pool";
import { mirrorOf, wayTo } from "../way";
import { action, Refusal } from "../act";
import { heardOf, lookAtConnection, type Connection } from "../connection";
import { driftNow, lookAgain } from "../drift";
import { askPage } from "../ask-page";
import { changeList } from "../lists";
import { readFacts, suggestCollect, tryCollect } from "../page-facts";
import { readGuides } from "../help";
import { searchPlace } from "../place-search";
import { shareAddresses } from "../share-addresses";

const source = z.custom<LookSource>(
  (value) => typeof value === "string" && /^(draft|live|(release|review) \d{1,9})$/.test(value),
);
const lookSchema = z.strictObject({
  visit: visitSchema,
  source,
  pins: z.record(z.string(), z.string().nullable()),
  popup: z.string().nullable().optional(),
  plain: z.boolean().optional(),
});
const shareSchema = z.strictObject({
  look: lookSchema,
  title: z.string().trim().min(1).max(200),
  minutes: z.number().int().min(5).max(20_160),
});

/** Looking at the site through lenses, and checks: everybody's. */
export const lookingActions = {
  /** A pass with which the page frame may show what a lens sees; bound to the session that asks. */
  pass: action("signed in", [lookSchema], (who, look) => makePass(who.site, who.session, look)),
  /** Keeps lenses, all or none. */
  keepLenses: action("signed in", [z.array(lensSchema).min(1).max(500)], (who, lenses) =>
    changeList(who.site, "lenses", async (db) => {
      for (const lens of lenses) await saveLens(who.site, lens, db);
      const [only, ...more] = lenses;
      const says =
        only && more.length === 0
          ? t("The lens {only} was kept", { only: only.name })
          : t("{lenses} lenses were kept", { lenses: lenses.length });
      await tell(who.site, who.id, { kind: "lenses", says }, db);
      return lenses;
    }),
  ),
  dropLens: action("signed in", [id], (who, lens) =>
    changeList(who.site, "lenses", async (db) => {
      const before = await readLens(who.site, lens, db);
      await deleteLens(who.site, lens, db);
      await tell(
        who.site,
        who.id,
        { kind: "lenses", says: t("The lens {before} was deleted", { before: before?.name ?? lens }) },
        db,
      );
      return undefined;
    }),
  ),
  /** A link by which a look can be seen from elsewhere, at each address of this machine. */
  share: action("signed in", [shareSchema], (who, { look, title, minutes }) =>
    transaction(who.site, async (db) => {
      const name = await makeShare(who.site, { session: who.session, madeBy: who.id }, look, title, minutes, db);
      await tell(who.site, who.id, { kind: "lenses", says: t("“{title}” was shared by link", { title }) }, db);
      return { id: name, links: shareAddresses().map((address) => `${address}/shared/${name}`) };
    }),
  ),
  /** The shared links that are open, whoever made them. */
  shares: action("signed in", [], (who) => listShares(who.site)),
  /** Ends one, whoever made it. */
  unshare: action("signed in", [z.string().max(40)], (who, share) =>
    transaction(who.site, async (db) => {
      const title = await endShare(who.site, share, db);
      if (title !== undefined)
        await tell(
          who.site,
          who.id,
          { kind: "lenses", says: t("The shared link of “{title}” was ended", { title }) },
          db,
        );
    }),
  ),
  /** What the server knows of whoever asks: for a lens that sees as this browser does now. */
  askerAddress: action("signed in", [], async () => {
    const address = (await headers()).get("x-mirada-peer") ?? "";
    return parseAddress(address) ? address : undefined;
  }),
  /** The guides, to be read inside the product. */
  guides: action("signed in", [], () => readGuides()),
  /** By which way a page is looked at (path and query), and why. */
  wayTo: action("signed in", [z.string().startsWith("/").max(4000)], (who, path) =>
    wayTo(who.site, path, { session: who.session }),
  ),
  /** The mirror, whatever else would lead there. */
  mirror: action("signed in", [], (who) => mirrorOf(who.site, { session: who.session })),
  /** On which pages of the site a selector finds its place, as the server gets them. */
  searchPlace: action("signed in", [z.string().max(1000), z.string().max(4000)], (who, selector, here) =>
    searchPlace(who.site, selector, here),
  ),
  /** What an entry of `collect` reads on the pages of the site. */
  tryCollect: action("signed in", [collectSchema], (who, entry) => tryCollect(who.site, entry)),
  /** What the pages tell by open standards, and is not collected yet. */
  suggestCollect: action("signed in", [], (who) => suggestCollect(who.site)),
  /** Reads title and facts of the pages anew. */
  readFacts: action("slots", [], (who) => readFacts(who.site)),
  /** Looks whether the site is connected: at its pages as they are served just now. */
  connection: action("signed in", [], async (who): Promise<Connection> => {
    const found = await lookAtConnection(who.site);
    if (!found) throw new Refusal(404, t("There is no such site."));
    return found;
  }),
  /** Where the tag was heard from. */
  heard: action("signed in", [], (who) => heardOf(who.site)),
  /** Where the pages have changed under what is live. */
  drift: action("signed in", [], (who) => driftNow(who.site)),
  /** Looks at the pages anew. */
  lookAtPages: action("signed in", [], (who) => lookAgain(who.site)),
  /** Forgets what visitors' pages told of a place: it is told again if it is still so. */
  forgetDrift: action(
    "slots",
    [z.strictObject({ path: z.string().max(4000), slot: z.string().max(200), variant: z.string().max(200) })],
    async (who, place) => {
      await forgetDrift(who.site, place, of(who.site));
      return driftNow(who.site);
    },
  ),
  /** Where an address is, by the site's place data; null if it is not known. */
  placeOf: action("signed in", [z.string().max(100)], async (who, ip) => {
    const address = parseAddress(ip);
    return address ? ((await siteLookup(who.site))(address) ?? null) : null;
  }),
  /** The places of addresses, in their order; null where one is not known. For replays: the log itself stays in the browser. */
  placesOf: action("signed in", [z.array(z.string().max(45)).max(20_000)], async (who, addresses) => {
    const lookup = await siteLookup(who.site);
    return addresses.map((text) => {
      const address = parseAddress(text);
      return (address && lookup(address)) ?? null;
    });
  }),
  /** Keeps checks, all or none. */
  keepChecks: action("signed in", [z.array(checkSchema).max(500)], (who, checks) =>
    changeList(who.site, "checks", async (db) => {
      const [only] = checks;
      if (!only) return undefined;
      await saveChecks(who.site, checks, db);
      const says =
        checks.length === 1
          ? t("The check {only} was kept", { only: only.name })
          : t("{checks} checks were kept", { checks: checks.length });
      await tell(who.site, who.id, { kind: "checks", says }, db);
      return checks;
    }),
  ),
  dropCheck: action("signed in", [id], (who, check) =>
    changeList(who.site, "checks", async (db) => {
      const before = (await listChecks(who.site, db)).find((item) => item.id === check);
      await deleteCheck(who.site, check, db);
      await tell(
        who.site,
        who.id,
        { kind: "checks", says: t("The check {before} was deleted", { before: before?.name ?? check }) },
        db,
      );
      return undefined;
    }),
  ),
  /**
   * What the running site answers to a check's visitor: a real request through the same door as any visitor's, with a preview
   * pass that tells who asks. What stands in the page; undefined if the site could not be asked.
   */
  askSite: action("signed in", [checkSchema, source], async (who, check, from) => {
    const name = await makePass(who.site, who.session, { visit: check.visit, source: from, pins: {} });
    return askPage(who.site, new URL(check.visit.url).pathname, name);
  }),
};
