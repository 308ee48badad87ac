import { t } from "@/core/messages/t";
import * as z from "zod";
import { id } from "@/core/formats/basics";
import { setAdministrator } from "@/data/accounts";
import { allSites, transaction } from "@/data/pool";
import { installationAction, Refusal } from "../act";
import { asPerson } from "../members";
import { archiveSite, makeSite, newSiteSchema, removeSite, sitesNow } from "../sites";

/** What is asked of the installation as a whole: sites, and who keeps them. */
export const installationActions = {
  sites: installationAction("signed in", [], sitesNow),
  /** Makes a site. An administrator's; a copy is of a site that one may see. */
  makeSite: installationAction("administrator", [newSiteSchema], async (who, input) => {
    if (input.copyOf && !(await asPerson(who, input.copyOf))) throw new Refusal(404, t("There is no such site."));
    return makeSite(who, input);
  }),
  archiveSite: installationAction("administrator", [id, z.boolean()], archiveSite),
  /** Deletes a site for good. The name is typed once more. */
  deleteSite: installationAction("administrator", [id, z.string().max(200)], (_who, site, name) =>
    removeSite(site, name),
  ),
  /** Makes somebody an administrator, or no longer one. A problem in words, or nothing. */
  setAdministrator: installationAction("administrator", [id, z.boolean()], (_who, account, administrator) =>
    transaction(allSites, async (db) =>
      (await setAdministrator(account, administrator, db))
        ? undefined
        : t("Somebody must keep the installation: at least one administrator stays."),
    ),
  ),
};
export type InstallationActions = {
  [K in keyof typeof installationActions]: (typeof installationActions)[K] extends {
    run: (who: never, ...args: infer A) => Promise<infer R>;
  }
    ? (...args: A) => Promise<R>
    : never;
};
