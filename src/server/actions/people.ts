import { t } from "@/core/messages/t";
import * as z from "zod";
import { id } from "@/core/formats/basics";
import { mayAs, roles } from "@/core/people/roles";
import { readAudit } from "@/data/audit";
import { beHere, whoIsHere } from "@/data/sessions";
import { action, Refusal } from "../act";
import {
  changePassword,
  changeRoles,
  inviteSomebody,
  letGo,
  peopleNow,
  signOutSession,
  takeInvitationBack,
} from "../people";
import { deskNow } from "../desk";
import { listNames } from "@/data/lists";
import { readPart } from "../lists";
import { sitesOf } from "../sites";
import { asPerson } from "../members";

const someRoles = z.array(z.enum(roles)).min(1).max(roles.length);

/** Who works here, who is here, and what was done. */
export const peopleActions = {
  people: action("signed in", [], (who) => peopleNow(who, mayAs(who, "people"))),
  /** Invites somebody, to this site and to others whose people one keeps, too. */
  invite: action(
    "people",
    [z.string().trim().min(1).max(80), someRoles, z.array(id).max(200)],
    async (who, name, own, others) => {
      for (const site of others) {
        const there = await asPerson(who, site);
        if (!there || !mayAs(there, "people"))
          throw new Refusal(403, t("The people of {site} are not yours to invite.", { site }));
      }
      return inviteSomebody(who, name, own, others);
    },
  ),
  /** The other sites whose people one keeps. */
  otherSites: action("signed in", [], async (who) => {
    const sites = await sitesOf(who);
    const kept = [];
    for (const site of sites) {
      const there = site.id === who.site || site.archivedAt ? undefined : await asPerson(who, site.id);
      if (there && mayAs(there, "people")) kept.push({ id: site.id, name: site.name });
    }
    return kept;
  }),
  dropInvitation: action("people", [z.string().max(60)], takeInvitationBack),
  setRoles: action("people", [id, someRoles], changeRoles),
  letGo: action("people", [id, z.boolean()], letGo),
  endSession: action("signed in", [z.string().max(60)], (who, session) =>
    signOutSession(who, session, mayAs(who, "people")),
  ),
  changePassword: action("signed in", [z.string().max(200), z.string().max(200)], changePassword),
  /** The audit trail, newest first, below a number. */
  audit: action(
    "signed in",
    [
      z.strictObject({
        below: z.number().int().optional(),
        person: z.string().max(80).optional(),
        kind: z.string().max(40).optional(),
        words: z.array(z.string().max(100)).max(20).optional(),
      }),
    ],
    (who, wanted) => readAudit(who.site, wanted),
  ),
  /** Tells at which screen one is, and answers who else is here. */
  here: action("signed in", [z.string().max(200)], async (who, screen) => {
    await beHere(who.site, who.session, screen);
    return whoIsHere(who.site);
  }),
  /** What has changed on the desk since a version of the draft and a mark of what is live. */
  news: action("signed in", [z.number().int(), z.string().max(500)], deskNow),
  /** A part of one of the site's lists: what comes after so many. */
  list: action("signed in", [z.enum(listNames), z.number().int().min(0).max(10_000_000)], (who, name, from) =>
    readPart(who.site, name, from),
  ),
};
