import { t } from "@/core/messages/t";
import { randomBytes } from "node:crypto";
import * as z from "zod";
import { linkSchema, linkText, type CampaignLink } from "@/core/campaigns/link";
import { id } from "@/core/formats/basics";
import { tell } from "@/data/audit";
import { deliverySettings, saveDelivery } from "@/data/delivery";
import { transaction } from "@/data/pool";
import { deleteLink, listLinks, saveLinks } from "@/data/links";
import { action } from "../act";
import { changeList } from "../lists";

/** Links as the audit trail tells them: by name, with where they lead and what is noted. */
const linksInWords = (links: readonly CampaignLink[]): Record<string, string> =>
  Object.fromEntries(
    links.map((link) => [link.name, [linkText(link, ""), link.usedBy, link.note].filter(Boolean).join(" · ")]),
  );

/** Sending people, and what came of it. */
export const sendingActions = {
  /** Keeps links, all or none. */
  keepLinks: action("content", [z.array(linkSchema).min(1).max(2000)], (who, links) =>
    changeList(who.site, "links", async (db) => {
      const before = new Map((await listLinks(who.site, db)).map((link) => [link.id, link]));
      await saveLinks(who.site, links, db);
      const [only] = links;
      const says =
        links.length === 1 && only
          ? t("The link “{only}” was {only2}", {
              only: only.name,
              only2: before.has(only.id) ? t("changed") : t("made"),
            })
          : t("{links} links were read from a file", { links: links.length });
      const old = links.flatMap((link) => before.get(link.id) ?? []);
      await tell(who.site, who.id, { kind: "links", says, before: linksInWords(old), after: linksInWords(links) }, db);
      return links;
    }),
  ),
  dropLink: action("content", [id], (who, link) =>
    changeList(who.site, "links", async (db) => {
      const before = (await listLinks(who.site, db)).find((item) => item.id === link);
      await deleteLink(who.site, link, db);
      await tell(
        who.site,
        who.id,
        { kind: "links", says: t("The link “{before}” was deleted", { before: before?.name ?? link }) },
        db,
      );
      return undefined;
    }),
  ),
  /** The secret part of the calendar's address; null: nobody has asked for one yet. */
  calendar: action("signed in", [], async (who) => (await deliverySettings(who.site)).calendarKey),
  /** Gives the calendar a new address: the old one is gone at once. */
  renewCalendar: action("build", [], async (who) => {
    const key = randomBytes(18).toString("base64url");
    await transaction(who.site, async (db) => {
      await saveDelivery(who.site, "calendarKey", key, db);
      await tell(who.site, who.id, { kind: "settings", says: t("The calendar got a new address") }, db);
    });
    return key;
  }),
};
