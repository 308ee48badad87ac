/** What a new site begins with: alone, or as a copy of another. */
import { t } from "../messages/t";
import type { Check } from "../formats/check";
import type { Lens } from "../formats/lens";
import type { Site } from "../formats/ruleset";
import { siteDraftSchema, type SiteDraft } from "../formats/site-draft";

/** The draft of a site on which nothing has been made yet: two kinds of blocks to write versions with. */
export const newDraft = (site: Site): SiteDraft =>
  siteDraftSchema.parse({
    format: "mirada-ruleset/1",
    site,
    blockTypes: [
      {
        id: "message",
        name: t("Message"),
        fields: [
          { id: "headline", name: t("Headline"), kind: "line" },
          { id: "text", name: t("Text"), kind: "html" },
          { id: "picture", name: t("Picture"), kind: "image" },
          { id: "button", name: t("Button"), kind: "line" },
          { id: "link", name: t("Link"), kind: "link" },
        ],
      },
      {
        id: "notice",
        name: t("Notice in a line"),
        fields: [
          { id: "text", name: t("Text"), kind: "line" },
          { id: "link", name: t("Link"), kind: "link" },
        ],
      },
    ],
  });

/** Another site's draft as the start of this one: everything but what the site is. */
export const copiedDraft = (site: Site, from: SiteDraft): SiteDraft => ({ ...structuredClone(from), site });

const moved = (url: string, from: string, to: string): string =>
  url.startsWith(`${from}/`) ? `${to}${url.slice(from.length)}` : url;

/** A lens of one site, looking at another: at the same path. `from` and `to` are origins. */
export const movedLens = (lens: Lens, from: string, to: string): Lens => ({
  ...lens,
  visit: { ...lens.visit, url: moved(lens.visit.url, from, to) },
});
/** A check of one site, for another: its visitor comes to the same path, and is sent on within that site. */
export const movedCheck = (check: Check, from: string, to: string): Check => ({
  ...check,
  visit: { ...check.visit, url: moved(check.visit.url, from, to) },
  expect: "redirect" in check.expect ? { redirect: moved(check.expect.redirect, from, to) } : check.expect,
});

/** The id that a name suggests: of its letters and digits, so that an address shows what it is. */
export const idOfName = (name: string): string =>
  name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40)
    .replace(/-+$/, "");
